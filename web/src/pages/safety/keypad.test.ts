import { describe, expect, it } from "vitest";
import { degrees, newId, pressed } from "./keypad";

const typed = (...keys: string[]) => keys.reduce(pressed, "");

describe("the keypad", () => {
  it("types a temperature", () => {
    expect(typed("7", "4", ".", "5")).toBe("74.5");
    expect(typed("7", "4", ".", "5", "1")).toBe("74.5");
    expect(typed("1", "2", "3", "4")).toBe("123");
    expect(typed("0", "4")).toBe("4");
    expect(typed(".", "5")).toBe("0.5");
    expect(typed(".", ".")).toBe("0.");
  });
  it("takes the sign at any time, and back", () => {
    expect(typed("1", "8", "−")).toBe("−18");
    expect(typed("−", "1", "8")).toBe("−18");
    expect(typed("−", "1", "8", "−")).toBe("18");
    expect(typed("1", "8", "⌫")).toBe("1");
  });
  it("is a number, or none", () => {
    expect(degrees("−18.5")).toBe(-18.5);
    expect(degrees("")).toBeNull();
    expect(degrees("−")).toBeNull();
    expect(degrees("0")).toBe(0);
  });
  it("names lines apart", () => {
    expect(newId()).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
    expect(newId()).not.toBe(newId());
  });
});
