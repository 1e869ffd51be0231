// Words of looking back.
export const back = {
  title: "Look back",
  none: "No service is over yet of which anybody said what happened.",
  noneSay:
    "When one is, paper stands here against stove: what was late and what it began with, and which time on paper is not the time at the stove.",
  playing: "The demo’s past evenings are being played …",
  of: (n: number) => (n === 1 ? "One service that is over" : `${n} services that are over`),
  learnt: "What the record says",
  learntNone: (n: number) =>
    `Nothing yet that is more than chance: of ${n} steps, people and dishes, what is written holds as far as can be told.`,
  learntNote: (looked: number) =>
    `Of ${looked} steps, people and dishes, those that are more than chance; of what is said so, at most one in twenty is wrong. Nothing is changed until somebody presses.`,
  interval: (low: number, high: number) => `nine chances of ten between ${times(low)} and ${times(high)}`,
  written: "as written",
  use: (is: string) => `Write ${is}`,
  instead: (was: string) => `instead of ${was}`,
  notes: "Notes of the night",
  notesNote:
    "A note comes up again where it belongs: on the dish or the component, and beside the next service that serves it or has the same group, until somebody puts it away.",
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
  person: "Whoever plans the sections can count on it: no time is changed by it.",
  share: "The menu’s shares are changed with the service.",
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
};

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
