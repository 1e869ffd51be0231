import { useEffect, useState, useSyncExternalStore } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { serverNow, useLive, type Due } from "../../api/live";
import { taps, type Kept, type Tap } from "../../api/taps";
import { useServices } from "../prep/usePrep";
import { usePractice } from "../train/usePractice";
import { like } from "./goOn";

export interface Running {
  service: Pick<Schemas["Service"], "id" | "name"> | null;
  practice: Schemas["PracticeView"] | null; // what is shown is played
  due: Due | null;
  alone: boolean; // the line to the server is cut
  since: string; // since when, as HH:MM, "" while it is not
  now: number; // by the server's clock
  clock: string; // HH:MM:SS of the kitchen
  kept: readonly Kept[];
  // said is what the last tap was answered with, where it was refused or has to be settled; last is the tap that may be taken back.
  said: string;
  last: { id: string; what: string } | null;
  tap: (what: string, t: Tap) => void;
  undo: () => void;
}

// undoFor is for how long a tap can be taken back here, in milliseconds.
const undoFor = 60_000;

// useRunning is the service that a screen shows: the one that was asked for, or the next one that is not over.
export function useRunning(): Running {
  const services = useServices();
  const [params] = useSearchParams();
  const wanted = params.get("service");
  const practice = usePractice(wanted?.startsWith("practice-") ? wanted : "").data ?? null;
  const booked = services.data?.find((s) => (wanted ? s.service.id === wanted : !s.over))?.service ?? null;
  const service = practice ? { id: practice.id, name: practice.name } : booked;
  const id = practice?.cut ? "" : (service?.id ?? "");
  const { due, alone } = useLive(id);
  const [now, setNow] = useState(serverNow);
  useEffect(() => {
    const t = window.setInterval(() => setNow(serverNow()), 500);
    return () => window.clearInterval(t);
  }, []);
  useAwake();
  const { kept, no } = useSyncExternalStore(taps.subscribe, taps.read);
  const [last, setLast] = useState<{ id: string; what: string; at: number } | null>(null);
  useEffect(() => {
    void taps.start();
    const again = () => taps.send();
    window.addEventListener("online", again);
    return () => window.removeEventListener("online", again);
  }, []);
  useEffect(() => {
    if (!alone) taps.send();
  }, [alone]);
  const cut = alone || kept.some((k) => k.kept);
  const [since, setSince] = useState("");
  // Before the first word of the server is taken in, this screen's own clock says nothing.
  const told = due !== null && now > Date.parse(due.at) - 60_000 && now < Date.parse(due.at) + 24 * 3600_000;
  const clock = told ? like(now, due.at).slice(11, 19) : "";
  const then = due !== null && !told ? Date.parse(due.at) : now;
  if (cut && since === "" && clock) setSince(clock.slice(0, 5));
  if (!cut && since !== "") setSince("");
  const tap = (what: string, t: Tap) => {
    void taps.tap(id, t).then((tapped) => {
      setLast(t.kind === "undone" ? null : { id: tapped, what, at: serverNow() });
    });
  };
  const fresh = last && now - last.at < undoFor && no?.id !== last.id ? last : null;
  return {
    service,
    practice,
    due,
    alone: cut,
    since,
    now: then,
    clock,
    kept,
    said: no?.said?.text ?? "",
    last: fresh,
    tap,
    undo: () => {
      if (fresh) tap("", { kind: "undone", undoes: fresh.id });
    },
  };
}

// useAwake keeps the screen from going dark, where the browser lets a page do so.
function useAwake() {
  useEffect(() => {
    if (!("wakeLock" in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    const hold = () => {
      if (document.visibilityState === "visible")
        void navigator.wakeLock.request("screen").then(
          (l) => (lock = l),
          () => undefined, // the battery is low: then it goes dark
        );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, []);
}
