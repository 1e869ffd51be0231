import { describe, expect, it } from "vitest";
import { endFor, fromShare, moveMark, snap, stepAt, toShare } from "./waits";

describe("the axis of a wait", () => {
  it("comes back from a share to the time", () => {
    for (const end of [600, 7200, 86400])
      for (const s of [0, 5, 60, end / 2, end]) expect(fromShare(toShare(s, end), end)).toBeCloseTo(s, 6);
  });
  it("ends where the time has room to grow", () => {
    expect(endFor(0)).toBe(600);
    expect(endFor(428)).toBe(600);
    expect(endFor(429)).toBe(1800);
    expect(endFor(1e9)).toBe(60 * 86400);
  });
  it("keeps within its ends", () => {
    expect(toShare(1e9, 600)).toBe(1);
    expect(fromShare(2, 600)).toBeCloseTo(600);
    expect(fromShare(-1, 600)).toBe(0);
  });
});

describe("a mark", () => {
  it.each([
    [0, 5],
    [119, 5],
    [120, 30],
    [599, 30],
    [600, 60],
    [3600, 600],
    [21_600, 1800],
    [172_800, 21_600],
  ])("at %d s moves by %d s", (s, step) => expect(stepAt(s)).toBe(step));
  it("snaps to what a cook would say", () => {
    expect(snap(62)).toBe(60);
    expect(snap(3700)).toBe(3600);
  });
  it("makes the others give way", () => {
    const m = { shortest: 60, best: 120, longest: 240 };
    expect(moveMark(m, "shortest", 300)).toEqual({ shortest: 300, best: 300, longest: 300 });
    expect(moveMark(m, "best", 30)).toEqual({ shortest: 30, best: 30, longest: 240 });
    expect(moveMark(m, "longest", 90)).toEqual({ shortest: 60, best: 90, longest: 90 });
    expect(moveMark(m, "longest", -5)).toEqual({ shortest: 0, best: 0, longest: 0 });
    expect(moveMark({ shortest: 0, best: undefined, longest: undefined }, "shortest", 9)).toEqual({
      shortest: 9,
      best: undefined,
      longest: undefined,
    });
  });
});
