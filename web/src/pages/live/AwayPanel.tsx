import { useState } from "react";
import type { Due } from "../../api/live";
import { useHouse } from "../../api/queries";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock } from "../../ui/time";
import { whoIs } from "./away";
import type { Running } from "./useService";

type Whom = { who?: string; equipment?: string; name: string };

// lasting are for how many minutes somebody can be said to be away by one press; 0 where nobody knows.
const lasting = [5, 10, 20, 30, 60, 0];

// Away says who or what is not there for a while, and that they are back.
export function Away({ r, due }: { r: Running; due: Due }) {
  const words = text.live;
  const house = useHouse().data;
  const [whom, setWhom] = useState<Whom | null>(null);
  const away = (w: Whom) =>
    due.out.some((a) => (w.who ? a.who === w.who : a.who === undefined && a.equipment === w.equipment));
  const people: Whom[] = (house?.people ?? []).map((p) => ({ who: p.id, name: p.name }));
  const things: Whom[] = (house?.equipment ?? [])
    .filter((e) => used(due, e.name))
    .map((e) => ({ equipment: e.id, name: e.name }));
  const say = (w: Whom, minutes: number) => {
    r.tap(words.awayFor(w.name, minutes), {
      kind: "out",
      who: w.who,
      equipment: w.equipment,
      ...(minutes > 0 ? { until: new Date(r.now + minutes * 60_000).toISOString() } : {}),
    });
    setWhom(null);
  };
  return (
    <div className="away-panel">
      {due.out.length > 0 && (
        <span className="presses are-away">
          {due.out.map((a) => {
            const name = whoIs(a, house);
            return (
              <Button
                key={a.event}
                look="primary"
                onClick={() =>
                  r.tap(`${name} ${words.back}`, { kind: "in", who: a.who, equipment: a.equipment })
                }
              >
                {name} {words.back}
                <small>{a.until ? `${words.awayUntil} ${clock(a.until)}` : words.unknownUntil}</small>
              </Button>
            );
          })}
        </span>
      )}
      <b>{whom ? words.howLong(whom.name) : words.whoIsAway}</b>
      <span className="presses who">
        {whom
          ? lasting.map((m) => (
              <Button key={m} onClick={() => say(whom, m)}>
                {m > 0 ? `${m} min` : words.unknownUntil}
              </Button>
            ))
          : [...people, ...things]
              .filter((w) => !away(w))
              .map((w) => (
                <Button key={(w.who ?? "") + (w.equipment ?? "")} onClick={() => setWhom(w)}>
                  {w.name}
                </Button>
              ))}
      </span>
    </div>
  );
}

// used reports whether something of the service is still done on a piece of equipment.
const used = (due: Due, name: string) =>
  due.sections.some((s) => [...s.now, ...s.on, ...s.next, ...s.then].some((l) => l.how.on.includes(name)));
