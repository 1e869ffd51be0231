import { describe, expect, it } from "vitest";
import { ticks } from "./scale";

describe("ticks", () => {
  it("begins at the join and goes back in steps that can be read", () => {
    // An hour over 600 pixels: ten minutes are 100 pixels, five are 50.
    expect(ticks(-3600, 600, 74)).toEqual([0, -600, -1200, -1800, -2400, -3000, -3600]);
    expect(ticks(-3600, 600, 50)[1]).toBe(-300);
    expect(ticks(-3600, 600, 50.1)[1]).toBe(-600);
  });
  it("takes the largest step where nothing is far enough apart", () => {
    expect(ticks(-36_000, 10, 74)).toEqual([0, -14_400, -28_800]);
  });
});
