import type { Schemas } from "../api/client";

// checkWords says how one sees that a step is done: a core temperature, or what it looks,
// feels, tastes or weighs like.
export const checkWords = (k: Schemas["DoneCheck"]) =>
  k.target_c !== undefined ? `${k.kind} ${k.target_c} °C` : `${k.kind}: ${k.say ?? ""}`;
