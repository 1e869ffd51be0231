import { get, update } from "idb-keyval";
import { api, settle, type Schemas } from "./client";
import { device, newId, serverNow } from "./live";

// What is tapped is kept in this browser until the server has it: through a reload, and as long as the line is cut. It is sent in the order
// in which it was tapped, with when that was; what waited is said to have been kept, and the server writes it whatever it says.

export type Tap = Omit<Schemas["EventIn"], "id" | "device" | "count" | "kept">;
export type Kept = Schemas["EventIn"] & { service: string };
export type Outcome = Schemas["Outcome"];

const shelf = "taps";

// moment is how soon after a tap, or after the server has it, the same one is a finger that came down twice, in milliseconds.
const moment = 1500;

// once are the kinds that say nothing more when they are said again.
const once: ReadonlySet<string> = new Set([
  "fired",
  "ready",
  "called",
  "held",
  "plated",
  "sent",
  "seated",
  "next",
]);

// sameAs is what a tap is about: two with the same say the same.
export const sameAs = (t: Tap) => [t.kind, t.task, t.table, t.course, t.round].map((x) => x ?? "").join("|");

// Shown is what the screens know of the taps: those that are still kept, and what was said of one that was not taken.
export interface Shown {
  kept: readonly Kept[];
  no: Outcome | null;
}

// Taps sends what is tapped, for all the screens of this page.
class Taps {
  private shown: Shown = { kept: [], no: null };
  private readonly hearing = new Set<() => void>();
  private sending: Promise<void> = Promise.resolve();
  private timer = 0;
  private started = false;
  private list: Kept[] = [];
  private readonly recent = new Map<string, { id: string; at: number }>();

  readonly subscribe = (f: () => void) => {
    this.hearing.add(f);
    return () => void this.hearing.delete(f);
  };

  readonly read = () => this.shown;

  private heard(kept: readonly Kept[], outcomes: readonly Outcome[]) {
    const no = outcomes.find((o) => o.as === "refused" || o.as === "to-settle");
    this.shown = { kept, no: no ?? this.shown.no };
    this.hearing.forEach((f) => f());
  }

  // clear forgets what was said of the last tap.
  private clear() {
    this.shown = { ...this.shown, no: null };
  }

  // start takes up what an earlier visit left: that was kept, whether or not the line was seen to be cut before the page went.
  async start() {
    if (this.started) return;
    this.started = true;
    const left = (await get<Kept[]>(shelf).catch(() => undefined)) ?? [];
    const kept = left.map((e) => ({ ...e, kept: true }));
    this.list = [...kept, ...this.list.filter((e) => !left.some((o) => o.id === e.id))];
    this.heard(this.list, []);
    if (this.list.length > 0) this.send();
  }

  // tap keeps what was tapped, and sends it. It answers with the id by which it is taken back. A finger that comes down twice has tapped
  // once.
  async tap(service: string, t: Tap): Promise<string> {
    const twice = this.twice(t);
    if (twice) return twice;
    const e: Kept = {
      ...t,
      service,
      id: newId(),
      device: device(),
      count: nextCount(),
      at: new Date(serverNow()).toISOString(),
    };
    this.recent.set(sameAs(t), { id: e.id, at: Date.now() });
    if (t.kind === "undone")
      for (const [key, r] of this.recent) if (r.id === t.undoes) this.recent.delete(key);
    this.clear();
    await this.write((old) => [...old, e]); // what is shown as tapped is kept already
    this.list = [...this.list, e];
    this.heard(this.list, []);
    this.send();
    return e.id;
  }

  // twice is the id of a tap that says the same, where it was made a moment ago or is still kept; "" for none.
  private twice(t: Tap): string {
    if (!once.has(t.kind)) return "";
    const key = sameAs(t);
    const r = this.recent.get(key);
    if (!r) return "";
    const kept = this.list.some((e) => e.id === r.id);
    return kept || Date.now() - r.at < moment ? r.id : "";
  }

  // send tries to send all that is kept, one batch after another.
  send() {
    window.clearTimeout(this.timer);
    this.sending = this.sending.then(() => this.sendOnce()).catch(() => undefined);
  }

  private async sendOnce(most = 100) {
    const first = this.list[0];
    if (!first) return;
    const batch = this.list.filter((e) => e.service === first.service).slice(0, most);
    try {
      const answer = await settle(
        api.POST("/api/services/{id}/events", {
          params: { path: { id: first.service } },
          body: { events: batch.map(said) },
        }),
      );
      await this.drop(batch, answer.taken);
      if (this.list.length > 0) await this.sendOnce();
    } catch (e) {
      const status = (e as { status?: number }).status ?? 0;
      if (status === 422 && batch.length > 1) {
        // One of them is not understood: the others are.
        await this.sendOnce(1);
        return;
      }
      if (status === 404 || status === 422) {
        // Nobody will ever take it: it is said, and dropped.
        await this.drop(
          batch,
          batch.map((b) => ({
            id: b.id,
            as: "refused" as const,
            said: { key: "", text: (e as Error).message },
          })),
        );
        await this.sendOnce();
        return;
      }
      this.list = this.list.map((x) => ({ ...x, kept: true }));
      await this.write((old) => old.map((x) => ({ ...x, kept: true })));
      this.heard(this.list, []);
      this.timer = window.setTimeout(() => this.send(), 3000);
    }
  }

  private async drop(batch: Kept[], outcomes: Outcome[]) {
    const gone = new Set(batch.map((e) => e.id));
    for (const r of this.recent.values()) if (gone.has(r.id)) r.at = Date.now(); // the screens show it in a moment
    this.list = this.list.filter((e) => !gone.has(e.id));
    await this.write((old) => old.filter((e) => !gone.has(e.id)));
    this.heard(this.list, outcomes);
  }

  // write changes what the browser keeps; a browser that keeps nothing goes on with what this page remembers.
  private write(change: (old: Kept[]) => Kept[]) {
    return update<Kept[]>(shelf, (old) => change(old ?? [])).catch(() => undefined);
  }
}

// said is a tap as the server hears it.
function said(k: Kept): Schemas["EventIn"] {
  const e: Partial<Kept> = { ...k };
  delete e.service;
  return e as Schemas["EventIn"];
}

function nextCount(): number {
  const n = Number(window.localStorage.getItem("taps-counted") ?? "0") + 1;
  window.localStorage.setItem("taps-counted", String(n));
  return n;
}

export const taps = new Taps();
