import { afterEach, describe, expect, it, vi } from "vitest";
import { changed, hear, serverNow, type Due } from "./live";

const due = (at: string, sections: [string, number][], joins: [string, string][]): Due =>
  ({
    at,
    plan: 1,
    phase: "open",
    troubles: [],
    sections: sections.map(([section, done]) => ({ section, done })),
    joins: joins.map(([table, name]) => ({ table, course: "main", name })),
  }) as unknown as Due;

describe("what is otherwise in what is due", () => {
  const was = due(
    "2026-05-15T19:00:00Z",
    [
      ["fish", 1],
      ["grill", 2],
    ],
    [
      ["t1", "Table 1"],
      ["t2", "Table 2"],
    ],
  );
  it("leaves what it does not name as it was, in its order", () => {
    const is = changed(was, due("2026-05-15T19:00:01Z", [["grill", 3]], [["t1", "Window"]]));
    expect(is.at).toBe("2026-05-15T19:00:01Z");
    expect(is.sections.map((s) => [s.section, s.done])).toEqual([
      ["fish", 1],
      ["grill", 3],
    ]);
    expect(is.joins.map((j) => j.name)).toEqual(["Window", "Table 2"]);
    expect(was.joins[0]?.name).toBe("Table 1");
  });
  it("changes only the hour where nothing else is otherwise", () => {
    expect(changed(was, due("2026-05-15T19:00:02Z", [], []))).toEqual({ ...was, at: "2026-05-15T19:00:02Z" });
  });
});

describe("the clock of what is shown", () => {
  afterEach(() => vi.useRealTimers());
  const at = "2026-05-15T19:00:00Z";
  const after = (pace: number | undefined) => {
    vi.useFakeTimers({ now: Date.parse("2026-01-01T08:00:00Z") });
    hear({ at, pace });
    vi.advanceTimersByTime(3000);
    return (serverNow() - Date.parse(at)) / 1000;
  };
  it("goes on as the one on the wall does", () => expect(after(undefined)).toBe(3));
  it("goes as fast as what is played", () => expect(after(20)).toBe(60));
  it("stands still where that does", () => expect(after(0)).toBe(0));
});
