import type { Schemas } from "../api/client";
import { span } from "./time";

// checkWords says how one sees that a step is done: a core temperature, or what it looks, feels, tastes, weighs, sounds or smells like; and
// what then, when it is not yet or too far.
export const checkWords = (k: Schemas["DoneCheck"]) =>
  [
    k.target_c !== undefined ? `${k.kind} ${k.target_c} °C` : `${k.kind}: ${k.say ?? ""}`,
    k.not_yet_s ? `not yet: again after ${span(k.not_yet_s)}` : "",
    k.too_far ? `too far: ${k.too_far}` : "",
  ]
    .filter(Boolean)
    .join("; ");

// neverWords says what is never done, and why.
export const neverWords = (n: Schemas["Never"]) =>
  `never ${n.what}${n.because ? `, because ${n.because}` : ""}`;
