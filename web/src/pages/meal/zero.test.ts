import { describe, expect, it } from "vitest";
import { ticks, zero, zeroSeconds } from "./zero";

describe("the clock from zero", () => {
  it("counts hours and minutes, and seconds where there are any", () => {
    expect(zero(0)).toBe("0:00");
    expect(zero(59)).toBe("0:00");
    expect(zero(60)).toBe("0:01");
    expect(zero(3600)).toBe("1:00");
    expect(zero(5 * 3600 + 7 * 60)).toBe("5:07");
    expect(zeroSeconds(90)).toBe("0:01:30");
    expect(zeroSeconds(120)).toBe("0:02");
  });
  it("marks no more often than there is room", () => {
    expect(ticks(3600, 800)).toEqual([0, 600, 1200, 1800, 2400, 3000, 3600]);
    expect(ticks(3600, 300)).toHaveLength(5);
    for (const hours of [1, 3, 7, 20]) {
      const marks = ticks(hours * 3600, 700);
      expect(700 / (marks.length - 1)).toBeGreaterThanOrEqual(40);
    }
  });
});
