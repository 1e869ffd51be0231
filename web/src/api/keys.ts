import type { Schemas } from "./client";

// keys are the names under which answers are kept. A shorter key stands for all that begin with it.
export const keys = {
  session: ["session"] as const,
  access: ["access"] as const,
  demoClock: ["demo-clock"] as const,
  house: ["house"] as const,
  day: ["day"] as const,
  dishes: ["dishes"] as const,
  components: ["components"] as const,
  services: ["services"] as const,
  meals: (id?: string, version?: number) => kept("meals", id, version),
  stock: ["stock"] as const,
  recipes: ["recipes"] as const,
  temperatures: (day?: string) => kept("temperatures", day),
  dish: (id?: string, variant?: string, draft?: boolean) => kept("dish", id, variant, draft),
  plate: (id?: string, variant?: string, draft?: boolean) => kept("plate", id, variant, draft),
  history: (id?: string) => kept("history", id),
  compared: (id: string, was: number, is: number, newest: number) => kept("compared", id, was, is, newest),
  component: (id?: string) => kept("component", id),
  lines: (id?: string, version?: number) => kept("lines", id, version),
  newLines: (typed: string) => kept("new-lines", typed),
  readLines: (id: string, draft: string | null) => kept("read-lines", id, draft),
  plan: (wish?: Schemas["TableWish"]) => kept("plan", wish),
  platingLine: (wish: unknown, version: number) => kept("plating-line", wish, version),
  prep: ["prep"] as const,
  prepMends: (cost: number, now: string) => kept("prep", "mends", cost, now),
  fire: (service?: string, mend?: string) => kept("fire", service, mend),
  gate: (service: string) => kept("fire", service, "gate"),
  rehearsal: (service: string) => kept("rehearsal", service),
  notes: (where?: string) => kept("notes", where),
  back: (service?: string) => kept("back", service),
  amounts: ["amounts"] as const,
  thrown: (service: string) => kept("thrown", service),
  training: (person?: string) => kept("training", person),
  practice: (id: string) => kept("practice", id),
  menu: (service: string, plan: number) => kept("menu", service, plan),
  order: (service: string, line: string) => kept("order", service, line),
  standIns: (service: string, event: string, plan: number) => kept("stand-ins", service, event, plan),
  sheet: (service: string, plan: number, section: string, person: string) =>
    kept("fire", service, "sheet", plan, section, person),
  fireMends: (service: string, version: number) => kept("fire", service, "mends", version),
  fireJoin: (service: string, mend: string, join: string, cost: number, version: number) =>
    kept("fire", service, mend, "join", join, cost, version),
};

// kept drops what was not said from the end.
function kept(...parts: unknown[]): readonly unknown[] {
  let n = parts.length;
  while (n > 0 && parts[n - 1] === undefined) n--;
  return parts.slice(0, n);
}

export type Key = readonly unknown[];
