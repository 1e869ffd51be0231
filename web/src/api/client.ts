import createClient from "openapi-fetch";
import { watch } from "./outcome";
import { patienceFor } from "./patience";
import { Problem, unreached } from "./problem";
import { notReached, reached } from "./reach";
import { notSignedIn } from "./session";
import type { components, paths } from "./schema";

export { Problem };
export type Schemas = components["schemas"];

export const api = createClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request: Request) =>
    fetch(request, {
      signal: AbortSignal.any([
        request.signal,
        AbortSignal.timeout(patienceFor(new URL(request.url).pathname)),
      ]),
    }),
});
type Answer<T> = { data?: T; error?: unknown; response: Response };

// settle turns an answer into data or a Problem; a dead line, and a server that does not
// answer in time, is status 0.
export function settle<T>(call: Promise<Answer<T>>): Promise<T> {
  return watch(settled(call));
}

async function settled<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    notReached();
    throw new Problem(0, unreached);
  }
  reached();
  if (answer.response.status === 401) notSignedIn();
  if (answer.response.status === 204) return undefined as T;
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
    answer = await fetch(path, { method, body });
  } catch {
    throw new Problem(0, unreached);
  }
  if (answer.ok) return;
  const p = (await answer.json().catch(() => ({}))) as { detail?: string };
  throw new Problem(answer.status, p.detail ?? answer.statusText);
}
