import { expect, test } from "vitest";
import { off, shown, standing, type Join, type Night } from "./night";

const join = (wanted: string, sent: string | undefined, late_s: number) =>
  ({ wanted_at: wanted, sent_at: sent, late_s }) as Join;

test("what is within is in time, on both sides", () => {
  expect(off(29, 30)).toBe("in time");
  expect(off(-29, 30)).toBe("in time");
  expect(off(30, 30)).toBe("30 s late");
  expect(off(-90, 30)).toBe("1½ min early");
  expect(off(600, 30)).toBe("10 min late");
});

test("of a course of which nobody said that it left nothing is claimed", () => {
  expect(standing(join("2026-05-14T19:30:00+02:00", undefined, 0))).toBe("nobody said that it left");
  expect(standing(join("2026-05-14T19:30:00+02:00", "2026-05-14T19:35:00+02:00", 300))).toBe("5 min late");
});

test("evenings beside each other are shown from the first course of both to the last, by half hours", () => {
  const night = (...joins: Join[]) => ({ origin: "2026-05-14T14:00:00+02:00", joins }) as Night;
  const early = night(join("2026-05-14T18:50:00+02:00", undefined, 0));
  const late = night(join("2026-05-14T19:10:00+02:00", "2026-05-14T23:05:00+02:00", 0));
  const from = 4.5 * 3600;
  expect(shown([early, late])).toEqual([from, 9.5 * 3600]);
  expect(shown([early])).toEqual([from, 5 * 3600]);
});
