import { describe, expect, it } from "vitest";
import { clock, clockSeconds, seconds, span, toJoin } from "./time";

describe("span", () => {
  it.each([
    [0, "0 s"],
    [59, "59 s"],
    [60, "1:00"],
    [-90, "−1:30"],
    [3599, "59:59"],
    [3600, "1 h"],
    [4800, "1 h 20"],
  ])("%d is %s", (s, said) => expect(span(s)).toBe(said));
});

describe("toJoin", () => {
  it.each([
    [0, "0:00"],
    [-750, "−12:30"],
    [5, "+0:05"],
  ])("%d is %s", (s, said) => expect(toJoin(s)).toBe(said));
});

describe("seconds", () => {
  it.each([
    ["4", 240],
    ["4:30", 270],
    ["1½", 90],
    ["90 s", 90],
    ["2 h 10", 7800],
    ["1,5 min", 90],
    ["", null],
    ["soon", null],
    ["4:75", null],
  ])("%s is %s", (typed, s) => expect(seconds(typed)).toBe(s));
});

it("takes the clock of the kitchen's wall, not the screen's", () => {
  expect(clock("2026-05-14T19:42:07+02:00")).toBe("19:42");
  expect(clockSeconds("2026-05-14T19:42:07+02:00")).toBe("07");
});
