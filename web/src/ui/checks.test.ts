import { expect, test } from "vitest";
import { checkWords } from "./checks";

test("a core temperature is a number, everything else is said", () => {
  expect(checkWords({ kind: "core", target_c: 52 })).toBe("core 52 °C");
  expect(checkWords({ kind: "core", target_c: 0 })).toBe("core 0 °C");
  expect(checkWords({ kind: "look", say: "skin crisp" })).toBe("look: skin crisp");
  expect(checkWords({ kind: "touch" })).toBe("touch: ");
});
