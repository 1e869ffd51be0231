import { describe, expect, it } from "vitest";
import { keys } from "./keys";

describe("keys", () => {
  it("are a beginning of all that they stand for", () => {
    const whole = keys.fireJoin("tonight", "m", "1/main", 5, 2);
    expect(whole.slice(0, keys.fire("tonight").length)).toEqual(keys.fire("tonight"));
    expect(whole.slice(0, keys.fire("tonight", "m").length)).toEqual(keys.fire("tonight", "m"));
    expect(keys.dish("hake", "", false).slice(0, 2)).toEqual(keys.dish("hake"));
    expect(keys.prepMends(1, "now").slice(0, 1)).toEqual(keys.prep);
  });
  it("keep what is empty and drop what was not said", () => {
    expect(keys.fire("tonight", "")).toEqual(["fire", "tonight", ""]);
    expect(keys.dish()).toEqual(["dish"]);
  });
});
