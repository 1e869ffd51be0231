import { text } from "../text";

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

// conflicted: somebody else changed the thing meanwhile.
export const conflicted = (e: unknown) => e instanceof Problem && e.status === 409;

// refused: what was asked for cannot be, and asking again changes nothing.
export const refused = (e: unknown) => e instanceof Problem && e.status === 422;

// unreached is the message of a problem of status 0: nobody answered.
export const unreached = "offline";

// whyOf says a problem: in the words of its faults, where there are any.
export const whyOf = (p: Error) =>
  (p instanceof Problem && p.faults.map((f) => f.message).join(". ")) ||
  (p.message === unreached ? text.errors.offline : p.message);
