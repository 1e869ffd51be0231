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
