import type { Schemas } from "../api/client";

type Ends = Schemas["Ends"];

// An end of a step at which both hands are on it.
export type Edge = "in" | "out";

// stepOf is by how much an end moves at a time in a step of so many seconds: what a cook would say.
export const stepOf = (total: number): number => (total < 120 ? 1 : total < 900 ? 5 : 15);

// moveEnd makes an end so many seconds long; the two together stay within the step.
export function moveEnd(e: Ends, edge: Edge, to: number, total: number): Ends {
  const by = stepOf(total);
  const other = edge === "in" ? e.out_s : e.in_s;
  const v = Math.min(Math.max(0, Math.round(to / by) * by), Math.max(0, total - other));
  return edge === "in" ? { ...e, in_s: v } : { ...e, out_s: v };
}

type Touch = Schemas["Touch"];

// touchesIn is where the hands inside a step of so many seconds are drawn. When they are wanted is the plan's to say.
export function touchesIn(touches: Touch[], total: number): { at: number; seconds: number; say: string }[] {
  const most = 40; // more could not be told apart
  return touches.flatMap((t) => {
    const at = t.at_s ?? 0;
    const all =
      t.when === "every"
        ? Array.from(
            { length: at > 0 ? Math.min(most, Math.ceil(total / at) - 1) : 0 },
            (_, k) => (k + 1) * at,
          )
        : [t.when === "half-way" ? (total - t.seconds) / 2 : t.when === "before-end" ? total - at : at];
    return all
      .filter((x) => x >= 0 && x + t.seconds <= total)
      .map((x) => ({ at: x, seconds: t.seconds, say: t.say }));
  });
}
