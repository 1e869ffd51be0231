import { beforeEach, describe, expect, it, vi } from "vitest";

const { post, shelf } = vi.hoisted(() => ({ post: vi.fn(), shelf: new Map<string, unknown>() }));
vi.mock("./client", () => ({ api: { POST: post }, settle: (x: unknown) => x }));
vi.mock("idb-keyval", () => ({
  get: (key: string) => Promise.resolve(shelf.get(key)),
  update: (key: string, change: (old: unknown) => unknown) => {
    shelf.set(key, change(shelf.get(key)));
    return Promise.resolve();
  },
  set: () => Promise.resolve(),
}));

interface Sent {
  id: string;
  kind: string;
  kept?: boolean;
}
const sent = () =>
  post.mock.calls.map((c) => (c[1] as { body: { events: Sent[] } }).body.events.map((e) => e.kind).join(" "));
const took = (n: number) => ({
  seq: n,
  taken: (post.mock.lastCall?.[1] as { body: { events: Sent[] } }).body.events.map((e) => ({
    id: e.id,
    as: "taken",
  })),
});

// fresh is what sends taps, as on a page that was just loaded.
async function fresh() {
  vi.resetModules();
  return (await import("./taps")).taps;
}

beforeEach(() => {
  vi.useFakeTimers();
  post.mockReset();
  shelf.clear();
  const kept = new Map<string, string>();
  vi.stubGlobal("window", {
    localStorage: {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, v: string) => kept.set(k, v),
    },
    setTimeout: globalThis.setTimeout,
    clearTimeout: globalThis.clearTimeout,
  });
});

const hake = { kind: "fired" as const, task: "hake" };

describe("taps", () => {
  it("are written down before they are sent, and dropped when the server has them", async () => {
    post.mockImplementation(() => Promise.resolve(took(1)));
    const taps = await fresh();
    await taps.tap("tonight", hake);
    expect(shelf.get("taps")).toHaveLength(1);
    await vi.waitFor(() => expect(taps.read().kept).toHaveLength(0));
    expect(shelf.get("taps")).toHaveLength(0);
  });

  it("are one tap where a finger comes down twice, until it is taken back", async () => {
    post.mockImplementation(() => Promise.resolve(took(1)));
    const taps = await fresh();
    const id = await taps.tap("tonight", hake);
    expect(await taps.tap("tonight", hake)).toBe(id);
    expect(await taps.tap("tonight", { ...hake, task: "leek" })).not.toBe(id);
    await taps.tap("tonight", { kind: "undone", undoes: id });
    expect(await taps.tap("tonight", hake)).not.toBe(id);
    await vi.waitFor(() => expect(taps.read().kept).toHaveLength(0));
    const again = await taps.tap("tonight", { kind: "more", task: "hake", minutes: 1 });
    expect(await taps.tap("tonight", { kind: "more", task: "hake", minutes: 1 })).not.toBe(again);
  });

  it("may be said again a moment later", async () => {
    post.mockImplementation(() => Promise.resolve(took(1)));
    const taps = await fresh();
    const id = await taps.tap("tonight", hake);
    const before = Date.now();
    await vi.waitFor(() => expect(taps.read().kept).toHaveLength(0));
    const after = Date.now();
    vi.setSystemTime(before + 1499);
    expect(await taps.tap("tonight", hake)).toBe(id);
    vi.setSystemTime(after + 1500);
    expect(await taps.tap("tonight", hake)).not.toBe(id);
  });

  it("are kept while the line is cut, said to have been, and sent in their order", async () => {
    post.mockImplementation(() => Promise.reject(new Error("no line")));
    const taps = await fresh();
    await taps.tap("tonight", hake);
    await vi.waitFor(() => expect(taps.read().kept[0]?.kept).toBe(true));
    await taps.tap("tonight", { kind: "ready", task: "hake" });
    post.mockImplementation(() => Promise.resolve(took(2)));
    await vi.advanceTimersByTimeAsync(3000);
    await vi.waitFor(() => expect(taps.read().kept).toHaveLength(0));
    expect(sent().at(-1)).toBe("fired ready");
  });

  it("that were kept are one tap until a moment after the server has them", async () => {
    post.mockImplementation(() => Promise.reject(new TypeError("the line is cut")));
    const taps = await fresh();
    const id = await taps.tap("tonight", hake);
    await vi.waitFor(() => expect(taps.read().kept[0]?.kept).toBe(true));
    await vi.advanceTimersByTimeAsync(2000);
    expect(await taps.tap("tonight", hake)).toBe(id);
    post.mockImplementation(() => Promise.resolve(took(1)));
    taps.send();
    await vi.waitFor(() => expect(taps.read().kept).toHaveLength(0));
    expect(await taps.tap("tonight", hake)).toBe(id);
    await vi.advanceTimersByTimeAsync(1500);
    expect(await taps.tap("tonight", hake)).not.toBe(id);
  });

  it("that an earlier visit left are said to have been kept, though nobody saw the line cut", async () => {
    post.mockImplementation(() => new Promise(() => undefined)); // no answer before the page goes
    await (await fresh()).tap("tonight", hake);
    expect(shelf.get("taps")).toHaveLength(1);
    post.mockReset();
    post.mockImplementation(() => Promise.resolve(took(1)));
    const taps = await fresh();
    await taps.start();
    await vi.waitFor(() => expect(taps.read().kept).toHaveLength(0));
    const events = (post.mock.lastCall?.[1] as { body: { events: Sent[] } }).body.events;
    expect(events.map((e) => [e.kind, e.kept])).toEqual([["fired", true]]);
  });

  it("that nobody understands take none of the others with them", async () => {
    post.mockImplementation((_: string, o: { body: { events: Sent[] } }) =>
      o.body.events.some((e) => e.kind === "ordered")
        ? Promise.reject(Object.assign(new Error("not on the menu"), { status: 422 }))
        : Promise.resolve(took(1)),
    );
    const taps = await fresh();
    await Promise.all([
      taps.tap("tonight", { kind: "ordered", table: "table-7", course: "main", plates: [] }),
      taps.tap("tonight", hake),
    ]);
    await vi.waitFor(() => expect(taps.read().kept).toHaveLength(0));
    expect(sent()).toContain("fired");
    expect(taps.read().no?.said?.text).toBe("not on the menu");
  });
});
