import createClient from "openapi-fetch";
import { person } from "../ui/who";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export const api = createClient<paths>({ baseUrl: window.location.origin });
api.use({
  onRequest({ request }) {
    if (person()) request.headers.set("X-Person", person());
    return request;
  },
});

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

type Answer<T> = { data?: T; error?: unknown; response: Response };

// settle turns an answer into data or a Problem; a dead line is status 0.
export async function settle<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Problem(0, "offline");
  }
  if (answer.data !== undefined) return answer.data;
  const p = (answer.error ?? {}) as { detail?: string; errors?: { location?: string; message?: string }[] };
  throw new Problem(
    answer.response.status,
    p.detail ?? answer.response.statusText,
    (p.errors ?? []).map((e) => ({ path: e.location ?? "", message: e.message ?? "" })),
  );
}

// sendFile puts a file where the contract has no words for its body.
export async function sendFile(path: string, method: "PUT" | "DELETE", body?: Blob): Promise<void> {
  let answer: Response;
  try {
    answer = await fetch(path, { method, body, headers: person() ? { "X-Person": person() } : {} });
  } catch {
    throw new Problem(0, "offline");
  }
  if (answer.ok) return;
  const p = (await answer.json().catch(() => ({}))) as { detail?: string };
  throw new Problem(answer.status, p.detail ?? answer.statusText);
}
