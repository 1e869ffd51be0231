import { describe, expect, it } from "vitest";
import { clock, clockSeconds, hoursApart, span, toJoin, wall } from "./time";

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

describe("wall", () => {
  it.each([
    [0, "00:00"],
    [1170, "19:30"],
    [1530, "25:30"],
  ])("%d is %s", (minutes, said) => expect(wall(minutes)).toBe(said));
});

// Labels of 46 px: at 1280 an hour of the day line has 49, at 768 it has 17.
describe("hoursApart", () => {
  it.each([
    [46, 1],
    [45.9, 2],
    [23, 2],
    [22.9, 3],
    [16.7, 3],
    [11.5, 4],
    [11.4, 6],
  ])("an hour of %d px: every %d", (anHour, hours) => expect(hoursApart(anHour)).toBe(hours));
});

it("takes the clock of the kitchen's wall, not the screen's", () => {
  expect(clock("2026-05-14T19:42:07+02:00")).toBe("19:42");
  expect(clockSeconds("2026-05-14T19:42:07+02:00")).toBe("07");
});
