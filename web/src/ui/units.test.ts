import { describe, expect, it } from "vitest";
import { amountOf } from "../pages/prep/days";
import { unitWord } from "./units";

describe("the word for so many of a unit", () => {
  it.each([
    ["piece", 1, "piece"],
    ["piece", 2, "pieces"],
    ["spoon", 0, "spoons"],
    ["g", 1, "g"],
    ["ml", 2, "ml"],
  ])("%s, %d: %s", (unit, n, said) => expect(unitWord(unit, n)).toBe(said));
});

describe("an amount", () => {
  it.each([
    [999, "g", "999 g"],
    [1000, "g", "1 kg"],
    [1250, "ml", "1.25 l"],
    [1, "piece", "1 piece"],
    [3.14, "spoon", "3.1 spoons"],
    [9.96, "g", "10 g"],
    [10.4, "g", "10 g"],
  ])("%d %s is %s", (n, unit, said) => expect(amountOf(n, unit)).toBe(said));
});
