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

// skew is by how much the server's clock is before this screen's, in milliseconds, as it was last heard.
let skew = 0;

// serverNow is the instant by the server's clock.
export const serverNow = () => Date.now() + skew;

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
    line.addEventListener("due", (e) => {
      spoke = true;
      setAlone(false);
      const due = JSON.parse(String(e.data)) as Due;
      skew = Date.parse(due.at) - Date.now();
      setHeard({ service, due });
      rememberDue(service, due, skew);
    });
    void lastDue(service).then((x) => {
      if (!x || spoke) return;
      skew = x.skew;
      setHeard({ service, due: x.due });
    });
    line.addEventListener("plan", () => void client.invalidateQueries({ queryKey: keys.fire(service) }));
    line.onerror = () => setAlone(true);
    return () => line.close();
  }, [service, client]);
  return { due: heard?.service === service ? heard.due : null, alone };
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
