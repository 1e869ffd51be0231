// Words of looking back.
const why: Record<string, string> = {
  "too-much": "made too much",
  spoilt: "spoilt",
  dropped: "dropped",
  overdone: "overdone",
  "came-back": "came back",
  other: "another reason",
};

const months = "January February March April May June July August September October November December".split(
  " ",
);

export const back = {
  title: "Look back",
  none: "No service is over yet of which anybody said what happened.",
  noneSay:
    "When one is, paper stands here against stove: what was late and what it began with, and which time on paper is not the time at the stove.",
  playing: "The demo’s past evenings are being played …",
  of: (n: number) => (n === 1 ? "One service that is over" : `${n} services that are over`),
  learnt: "What the record says",
  learntNone: (n: number) =>
    `Nothing yet that is more than chance: of ${n} steps, people, places and dishes, what is written holds as far as can be told.`,
  learntNote: (looked: number) =>
    `Of ${looked} steps, people, places and dishes, those that are more than chance; of what is said so, at most one in twenty is wrong. Nothing is changed until somebody presses.`,
  interval: (low: number, high: number) => `nine chances of ten between ${times(low)} and ${times(high)}`,
  written: "as written",
  use: (is: string) => `Write ${is}`,
  quickSlow: (quick: string, slow: string) => `quick ${quick}, slow ${slow};`,
  instead: (was: string) => `instead of ${was}`,
  notes: "Notes of the night",
  notesNote:
    "A note comes up again where it belongs: on the dish, the component or the step, and beside the next service that serves it or has the same group, until somebody puts it away.",
  note: "What to know the next time",
  about: "About",
  aboutNight: "the night",
  dishes: "Dishes",
  components: "Components",
  groups: "Groups",
  writeNote: "Write it down",
  putAway: "Put away",
  isAway: "put away",
  beside: "Two evenings beside each other",
  putBeside: "Beside another",
  chosenBeside: "Chosen: now another",
  look: "What it would change",
  people: "Who did how much",
  peopleColumns: ["", "Runs", "Written", "Taken", "Begun, in the median"],
  used: "Written. What was written stays in the history:",
  kindNote: {
    person: "Whoever plans the sections can count on it: no time is changed by it.",
    equipment: "Something to look at: a seal, a fan, how it is loaded. No time is changed by it.",
    season: "Told, and not written: a time is written for the whole year.",
    "share-day": "Told, and not written: plan the services of that day with it.",
  } as Record<string, string>,
  against: {
    equipment: "the others",
    season: "rest of the year",
    "share-day": "other days",
    share: "the menu",
  } as Record<string, string>,
  each: (s: string) => `${s} a portion`,
  useShare: (is: number) => `Write ${is} %`,
  insteadShare: (was: number, service: string) => `instead of ${was} %, for ${service}`,
  by: "What is shown",
  weeks: "Week by week",
  week: (monday: string) => `Week of ${date(monday)}`,
  evening: (name: string, share: number) => `${name}: ${Math.round(100 * share)} % of its courses late`,
  againBack: (again: number, back: number) =>
    [again > 0 && `${again} made again`, back > 0 && `${back} came back`].filter(Boolean).join(" · "),
  days: ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"],
  amounts: "Amounts",
  amountsNone: "Nobody has said yet what was ordered in a service that is over.",
  amountsNote:
    "Columns: what was ordered, service by service. Line: what was to be ready by the menu’s shares, with the reserve. What is proposed costs least where a plate that is missing costs nine times one that is thrown away.",
  shares: (written: number, is: number) =>
    `menu ${Math.round(100 * written)} % · ordered ${Math.round(100 * is)} %`,
  sums: (ready: number, ordered: number, short: number) =>
    `${ready} ready, ${ordered} ordered${short > 0 ? `, short by ${short}` : ""}`,
  amountOf: (day: string, ready: number, ordered: number, thrown: number) =>
    `${date(day)}: ${ready} ready, ${ordered} ordered${thrown > 0 ? `, ${thrown} thrown away` : ""}`,
  thrown: "Thrown away",
  thrownNone: "Nobody said that anything was thrown away.",
  thrownSum: (n: number, by: Record<string, number>) =>
    `${n} thrown away: ${Object.entries(by)
      .sort((a, b) => b[1] - a[1])
      .map(([w, k]) => `${k} ${why[w] ?? w}`)
      .join(", ")}`,
  thrownWhat: "What",
  thrownWhy: "Why",
  thrownUndone: "taken back",
  takeBack: "Take back",
  addThrown: "Add",
  portions: "Portions",
  held: "What waited longer than it may",
  heldColumns: ["", "For", "May", "Waited"],
  heldNote: (kept: number) => `Of ${kept} others it is known that they did not.`,
  probes: "Thermometers",
  probesNote:
    "As they were sent. A core that was reached says nothing of how long it was held: local rules and whoever answers for the food decide.",
  probed: (from: string, low: string, to: string, high: string, target?: number) =>
    `${from} ${low}° – ${to} ${high}°${target === undefined ? "" : ` (wanted ${target}°)`}`,
  steps: "Steps",
  nights: "Evening by evening",
  covers: (n: number) => `${n} covers`,
  late: (n: number, of: number) => (n === 0 ? "none late" : `${n} of ${of} late`),
  mean: (s: number) => `${minutes(s)} in the mean`,
  along: "Along the clock",
  alongNote: (grace: number) =>
    `Ring: when a table wanted its course. Line: to when it left. Filled where it left more than ${minutes(grace)} late. Press one for what it was made of.`,
  how: "How it went",
  paper: "Paper over stove",
  paperNote:
    "Each step of the evening, by how much it took longer or less in the sum. Steps of which nobody said both ends are left out.",
  columns: ["", "Times", "Written", "Taken", "Difference in the sum"],
  join: (name: string, course: string) => `${name}, ${course}`,
  wanted: "wanted",
  left: "left",
  never: "nobody said that it left",
  early: (s: number) => `${minutes(s)} early`,
  lateBy: (s: number) => `${minutes(s)} late`,
  inTime: "in time",
  outline: "Outline: as planned when the service was opened. Filled: as it was.",
  files: "Files",
  file: {
    "night.pdf": "PDF",
    "night.xlsx": "XLSX",
    "steps.csv": "Steps, CSV",
    "courses.csv": "Courses, CSV",
  },
  log: "The log, JSON Lines",
  all: "All evenings",
  back: "came back",
  minutes,
  why,
};

// date is a day, YYYY-MM-DD, as one says it.
function date(day: string): string {
  return `${Number(day.slice(8, 10))} ${months[Number(day.slice(5, 7)) - 1] ?? ""}`;
}

function times(x: number): string {
  return `× ${x.toFixed(2)}`;
}

function minutes(s: number): string {
  const m = Math.abs(s) / 60;
  return m < 1
    ? `${Math.round(Math.abs(s))} s`
    : m < 10
      ? `${Math.round(2 * m) / 2} min`.replace(".5", "½")
      : `${Math.round(m)} min`;
}
