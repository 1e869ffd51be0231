import type { Problem } from "./problem";

// What a field starts when it is left is watched, so that the field knows how it ended:
// every call that is begun while collect runs its function is counted to it.
let collector: Promise<Problem | null>[] | null = null;

// watch counts a call to the field that began it.
export function watch<T>(call: Promise<T>): Promise<T> {
  collector?.push(
    call.then(
      () => null,
      (e: unknown) => e as Problem,
    ),
  );
  return call;
}

// collect runs f and answers with the first problem of what it began, null when all went well.
export function collect(f: () => void): Promise<Problem | null> {
  const mine: Promise<Problem | null>[] = [];
  const outer = collector;
  collector = mine;
  try {
    f();
  } finally {
    collector = outer;
  }
  return Promise.all(mine).then((list) => list.find((p) => p !== null) ?? null);
}
