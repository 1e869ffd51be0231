import { expect, it } from "vitest";
import { wallClock } from "./wallClock";

it("counts from an instant by the kitchen's clock", () => {
  expect(wallClock("2026-05-15T14:30:00+02:00", 0)).toBe("14:30");
  expect(wallClock("2026-05-15T14:30:00+02:00", 5400)).toBe("16:00");
  expect(wallClock("2026-05-15T23:30:00-05:00", 3600)).toBe("00:30");
});
