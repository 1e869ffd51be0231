// Problem is what the server says when it refuses: RFC 9457, with the path of
// each fault.
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly faults: { path: string; message: string }[] = [],
  ) {
    super(detail);
  }
}
