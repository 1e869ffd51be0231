import { describe, expect, it } from "vitest";
import { changed, type Due } from "./live";

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
