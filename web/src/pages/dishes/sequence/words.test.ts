import { describe, expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { formOf, where } from "./words";

const element = (
  more: Partial<Omit<Schemas["Element"], "form">> & { form?: Partial<Schemas["Form"]> } = {},
) => ({ at: {}, on: 0, ...more, form: { kind: "leaf-heap", ...more.form } }) as Schemas["Element"];

describe("where an element lies", () => {
  it.each([
    [element(), "centre"],
    [element({ on: 2 }), "centre, on 2"],
    [element({ at: { hour: 10, from_centre_mm: 60.4 } }), "10 o’clock, 60 mm"],
    [element({ at: { hour: 10.5, from_centre_mm: 60 }, on: 1 }), "half past 10, 60 mm, on 1"],
    [element({ at: { x_mm: -30 } }), "30 mm left"],
    [element({ at: { x_mm: 30, y_mm: 5 } }), "30 mm right, 5 mm down"],
    [element({ at: { y_mm: -5 } }), "5 mm up"],
    [element({ at: { x_mm: 0.9, y_mm: -0.9 } }), "centre"],
    [element({ at: { x_mm: 1 } }), "1 mm right"],
    [element({ form: { count: 5, radius_mm: 40 } }), "around"],
    [element({ form: { count: 1, radius_mm: 40 } }), "centre"],
    [element({ form: { count: 5 } }), "centre"],
  ])("%o is %s", (e, said) => expect(where(e)).toBe(said));
});

describe("its form", () => {
  it.each([
    [element(), "leaf heap"],
    [element({ form: { count: 1 } }), "leaf heap"],
    [element({ form: { kind: "dots", count: 7 } }), "7 dots"],
  ])("%o is %s", (e, said) => expect(formOf(e)).toBe(said));
});
