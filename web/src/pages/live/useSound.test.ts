import { expect, it } from "vitest";
import { fresh } from "./useSound";

it("sounds for what was not there before", () => {
  const seen = new Set(["hake", "leek"]);
  expect(fresh(seen, ["hake", "fowl"])).toEqual(["fowl"]);
  expect(fresh(seen, ["leek", "hake"])).toEqual([]);
  expect(fresh(new Set(), [])).toEqual([]);
});
