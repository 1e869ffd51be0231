import { useEffect, useState, useSyncExternalStore } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { joinKey, type Due, type JoinDue } from "../../api/live";
import { useHouse } from "../../api/queries";
import { taps, type Tap } from "../../api/taps";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock } from "../../ui/time";
import { awayLine } from "../live/away";
import { Gate } from "./Gate";

const shown = 5;

// gateWithin is how long before its first plates it is said what is not ready for a service, in milliseconds: tomorrow's is made tomorrow.
const gateWithin = 12 * 3600_000;

// lateFrom is from how many milliseconds after its plan a forecast is drawn as late.
const lateFrom = 60_000;

// Running is the service as it goes on: what comes together next, what each waits for, and the presses of the pass.
export function Running({
  plan,
  id,
  due,
  alone,
  chosen,
  onChoose,
}: {
  plan: Schemas["FireView"];
  id: string;
  due: Due;
  alone: boolean;
  chosen: string;
  onChoose: (join: string) => void;
}) {
  const house = useHouse().data;
  const sections = house?.sections ?? [];
  const { no } = useSyncExternalStore(taps.subscribe, taps.read);
  const [tapped, setTapped] = useState<{ id: string; what: string } | null>(null);
  useEffect(() => void taps.start(), []);
  const tap = (what: string, t: Tap) =>
    void taps.tap(id, t).then((made) => setTapped(t.kind === "undone" ? null : { id: made, what }));
  const refused = no?.said?.text ?? "";
  const last = tapped && tapped.id !== no?.id ? tapped : null;
  const soon = due.joins[0] && Date.parse(due.joins[0].at) - Date.parse(due.at) < gateWithin;
  const ids = new Map(plan.joins.map((j) => [joinKey(j), j.id]));
  const join = due.joins.find((j) => ids.get(joinKey(j)) === chosen);
  const gone = due.joins.filter((j) => j.standing === "sent").length;
  const next = due.joins.filter((j) => j.standing !== "sent" && j.standing !== "skipped");
  const words = text.fire.running;
  return (
    <section className="card-enamel running" data-phase={due.phase}>
      <h2>{words.phases[due.phase]}</h2>
      <p className="screens">
        {words.screens}{" "}
        {[
          ["pass", text.screens.pass],
          ["board", text.live.board],
          ["floor", text.live.floor],
          ...due.sections.map((s) => [
            `section/${s.section}`,
            sections.find((x) => x.id === s.section)?.name ?? s.section,
          ]),
        ].map(([to, name]) => (
          <Link key={to} to={`/${to}?service=${id}`}>
            {name}
          </Link>
        ))}
      </p>
      {alone && <p className="mark-late">▲ {words.alone}</p>}
      {refused && (
        <p className="mark-late" role="alert">
          ▲ {refused}
        </p>
      )}
      {due.phase === "not-open" && (
        <>
          <p className="quiet">{words.before}</p>
          {soon && <Gate id={id} />}
          <Button look="primary" onClick={() => tap(words.open, { kind: "opened" })}>
            {words.open}
          </Button>
        </>
      )}
      {due.phase === "open" && (
        <>
          <p className="quiet figure">
            {gone} {words.of} {due.joins.length} {words.sent}
          </p>
          {due.stuck && <p className="mark-late">▲ {text.live.stuck(clock(due.stuck))}</p>}
          {due.settle.map((u) => (
            <p key={u.event} className="mark-late">
              ▲ {words.settle} {u.said.text}
            </p>
          ))}
          {due.out.map((a) => (
            <p key={a.event} className="mark-late">
              ▲ {awayLine(a, house)}
            </p>
          ))}
          <ul className="coming">
            {next.slice(0, shown).map((j) => (
              <Coming
                key={joinKey(j)}
                join={j}
                chosen={ids.get(joinKey(j)) === chosen}
                onChoose={() => onChoose(ids.get(joinKey(j)) ?? "")}
              />
            ))}
          </ul>
          {join && join.standing !== "sent" && (
            <span className="variants presses">
              {(["called", "held", "sent"] as const).map((kind) => (
                <Button
                  key={kind}
                  look={kind === "sent" ? "primary" : "outline-primary"}
                  onClick={() =>
                    tap(`${join.name}: ${words.said[kind]}`, {
                      kind,
                      table: join.table,
                      course: join.course,
                      round: join.round,
                    })
                  }
                >
                  {words.press[kind]}
                </Button>
              ))}
            </span>
          )}
          {!join && <p className="quiet">{words.choose}</p>}
        </>
      )}
      {last && (
        <p className="said-line" aria-live="polite">
          {last.what}.{" "}
          <Button onClick={() => tap("", { kind: "undone", undoes: last.id })}>{words.back}</Button>
        </p>
      )}
      {due.phase === "open" && next.length === 0 && (
        <Button onClick={() => tap(words.close, { kind: "closed" })}>{words.close}</Button>
      )}
    </section>
  );
}

// Coming is one join: how much of it is done around it, when it comes, what it waits for.
function Coming({ join: j, chosen, onChoose }: { join: JoinDue; chosen: boolean; onChoose: () => void }) {
  const late = Date.parse(j.forecast) - Date.parse(j.at) > lateFrom;
  const around = 2 * Math.PI * 11;
  const words = text.fire.running;
  return (
    <li>
      <button type="button" aria-pressed={chosen} onClick={onChoose}>
        <svg width={30} height={30} viewBox="-15 -15 30 30" aria-hidden>
          <circle r={11} fill="none" stroke="var(--hair)" strokeWidth={4} />
          <circle
            r={11}
            fill="none"
            stroke={late ? "var(--vermilion)" : "var(--leaf)"}
            strokeWidth={4}
            strokeDasharray={`${j.of > 0 ? (j.done / j.of) * around : 0} ${around}`}
            transform="rotate(-90)"
          />
        </svg>
        <span>
          <b>
            {j.name}, {text.courses[j.course]}
          </b>
          <span className="quiet">
            {j.waits_for[0]
              ? `${words.waits} ${j.waits_for[0].what}`
              : j.standing === "planned"
                ? `${j.done} ${words.of} ${j.of} ${words.done}`
                : words.standings[j.standing]}
          </span>
        </span>
        <b className={late ? "figure mark-late" : "figure"}>{clock(j.forecast)}</b>
      </button>
    </li>
  );
}
