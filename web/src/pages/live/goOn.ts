import type { Due } from "../../api/live";
import type { Kept } from "../../api/taps";
import type { Schemas } from "../../api/client";

export type Line = Schemas["DueLine"];
export type SectionDue = Schemas["SectionDue"];

const minute = 60_000;

// goOn is what a section has to do at an instant, from what the server said last and what was tapped here since: a screen whose line is cut
// goes on by the told plan. As long as the server is heard, it says so itself, and this only shows a tap before its answer is there.
export function goOn(due: Due, section: string, kept: readonly Kept[], now: number): SectionDue {
  const told = due.sections.find((s) => s.section === section);
  const s: SectionDue = told
    ? { ...told, now: [...told.now], on: [...told.on], next: [...told.next], then: [...told.then] }
    : { section, taps: false, now: [], on: [], next: [], then: [], later: 0, done: 0, counts: [] };
  const undone = new Set(kept.filter((k) => k.kind === "undone").map((k) => k.undoes));
  for (const k of kept) {
    if (undone.has(k.id)) continue;
    if (k.kind === "fired") {
      const l = take(s, k.task, ["now", "next", "then"]);
      if (l) s.on.push(begun(l, Date.parse(k.at ?? "")));
    } else if (k.kind === "ready") {
      if (take(s, k.task, ["on", "now", "next", "then"])) s.done++;
    } else if (k.kind === "more") {
      const l = take(s, k.task, ["on"]);
      if (l) {
        // Not before so many minutes from then, as the server takes it.
        const done = Math.max(Date.parse(l.done_at), Date.parse(k.at ?? "") + (k.minutes ?? 0) * minute);
        s.on.push({ ...l, done_at: like(done, l.done_at), standing: "on" });
      }
    }
  }
  for (const list of ["then", "next"] as const)
    for (const l of [...s[list]]) {
      const in_ = Date.parse(l.fire_at) - now;
      if (l.standing !== "waits" && in_ <= minute) {
        take(s, l.task, [list]);
        s.now.push({ ...l, standing: "due" });
      } else if (list === "then" && in_ <= 10 * minute) {
        take(s, l.task, [list]);
        s.next.push({ ...l, standing: l.standing === "waits" ? "waits" : "coming" });
      }
    }
  const by = (at: (l: Line) => string) => (a: Line, b: Line) => Date.parse(at(a)) - Date.parse(at(b));
  s.now.sort(by((l) => l.fire_at));
  s.on.sort(by((l) => l.done_at));
  s.next.sort(by((l) => l.fire_at));
  return s;
}

function take(
  s: SectionDue,
  task: string | undefined,
  lists: readonly ("now" | "on" | "next" | "then")[],
): Line | undefined {
  for (const list of lists) {
    const i = s[list].findIndex((l) => l.task === task);
    if (i >= 0) return s[list].splice(i, 1)[0];
  }
  return undefined;
}

function begun(l: Line, at: number): Line {
  const long = Date.parse(l.done_at) - Date.parse(l.fire_at);
  return {
    ...l,
    standing: "on",
    assumed: false,
    fire_at: like(at, l.fire_at),
    done_at: like(at + long, l.done_at),
  };
}

// like writes an instant as another one is written: by the kitchen's clock.
export function like(ms: number, other: string): string {
  const zone = /([+-]\d\d):(\d\d)$/.exec(other);
  if (!zone) return new Date(ms).toISOString();
  const by = (Math.abs(Number(zone[1])) * 60 + Number(zone[2])) * (other.includes("+", 10) ? 1 : -1);
  return new Date(ms + by * minute).toISOString().replace(/(\.\d+)?Z$/, zone[0]);
}
