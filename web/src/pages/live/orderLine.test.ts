import { describe, expect, it } from "vitest";
import { back, bare, dish, forTable, need } from "./orderLine";

describe("an order that is pressed", () => {
  it("is written as it would be typed", () => {
    let line = forTable("", "Table 7");
    expect(line).toBe("7: ");
    line = dish(line, "hake");
    line = dish(line, "hake");
    line = dish(line, "fowl");
    expect(line).toBe("7: 2 hake 1 fowl");
    line = need(line, "no milk");
    expect(line).toBe("7: 2 hake 1 fowl 1 no milk");
    expect(need(line, "no milk")).toBe("7: 2 hake 1 fowl 2 no milk");
    expect(dish(line, "fowl")).toBe("7: 2 hake 1 fowl 1 no milk 1 fowl");
  });

  it("goes to another table as it stands", () => {
    expect(forTable("7: 2 hake", "Table 12")).toBe("12: 2 hake");
    expect(forTable("2 hake", "Bar")).toBe("Bar: 2 hake");
    expect(bare("Table 7")).toBe("7");
    expect(bare("Table by the door")).toBe("Table by the door");
  });

  it("loses what was added last", () => {
    expect(back("7: 2 hake 1 fowl")).toBe("7: 2 hake");
    expect(back("7: 2 hake")).toBe("7: 1 hake");
    expect(back("7: 1 hake")).toBe("7: ");
    expect(back("7: ")).toBe("");
    expect(back("2 salt baked")).toBe("1 salt baked");
    expect(back("")).toBe("");
  });
});
