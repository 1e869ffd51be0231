import { expect, it } from "vitest";
import { text } from "../../text";

it("points are not rounded up", () => {
  expect(text.train.points(24.96, 25)).toBe("24.9 of 25");
  expect(text.train.points(25, 25)).toBe("25 of 25");
  expect(text.train.points(0.1 + 0.2, 25)).toBe("0.3 of 25");
});
