import { del, get, set } from "idb-keyval";
import type { PersistQueryClientOptions } from "@tanstack/react-query-persist-client";
import type { Due } from "./live";
import { keys } from "./keys";

// What a screen in service has to know when it is loaded without a server: who is here, the house, the services, and what was told last.
// All else is asked for, or not known.

const shelf = "remembered";

// known are the answers that are remembered, by the first part of their keys.
const known: readonly unknown[] = [keys.session[0], keys.house[0], keys.services[0]];

// longest is for how long something is remembered, in milliseconds: a night, and the morning after.
const longest = 24 * 3600_000;

// remembering is what the pages' answers are remembered by.
export const remembering: Omit<PersistQueryClientOptions, "queryClient"> = {
  maxAge: longest,
  persister: {
    persistClient: (client) => set(shelf, client).catch(() => undefined), // a browser that keeps nothing asks again
    restoreClient: () => get(shelf).catch(() => undefined),
    removeClient: () => del(shelf).catch(() => undefined),
  },
  dehydrateOptions: {
    shouldDehydrateQuery: (q) => q.state.status === "success" && known.includes(q.queryKey[0]),
  },
};

interface LastDue {
  due: Due;
  skew: number; // of the server's clock, in milliseconds
}

// every is how often what is due is written down, in milliseconds.
const every = 5000;
let written = 0;

// rememberDue keeps what a service was told last.
export function rememberDue(service: string, due: Due, skew: number) {
  if (Date.now() - written < every) return;
  written = Date.now();
  void set(`due/${service}`, { due, skew } satisfies LastDue).catch(() => undefined);
}

// lastDue is what a service was told last, as far as that is remembered.
export const lastDue = (service: string): Promise<LastDue | undefined> =>
  get<LastDue>(`due/${service}`)
    .then((x) => (x && Date.now() + x.skew - Date.parse(x.due.at) < longest ? x : undefined))
    .catch(() => undefined);
