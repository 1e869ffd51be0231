import { describe, expect, it } from "vitest";
import { begin, move, nudge, snap } from "./drag";

describe("dragging an end of a step", () => {
  it("grows outwards, on either side", () => {
    expect(move(begin("t", "finish", 100, 60), 120, 2).seconds).toBe(100);
    expect(move(begin("t", "start", 100, 60), 120, 2).seconds).toBe(20);
    expect(move(begin("t", "start", 100, 60), 80, 2).seconds).toBe(100);
  });
  it("snaps, and never gets to nothing", () => {
    expect(move(begin("t", "finish", 0, 60), 1, 2).seconds).toBe(60);
    expect(move(begin("t", "finish", 0, 60), 2, 2).seconds).toBe(65);
    expect(move(begin("t", "finish", 0, 60), -100, 2).seconds).toBe(snap);
  });
  it("is the same by key: left is longer", () => {
    expect(nudge(60, "ArrowLeft", false)).toBe(65);
    expect(nudge(60, "ArrowRight", true)).toBe(30);
    expect(nudge(5, "ArrowRight", false)).toBe(5);
    expect(nudge(60, "Enter", false)).toBeNull();
  });
});
