import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { headHeight, layout, rowHeight, thickness, wedge } from "./strands";

const bar = (start_s: number, finish_s: number, hands: Schemas["Bar"]["hands"] = "both", more = {}) =>
  ({
    task: `t${start_s}`,
    name: "Sear",
    start_s,
    finish_s,
    hands,
    of: 1,
    touches: [],
    ...more,
  }) as unknown as Schemas["Bar"];
const strand = (bars: Schemas["Bar"][], waits: Partial<Schemas["WaitBar"]>[] = [], more = {}) =>
  ({
    component: "c",
    name: "C",
    needed_s: -60,
    fire_s: -600,
    fired: true,
    ahead_steps: 0,
    bars,
    waits,
    ...more,
  }) as unknown as Schemas["Strand"];
const plan = (...strands: Schemas["Strand"][]) =>
  ({ first_fire_s: -600, strands }) as unknown as Schemas["Plan"];

describe("a wait's wedge", () => {
  it("is full until its best and nothing at its longest", () => {
    const w = { shortest: 0, best: 60, longest: 180 };
    expect([0, 60, 120, 180, 240].map((t) => wedge(t, w))).toEqual([1, 1, 0.5, 0, 0]);
  });
  it("stays full where nobody said a longest, and ends at once where best is longest", () => {
    expect(wedge(9999, { shortest: 0, best: 60 })).toBe(1);
    expect([59, 60, 61].map((t) => wedge(t, { shortest: 0, best: 60, longest: 60 }))).toEqual([1, 1, 0]);
    expect([100, 101].map((t) => wedge(t, { shortest: 0, longest: 100 }))).toEqual([1, 0]);
  });
});

describe("the layout of strands", () => {
  it("gives each component a row, and the join one place for all", () => {
    const l = layout(plan(strand([bar(-600, -300)]), strand([bar(-200, -100)])), 900);
    expect(l.height).toBe(headHeight + 2 * rowHeight + 8);
    expect(l.rows.every((r) => r.curve.endsWith(`${l.ring.x} ${l.ring.y}`))).toBe(true);
    expect(l.secondsPerPixel * (900 - 92 - 22)).toBeCloseTo(636);
  });
  it("draws attention as thickness", () => {
    const l = layout(plan(strand([bar(-600, -500), bar(-500, -400, "tend"), bar(-400, -300, "none")])), 900);
    expect(l.rows[0]?.bars.map((b) => b.height)).toEqual([thickness.both, thickness.tend, thickness.none]);
  });
  it("draws the hands at the ends of a step as high as a step that takes them throughout", () => {
    const touches = [
      { kind: "in", say: "put in", from_s: -600, to_s: -570, who: "A" },
      { kind: "out", say: "take out", from_s: -330, to_s: -300, who: "A" },
    ];
    const l = layout(plan(strand([bar(-600, -300, "tend", { touches })])), 900);
    const b = l.rows[0]?.bars[0];
    expect(b?.height).toBe(thickness.tend);
    expect(b?.hands.map((h) => h.height)).toEqual([thickness.both, thickness.both]);
    // Both stand in one line, the ends where the step ends.
    expect(b?.hands[0]?.x).toBeCloseTo(b?.x ?? 0);
    expect((b?.hands[1]?.x ?? 0) + (b?.hands[1]?.width ?? 0)).toBeCloseTo((b?.x ?? 0) + (b?.width ?? 0));
    expect((b?.hands[0]?.y ?? 0) + thickness.both / 2).toBeCloseTo((b?.y ?? 0) + thickness.tend / 2);
  });
  it("puts batches that overlap side by side, and others in one line", () => {
    const two = layout(plan(strand([bar(-600, -300), bar(-500, -200)])), 900).rows[0]?.bars;
    expect(two?.map((b) => b.height)).toEqual([9, 9]);
    expect((two?.[1]?.y ?? 0) - (two?.[0]?.y ?? 0)).toBe(11);
    const after = layout(plan(strand([bar(-600, -300), bar(-300, -200)])), 900).rows[0]?.bars;
    expect(after?.map((b) => b.height)).toEqual([22, 22]);
  });
  it("writes a step's name inside when it fits, else above, else not at all", () => {
    const wide = layout(plan(strand([bar(-600, -300)])), 900).rows[0]?.bars[0]?.label;
    expect(wide).toMatchObject({ text: "Sear", inside: true });
    const thin = layout(plan(strand([bar(-320, -300)])), 900).rows[0]?.bars[0]?.label;
    expect(thin).toMatchObject({ text: "Sear", inside: false });
    const crowd = layout(plan(strand([bar(-320, -310), bar(-309, -300)])), 900).rows[0]?.bars;
    expect(crowd?.[1]?.label).toBeNull();
  });
  it("marks the end of a shortest wait only within the wait", () => {
    const at = (shortest: number) =>
      layout(
        plan(
          strand([bar(-600, -300)], [{ from_s: -300, to_s: -100, shortest, best: 300, after_task: "t-600" }]),
        ),
        900,
      ).rows[0]?.waits[0]?.shortestX;
    expect(at(200)).not.toBeNull();
    expect(at(201)).toBeNull();
    expect(at(0)).toBeNull();
  });
  it("leaves room for the words of what is made ahead and wanted early, and for no others", () => {
    const early = { fired: false, ahead_steps: 2, needed_s: -500 };
    const at = (more: object) =>
      layout(plan(strand([bar(-600, -300)]), strand([], [], more)), 900).rows[1]?.gateX ?? 0;
    expect(at(early)).toBeGreaterThan(170);
    expect(at({ ...early, needed_s: -100 })).toBeGreaterThan(170); // late it has room anyway
    const narrow = layout(plan(strand([bar(-600, -300)]), strand([], [], { ...early, needed_s: -100 })), 900);
    expect(narrow.secondsPerPixel * (900 - 92 - 22)).toBeCloseTo(636);
  });
  it("has a gate where something is made ahead", () => {
    const l = layout(plan(strand([bar(-600, -300)], [], { ahead_steps: 2 }), strand([bar(-600, -300)])), 900);
    expect(l.rows.map((r) => r.gateX === null)).toEqual([false, true]);
  });
});
