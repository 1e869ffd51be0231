// Words of the rehearsal.
const minutes = (s: number) => {
  const halves = Math.round(s / 30);
  if (halves === 0) return "no time";
  return `${halves === 1 ? "½" : halves % 2 === 0 ? halves / 2 : `${Math.floor(halves / 2)}½`} min`;
};

export const rehearse = {
  title: "Rehearse",
  of: (name: string) => `${name}, played before it happens`,
  play: (n: number) => `Play ${n} nights`,
  again: (n: number) => `Play ${n} nights again`,
  stop: "Stop",
  playing: (done: number, of: number) => `${done} of ${of} nights played`,
  stale: "Another plan is shown by now than the one that was played.",
  first:
    "Guests who come late, order by themselves and linger, steps between their quick and their slow time, checks that say “not yet”, a pan that is dropped: the evening is played many times, each time from another seed, and then it is said what usually goes wrong. Nothing of it enters the record of the service.",
  says: (nights: number, late: number, worst: number, grace: number) =>
    `By the plan as printed, of all courses of ${nights} nights ${share(late)} leave more than ${minutes(grace)} late; the latest of a night is ${minutes(worst)} late in the median.`,
  along: "How often each course is late",
  alongNote: (grace: number) =>
    `Height: in how many nights of a hundred it leaves more than ${minutes(grace)} after its guests are ready.`,
  breaks: "What breaks first",
  none: "Nothing was late.",
  cause: (share_: string, section: string, resource: string) =>
    resource
      ? `${share_} of the late courses wait for ${resource}${section ? `, who has something else to do at ${section}` : ""}.`
      : `${share_} wait for ${section || "the plates"}, where something was begun late or took longer.`,
  helps: "What would help, on the same nights",
  noneHelps: "On these nights nothing that was tried helps:",
  noneYet: "On these nights nothing helps of what was tried so far:",
  looking: "Trying what would help …",
  nothing: "Nothing that is known to help is left to try.",
  fewer: (was: string, is: string) => `${was} → ${is} late`,
  policies: "The same nights, otherwise",
  policy: {
    "as-printed": "The plan as printed",
    dispatch: "The order of the plan, as soon as hands are free",
    "no-plan": "Everything begun at the call",
    "planned-again": "Planned again as it goes",
  },
  columns: ["", "Nights", "Courses late", "Late in the mean", "Latest of a night", "Held too long"],
  held: (min: number) => `${Math.round(min)} min a night`,
  courses: "Course by course",
  columnsOf: ["Course", "Wanted", "Late in", "By", "One night of ten"],
  share: (x: number) => share(x),
  minutes,
  // What a night has beside its clock: orders that differ, what is gone, who helps.
  differs: (off: number, vain: number, helped: number) =>
    [
      "Guests order by the menu’s shares, each by themselves; what is new finds its place in the plan once it is ordered.",
      off > 0 && `Of ${times(off)} dishes the last portion goes.`,
      vain > 0 && `${times(vain)} batches are on before it is known that nobody orders them.`,
      helped > 0 && `${times(helped)} batches are begun by somebody of the next section.`,
    ]
      .filter(Boolean)
      .join(" ") + " Each as often as that in a night, in the mean.",
  sure: "Common spreads, no source; your own come from the record. What a rehearsal says is an expectation, not a promise.",
};

function times(x: number): string {
  return x < 10 ? String(Math.round(10 * x) / 10) : String(Math.round(x));
}

function share(x: number): string {
  const p = 100 * x;
  return `${p > 0 && p < 1 ? "under 1" : p < 10 ? Math.round(10 * p) / 10 : Math.round(p)} %`;
}
