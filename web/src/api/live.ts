import { useQueryClient } from "@tanstack/react-query";
import { createContext, useEffect, useState } from "react";
import type { Schemas } from "./client";
import { keys } from "./keys";
import { lastDue, rememberDue } from "./remember";

export type Due = Schemas["DueView"];
export type JoinDue = Schemas["JoinDue"];

// LiveJoins is how each join of the service that goes on stands, by table, course and round; empty while none goes on.
export const LiveJoins = createContext<ReadonlyMap<string, JoinDue>>(new Map());

export const joinKey = (j: { table: string; course: string; round?: number }) =>
  `${j.table}/${j.course}/${j.round ?? 0}`;

// skew is by how much the server's clock is before this screen's, in milliseconds, as it was last heard; pace how many times as fast as
// this one it goes since then, where what is shown is played.
let skew = 0;
let pace = 1;
let heardAt = 0;

// serverNow is the instant by the clock of what is shown.
export const serverNow = () => {
  const here = Date.now();
  return here + skew + (pace === 1 ? 0 : (here - heardAt) * (pace - 1));
};

// hear puts the clock by what the server says.
export function hear(due: Pick<Due, "at" | "pace">) {
  heardAt = Date.now();
  skew = Date.parse(due.at) - heardAt;
  pace = due.pace ?? 1;
}

// useLive is what stands in a service, told as it happens. It goes on by itself where its line was cut; alone says since when it is.
export function useLive(service: string): { due: Due | null; alone: boolean } {
  const client = useQueryClient();
  const [heard, setHeard] = useState<{ service: string; due: Due } | null>(null);
  const [alone, setAlone] = useState(false);
  useEffect(() => {
    if (service === "" || typeof EventSource === "undefined") return;
    const line = new EventSource(
      `/api/services/${encodeURIComponent(service)}/live?after=${Number.MAX_SAFE_INTEGER}`,
    );
    let spoke = false;
    let stands: Due | null = null;
    const told = (due: Due) => {
      spoke = true;
      stands = due;
      setAlone(false);
      hear(due);
      setHeard({ service, due });
      if (due.pace === undefined) rememberDue(service, due, skew); // what is played does not go on by itself
    };
    line.addEventListener("due", (e) => told(JSON.parse(String(e.data)) as Due));
    line.addEventListener("change", (e) => {
      if (stands) told(changed(stands, JSON.parse(String(e.data)) as Due));
    });
    void lastDue(service).then((x) => {
      if (!x || spoke) return;
      [skew, pace] = [x.skew, 1];
      setHeard({ service, due: x.due });
    });
    line.addEventListener("plan", () => void client.invalidateQueries({ queryKey: keys.fire(service) }));
    line.onerror = () => setAlone(true);
    return () => line.close();
  }, [service, client]);
  return { due: heard?.service === service ? heard.due : null, alone };
}

// changed is what is due with what is otherwise in it: the sections and joins that a change does not name stay as they are.
export function changed(was: Due, change: Due): Due {
  const sections = new Map(change.sections.map((s) => [s.section, s]));
  const joins = new Map(change.joins.map((j) => [joinKey(j), j]));
  return {
    ...change,
    sections: was.sections.map((s) => sections.get(s.section) ?? s),
    joins: was.joins.map((j) => joins.get(joinKey(j)) ?? j),
  };
}

// newId is an id that nobody else makes; where the page is not trusted the browser has no such thing ready.
export const newId = () =>
  typeof crypto.randomUUID === "function"
    ? crypto.randomUUID()
    : [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16).padStart(2, "0")).join("");

// device is this screen's own name, kept as long as the browser keeps anything.
export function device(): string {
  const kept = window.localStorage.getItem("device");
  if (kept) return kept;
  const made = `screen-${Math.random().toString(36).slice(2, 10)}`;
  window.localStorage.setItem("device", made);
  return made;
}
