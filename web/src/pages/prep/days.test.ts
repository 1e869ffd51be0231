import { describe, expect, it } from "vitest";
import { amountOf, dateOf, dayClock, dayName, entriesOf, sheetLines, workOf, type Job } from "./days";

describe("days", () => {
  it("takes the date of the kitchen's wall", () =>
    expect(dateOf("2026-05-14T00:10:00+02:00")).toBe("2026-05-14"));
  it("says a date as a cook does", () => expect(dayName("2026-05-14")).toBe("Thu 14 May"));
  it("leaves the day out where it is today", () => {
    expect(dayClock("2026-05-14T09:05:00+02:00", "2026-05-14")).toBe("09:05");
    expect(dayClock("2026-05-15T09:05:00+02:00", "2026-05-14")).toBe("Fri 09:05");
  });
  it.each([
    [999, "g", "999 g"],
    [1000, "g", "1 kg"],
    [1250, "ml", "1.25 l"],
    [1, "piece", "1 piece"],
    [2, "spoon", "2 spoons"],
    [2.5, "g", "2.5 g"],
    [12.4, "g", "12 g"],
  ])("%d %s is %s", (v, unit, said) => expect(amountOf(v, unit)).toBe(said));
  it.each([
    [0, "0 min"],
    [3540, "59 min"],
    [3600, "1 h"],
    [5400, "1 h 30"],
  ])("%d s of work is %s", (s, said) => expect(workOf(s)).toBe(said));
  it("lists what somebody has to do on a day, by the clock", () => {
    const job = (id: string, at: string, hands: string) =>
      ({ id, steps: [{ section: "larder", start_at: at, hands }] }) as unknown as Job;
    const list = [
      job("late", "2026-05-14T15:00:00+02:00", "both"),
      job("early", "2026-05-14T09:00:00+02:00", "tend"),
      job("alone", "2026-05-14T10:00:00+02:00", "none"),
      job("tomorrow", "2026-05-15T09:00:00+02:00", "both"),
    ];
    expect(entriesOf(list, "larder", "2026-05-14").map((e) => e.job.id)).toEqual(["early", "late"]);
    expect(entriesOf(list, "fish", "2026-05-14")).toEqual([]);
  });
  it("puts in and takes out on the sheet what needs nobody, each on its day, and ticks it off when it is out", () => {
    const act = (kind: string, at: string) => ({ kind, at, who: "Ines", say: kind });
    const jobs = [
      {
        id: "beans",
        steps: [
          {
            task: "soak",
            section: "larder",
            hands: "none",
            start_at: "2026-05-13T22:00:00+02:00",
            people: [],
            acts: [act("in", "2026-05-13T22:00:00+02:00"), act("out", "2026-05-14T10:00:00+02:00")],
          },
          {
            task: "simmer",
            section: "larder",
            hands: "tend",
            start_at: "2026-05-14T10:30:00+02:00",
            people: ["Pim"],
            acts: [act("in", "2026-05-14T10:30:00+02:00"), act("touch", "2026-05-14T11:00:00+02:00")],
          },
          {
            task: "cool",
            section: "larder",
            hands: "none",
            start_at: "2026-05-14T12:00:00+02:00",
            people: [],
            acts: [],
          },
        ],
      },
    ] as unknown as Job[];
    const said = (date: string) =>
      sheetLines(jobs, "larder", date).map(
        (l) =>
          `${l.at.slice(11, 16)} ${l.step.task} ${l.act?.kind ?? ""} ${l.who.join()} ${l.tick ? "tick" : ""}`,
      );
    expect(said("2026-05-13")).toEqual(["22:00 soak in Ines "]);
    expect(said("2026-05-14")).toEqual([
      "10:00 soak out Ines tick",
      "10:30 simmer  Pim tick",
      "11:00 simmer touch Ines ",
    ]);
    expect(sheetLines(jobs, "fish", "2026-05-14")).toEqual([]);
  });
});
