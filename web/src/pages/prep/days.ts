import type { Schemas } from "../../api/client";
import { unitWord } from "../../ui/units";

export type Job = Schemas["Job"];
export type Step = Schemas["JobStep"];

// The server sends instants in the kitchen's own zone: the date on the wall is a part of
// the text.
export const dateOf = (instant: string) => instant.slice(0, 10);

export interface Entry {
  job: Job;
  steps: Step[]; // those of the day that somebody has to do, and what begins by itself
}

// entriesOf are the jobs of a section that have something to do on a day, by the clock.
export function entriesOf(jobs: Job[], section: string, date: string): Entry[] {
  return jobs
    .map((job) => ({
      job,
      steps: job.steps.filter(
        (s) => s.section === section && dateOf(s.start_at) === date && s.hands !== "none",
      ),
    }))
    .filter((e) => e.steps.length > 0)
    .sort((a, b) => (a.steps[0]?.start_at ?? "").localeCompare(b.steps[0]?.start_at ?? ""));
}

export interface SheetLine {
  key: string;
  job: Job;
  step: Step;
  at: string;
  who: string[];
  act: Schemas["StepAct"] | null; // hands at an end of the step or inside it; null for the step itself
  tick: boolean; // the step is ticked off here
}

// sheetLines are what a section does on a day, by the clock: steps that somebody stands at, and of those that need nobody
// the putting in, what is done between, and the taking out, where they are ticked off.
export function sheetLines(jobs: Job[], section: string, date: string): SheetLine[] {
  const out: SheetLine[] = [];
  for (const job of jobs)
    for (const step of job.steps) {
      if (step.section !== section) continue;
      const alone = step.hands === "none";
      if (!alone)
        out.push({ key: step.task, job, step, at: step.start_at, who: step.people, act: null, tick: true });
      const acts = alone ? step.acts : step.acts.filter((a) => a.kind === "touch");
      acts.forEach((act, i) =>
        out.push({
          key: `${step.task}/${act.kind}/${i}`,
          job,
          step,
          at: act.at,
          who: [act.who],
          act,
          tick: alone && i === acts.length - 1,
        }),
      );
    }
  return out.filter((l) => dateOf(l.at) === date).sort((a, b) => a.at.localeCompare(b.at));
}

// dayName writes a date as a cook says it.
export const dayName = (date: string) =>
  new Date(`${date}T12:00:00Z`).toLocaleDateString("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  });

export const dayClock = (instant: string, today: string) =>
  dateOf(instant) === today
    ? instant.slice(11, 16)
    : `${dayName(dateOf(instant)).split(" ")[0]?.replace(",", "")} ${instant.slice(11, 16)}`;

// amountOf writes an amount with its unit; large ones in the larger unit.
export function amountOf(v: number, unit: string): string {
  if ((unit === "g" || unit === "ml") && v >= 1000)
    return `${Number((v / 1000).toFixed(2))} ${unit === "g" ? "kg" : "l"}`;
  return `${Number(v.toFixed(v < 10 ? 1 : 0))} ${unitWord(unit, v)}`;
}

export const shape = { "to-do": "○", begun: "◐", done: "●", forgotten: "▲", tight: "▲" } as const;
export const look = {
  "to-do": "",
  begun: "mark-wait",
  done: "mark-good",
  forgotten: "mark-late",
  tight: "mark-late",
} as const;

// workOf writes hands-on time so that nobody reads a clock into it.
export const workOf = (seconds: number) => {
  const m = Math.round(seconds / 60);
  return m < 60 ? `${m} min` : `${Math.floor(m / 60)} h${m % 60 ? ` ${m % 60}` : ""}`;
};
