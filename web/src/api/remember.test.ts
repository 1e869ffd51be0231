import { QueryClient } from "@tanstack/react-query";
import { beforeEach, expect, it, vi } from "vitest";

const shelf = vi.hoisted(() => new Map<string, unknown>());
vi.mock("idb-keyval", () => ({
  get: (key: string) => Promise.resolve(shelf.get(key)),
  set: (key: string, x: unknown) => Promise.resolve(shelf.set(key, x)),
  del: (key: string) => Promise.resolve(shelf.delete(key)),
}));

import type { Due } from "./live";
import { lastDue, rememberDue, remembering } from "./remember";

beforeEach(() => {
  shelf.clear();
  vi.useFakeTimers();
  vi.setSystemTime(new Date("2026-05-15T18:00:00Z"));
});

const due = (at: string) => ({ at }) as Due;
const day = 24 * 3600_000;

it("remembers what was told last, by the server's clock, for a night and no longer", async () => {
  const skew = -90_000;
  rememberDue("tonight", due("2026-05-15T17:58:30Z"), skew);
  expect((await lastDue("tonight"))?.skew).toBe(skew);
  expect(await lastDue("tomorrow")).toBeUndefined();
  vi.setSystemTime(Date.now() + day - 1);
  expect(await lastDue("tonight")).toBeDefined();
  vi.setSystemTime(Date.now() + 1);
  expect(await lastDue("tonight")).toBeUndefined();
});

it("writes it down every few seconds, however often it is told", async () => {
  vi.setSystemTime(Date.now() + day);
  rememberDue("tonight", due("2026-05-16T18:00:00Z"), 0);
  vi.setSystemTime(Date.now() + 4999);
  rememberDue("tonight", due("2026-05-16T18:00:04Z"), 0);
  expect((await lastDue("tonight"))?.due.at).toBe("2026-05-16T18:00:00Z");
  vi.setSystemTime(Date.now() + 1);
  rememberDue("tonight", due("2026-05-16T18:00:05Z"), 0);
  expect((await lastDue("tonight"))?.due.at).toBe("2026-05-16T18:00:05Z");
});

it("remembers who is here, the house and the services, and nothing else that was asked for", () => {
  const queries = new QueryClient();
  for (const key of ["session", "house", "services", "dishes", "fire"]) queries.setQueryData([key], {});
  const kept = queries
    .getQueryCache()
    .getAll()
    .filter((q) => remembering.dehydrateOptions?.shouldDehydrateQuery?.(q))
    .map((q) => q.queryKey[0]);
  expect(kept).toEqual(["session", "house", "services"]);
});
