import { describe, expect, it } from "vitest";
import type { Due } from "../../api/live";
import type { Kept } from "../../api/taps";
import { goOn, like, type Line } from "./goOn";

const at = (m: number) =>
  like(Date.parse("2026-05-14T19:00:00+02:00") + m * 60_000, "2026-05-14T19:00:00+02:00");
const line = (task: string, from: number, to: number, standing: Line["standing"]): Line => ({
  task,
  component: task,
  step: "fry",
  section: "fish",
  what: task,
  act: "",
  portions: 2,
  joins: [],
  standing,
  assumed: false,
  fire_at: at(from),
  done_at: at(to),
  how: { hands: "both", on: [], people: [], needs: [], checks: [] },
});
const due = {
  at: at(0),
  sections: [
    {
      section: "fish",
      taps: true,
      now: [line("hake", 0, 4, "due")],
      on: [line("broth", -5, 2, "on")],
      next: [line("mussels", 5, 9, "coming"), line("tart", 6, 8, "waits")],
      then: [line("late", 15, 20, "later")],
      later: 1,
      done: 3,
      counts: [],
    },
  ],
} as unknown as Due;
const tap = (kind: string, task: string, m: number, more: object = {}) =>
  ({ id: `${kind}-${task}`, service: "tonight", kind, task, at: at(m), ...more }) as unknown as Kept;
const names = (l: Line[]) => l.map((x) => x.task);

describe("a section goes on by itself", () => {
  it("shows what the server says where nothing was tapped", () => {
    const s = goOn(due, "fish", [], Date.parse(at(0)));
    expect([names(s.now), names(s.on), names(s.next), names(s.then)]).toEqual([
      ["hake"],
      ["broth"],
      ["mussels", "tart"],
      ["late"],
    ]);
    expect(goOn(due, "grill", [], Date.parse(at(0))).now).toEqual([]);
  });

  it("moves what was tapped, and what was taken back stays", () => {
    const fired = tap("fired", "hake", 1);
    const s = goOn(due, "fish", [fired, tap("ready", "broth", 1)], Date.parse(at(1)));
    expect(names(s.now)).toEqual([]);
    expect(names(s.on)).toEqual(["hake"]);
    expect([s.on[0]?.fire_at, s.on[0]?.done_at]).toEqual([at(1), at(5)]);
    expect(s.done).toBe(4);
    const back = goOn(due, "fish", [fired, tap("undone", "", 2, { undoes: fired.id })], Date.parse(at(2)));
    expect(names(back.now)).toEqual(["hake"]);
    expect(due.sections[0]?.now[0]?.standing).toBe("due");
  });

  it("counts more minutes from when they were asked for", () => {
    const s = goOn(due, "fish", [tap("more", "broth", 4, { minutes: 2 })], Date.parse(at(4)));
    expect(s.on.find((l) => l.task === "broth")?.done_at).toBe(at(6));
    const early = goOn(due, "fish", [tap("more", "broth", 1, { minutes: 2 })], Date.parse(at(1)));
    expect(early.on.find((l) => l.task === "broth")?.done_at).toBe(at(3));
    expect(due.sections[0]?.on[0]?.done_at).toBe(at(2));
  });

  it("brings up what the clock brings, a minute before it is due and not sooner; what was not called waits", () => {
    expect(names(goOn(due, "fish", [], Date.parse(at(4)) - 1000).now)).toEqual(["hake"]);
    const s = goOn(due, "fish", [], Date.parse(at(6)));
    expect(names(s.now)).toEqual(["hake", "mussels"]);
    expect(names(s.next)).toEqual(["tart", "late"]);
  });

  it("writes instants by the kitchen's clock, on both sides of Greenwich", () => {
    expect(like(0, "2026-05-14T19:00:00+02:00")).toBe("1970-01-01T02:00:00+02:00");
    expect(like(0, "2026-05-14T19:00:00-03:30")).toBe("1969-12-31T20:30:00-03:30");
  });
});
