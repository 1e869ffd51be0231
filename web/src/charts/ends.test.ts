import { describe, expect, it } from "vitest";
import { moveEnd, stepOf, touchesIn } from "./ends";

const ends = { in_s: 25, out_s: 30 };

describe("the hands at the ends of a step", () => {
  it("move by what a cook would say", () => {
    expect([119, 120, 899, 900].map(stepOf)).toEqual([1, 5, 5, 15]);
    expect(moveEnd(ends, "in", 42, 240)).toEqual({ in_s: 40, out_s: 30 });
    expect(moveEnd(ends, "out", 43, 240)).toEqual({ in_s: 25, out_s: 45 });
    expect(moveEnd({ ...ends, in_each_s: 6 }, "in", 9, 100)).toEqual({ in_s: 9, out_s: 30, in_each_s: 6 });
  });

  it("are never less than nothing, and together not longer than the step", () => {
    expect(moveEnd(ends, "in", -20, 240).in_s).toBe(0);
    expect(moveEnd(ends, "in", 500, 240).in_s).toBe(210);
    expect(moveEnd(ends, "out", 500, 240).out_s).toBe(215);
    expect(moveEnd({ in_s: 300, out_s: 0 }, "out", 10, 240).out_s).toBe(0);
  });

  it("stand inside it where they are said to be, and not outside it", () => {
    const at = (when: string, at_s: number | undefined, seconds: number, total = 600) =>
      touchesIn([{ say: "x", when, at_s, seconds } as Parameters<typeof touchesIn>[0][number]], total).map(
        (t) => t.at,
      );
    expect(at("half-way", undefined, 10)).toEqual([295]);
    expect(at("after", 30, 10)).toEqual([30]);
    expect(at("before-end", 60, 12)).toEqual([540]);
    expect(at("before-end", 60, 12, 59)).toEqual([]);
    expect(at("every", 200, 5)).toEqual([200, 400]);
    expect(at("every", 200, 5, 601)).toEqual([200, 400]);
    expect(at("every", 0, 5)).toEqual([]);
    expect(at("every", 1, 1, 1000)).toHaveLength(40);
  });
});
