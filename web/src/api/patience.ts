// A server that does not answer is not waited for for ever. What is worked out, as a plan or what would help, takes longer than what is
// looked up, and on a machine that has much to do far longer: to give up there would show a fault where there is none.
const lookedUp = 15_000;
const workedOut = 120_000;

// What plans before it answers, if only the first time that it is asked.
const works = [
  /^\/api\/(plan|plating-line|demo|demo\/clock)$/,
  /^\/api\/(prep|fire|practices)(\/|$)/,
  /^\/api\/meals\/[^/]+\/plan$/,
  /^\/api\/services\/[^/]+\/(due|gate|menu|order|readings|rehearsal|slip|stand-ins)$/,
  /^\/api\/lookback\/./,
  /^\/api\/safety\/log$/,
];

// patienceFor is how long the answer to a path is waited for, in milliseconds.
export const patienceFor = (path: string): number => (works.some((w) => w.test(path)) ? workedOut : lookedUp);
