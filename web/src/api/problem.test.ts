import { describe, expect, it } from "vitest";
import { text } from "../text";
import { conflicted, Problem, refused, unreached, whyOf } from "./problem";

describe("a problem", () => {
  it("is said by its faults, where there are any", () => {
    const p = new Problem(422, "a: no; b: never", [
      { path: "a", message: "no" },
      { path: "b", message: "never" },
    ]);
    expect(whyOf(p)).toBe("no. never");
    expect(whyOf(new Problem(500, "Something went wrong"))).toBe("Something went wrong");
  });
  it("is said in the kitchen's words when nobody answers", () => {
    expect(whyOf(new Problem(0, unreached))).toBe(text.errors.offline);
    expect(whyOf(new Error("odd"))).toBe("odd");
  });
  it("tells somebody else's change from other refusals", () => {
    expect(conflicted(new Problem(409, "x"))).toBe(true);
    expect(conflicted(new Problem(422, "x"))).toBe(false);
    expect(conflicted(new Error("409"))).toBe(false);
  });
  it("tells what cannot be from what may be another time", () => {
    expect(refused(new Problem(422, "x"))).toBe(true);
    expect(refused(new Problem(0, unreached))).toBe(false);
    expect(refused(new Error("422"))).toBe(false);
  });
});
