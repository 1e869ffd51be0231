import { describe, expect, it } from "vitest";
import { merge, same } from "./merge";

const base = {
  name: "Hake",
  steps: [
    { id: "pan", s: 180 },
    { id: "oven", s: 240 },
  ],
  notes: ["a", "b"],
  hold: { shortest: 0, longest: 60 as number | undefined },
};
const copy = () => structuredClone(base);

describe("merge", () => {
  it("keeps both of two edits of different fields", () => {
    const mine = { ...copy(), name: "Line hake" };
    const now = copy();
    now.hold.shortest = 30;
    expect(merge(base, mine, now)).toEqual({ ...now, name: "Line hake" });
  });
  it("keeps both of two edits inside one list", () => {
    const mine = copy();
    mine.steps[0]!.s = 200;
    mine.notes[1] = "c";
    const now = copy();
    now.steps[1]!.s = 300;
    now.notes[0] = "z";
    const out = merge(base, mine, now);
    expect(out.steps.map((x) => x.s)).toEqual([200, 300]);
    expect(out.notes).toEqual(["z", "c"]);
  });
  it("keeps what was added and takes out what was taken out, by either", () => {
    const mine = copy();
    mine.steps.push({ id: "rest", s: 60 });
    const now = copy();
    now.steps.shift();
    now.steps.push({ id: "salt", s: 5 });
    expect(merge(base, mine, now).steps.map((x) => x.id)).toEqual(["oven", "rest", "salt"]);
    expect(merge(base, now, mine).steps.map((x) => x.id)).toEqual(["oven", "salt", "rest"]);
  });
  it("keeps what was edited even where it was taken out meanwhile", () => {
    const mine = copy();
    mine.steps[0]!.s = 1;
    const now = copy();
    now.steps.shift();
    expect(merge(base, mine, now).steps).toEqual([
      { id: "pan", s: 1 },
      { id: "oven", s: 240 },
    ]);
  });
  it("takes the later word where both changed the same", () => {
    expect(merge(base, { ...copy(), name: "A" }, { ...copy(), name: "B" }).name).toBe("A");
  });
  it("takes away a field that was cleared", () => {
    const mine = copy();
    mine.hold.longest = undefined;
    const now = { ...copy(), name: "B" };
    const out = merge(base, mine, now);
    expect(out.hold).toEqual({ shortest: 0 });
    expect(out.name).toBe("B");
  });
  it("takes my list where it is of another length and has no ids", () => {
    const mine = { ...copy(), notes: ["a"] };
    expect(merge(base, mine, { ...copy(), notes: ["a", "x"] }).notes).toEqual(["a"]);
  });
  it("is nothing where nothing was changed", () => {
    const now = { ...copy(), name: "B" };
    expect(merge(base, copy(), now)).toBe(now);
    expect(merge(base, now, copy())).toBe(now);
  });
});

describe("same", () => {
  it.each([
    [1, 1, true],
    [1, "1", false],
    [NaN, NaN, true],
    [{ a: undefined }, {}, true],
    [{ a: null }, {}, false],
    [[1, 2], [1, 2], true],
    [[1, 2], [2, 1], false],
    [[], {}, false],
    [null, undefined, false],
  ])("%j and %j: %s", (a, b, is) => expect(same(a, b)).toBe(is));
});
