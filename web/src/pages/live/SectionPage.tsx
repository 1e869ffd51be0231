import { useLayoutEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { joinKey, type Due } from "../../api/live";
import { useHouse } from "../../api/queries";
import { useSession } from "../../api/session";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock } from "../../ui/time";
import { useWidth } from "../../ui/useWidth";
import { goOn, type Line } from "./goOn";
import { Head, Waiting } from "./Head";
import { nameOf } from "./OffPanel";
import { PlateCard } from "./PlateCard";
import { Ring } from "./Ring";
import { Strand, strandMinutes } from "./Strand";
import { useRunning, type Running } from "./useService";

// SectionPage is what a section works from in service: what to fire, what is on, what comes. It presses only where it differs from the
// plan.
export function SectionPage() {
  const { section = "" } = useParams();
  const r = useRunning();
  const house = useHouse();
  const session = useSession().data;
  const name = house.data?.sections.find((s) => s.id === section)?.name ?? section;
  const people = (house.data?.people ?? []).filter((p) => p.sections[0] === section).map((p) => p.name);
  return (
    <div className="live section-screen">
      <Head
        r={r}
        title={name}
        under={r.practice?.person || (session?.name ? session.name : people.join(", "))}
        sound={r.due?.sections.find((s) => s.section === section)?.now.map((l) => l.task) ?? []}
      />
      {r.due && r.due.phase === "open" ? <Work r={r} due={r.due} section={section} /> : <Waiting r={r} />}
    </div>
  );
}

const troubles = ["dropped", "burnt", "cold", "missing", "help"] as const;

function Work({ r, due, section }: { r: Running; due: Due; section: string }) {
  const list = goOn(due, section, r.kept, r.now);
  const [chosen, setChosen] = useState("");
  const [panel, setPanel] = useState<"" | "trouble" | "plate" | "keys">("");
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const lines = [...list.now, ...list.on, ...list.next];
  const line = lines.find((l) => l.task === chosen) ?? lines[0];
  const at = (l: Line) => ({
    task: l.task,
    component: l.component,
    step: l.step,
    section,
    portions: l.portions,
    joins: l.joins,
  });
  const words = text.live;
  const fire = (l: Line) => r.tap(`${l.what}: ${words.fired}`, { kind: "fired", ...at(l) });
  const ready = (l: Line) => r.tap(`${l.what}: ${words.isReady}`, { kind: "ready", ...at(l) });
  const more = (l: Line, minutes: number) =>
    r.tap(`${l.what}: +${minutes}`, { kind: "more", minutes, ...at(l) });
  const firing = list.now[0];
  const off = list.on.find((l) => l.standing === "asks") ?? list.on[0];
  const keysRef = useRef<(key: string) => void>(() => undefined);
  useLayoutEffect(() => {
    keysRef.current = (key) => {
      if (key === "f" && firing) fire(firing);
      else if (key === "r" && off) ready(off);
      else if (key === "l" && off) more(off, 1);
      else if (key === "u") r.undo();
      else if (key === "?") setPanel((p) => (p === "keys" ? "" : "keys"));
      else if (key === "escape") setPanel("");
    };
  });
  useLayoutEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!e.ctrlKey && !e.metaKey && !e.altKey && !e.repeat) keysRef.current(e.key.toLowerCase());
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  const together = sameTable(list.now, due);
  return (
    <>
      <p className="counts figure">
        {due.off.length > 0 && (
          <span className="told">
            {words.offNowList}{" "}
            {due.off
              .map((l) => nameOf(due, l) + (l.left > 0 ? ` (${words.order.left(l.left)})` : ""))
              .join(", ")}
          </span>
        )}
        {list.counts
          .filter((c) => c.left > 0)
          .slice(0, 8)
          .map((c) => (
            <span key={c.component}>
              <b>{c.left}</b> {c.what}
            </span>
          ))}
      </p>
      <div className="lanes">
        <div className="axis figure" aria-hidden>
          <span className="press-room" />
          <div ref={box} className="scale">
            {[0, 2, 4, 6, 8].map((m) => (
              <span key={m} style={{ left: `${(m / strandMinutes) * 100}%` }}>
                {m === 0 ? words.now : `+${m}`}
              </span>
            ))}
          </div>
        </div>
        {together && (
          <button type="button" className="together" onClick={() => together.lines.forEach(fire)}>
            {words.fireAll(together.lines.length, together.name)}
          </button>
        )}
        <ul>
          {lines.map((l) => (
            <Row
              key={l.task}
              l={l}
              r={r}
              due={due}
              width={width}
              chosen={l.task === line?.task}
              onChoose={() => setChosen(l.task)}
              onFire={() => fire(l)}
              onReady={() => ready(l)}
            />
          ))}
        </ul>
        {lines.length === 0 && <p className="nothing">{words.nothing}</p>}
        <ul className="then" aria-label={words.then}>
          {list.then.map((l) => (
            <li key={l.task}>
              <b className="figure">{l.away_s === undefined ? clock(l.fire_at) : words.fromAway(l.away_s)}</b>
              <span>
                {l.portions} × {l.what}
              </span>
              <span>{tables(l, due).join(", ")}</span>
            </li>
          ))}
        </ul>
      </div>
      {panel === "trouble" && line && (
        <div className="panel" role="dialog" aria-label={words.trouble}>
          <b>
            {line.portions} × {line.what}
          </b>
          <span className="presses">
            {troubles.map((t) => (
              <Button
                key={t}
                onClick={() => {
                  const why = `${words.troubles[t]}: ${line.what}`;
                  if (t === "dropped" || t === "burnt")
                    r.tap(`${line.what}: ${words.again}`, { kind: "again", why, ...at(line) });
                  else r.tap(why, { kind: "trouble", why, section });
                  setPanel("");
                }}
              >
                {words.troubles[t]}
              </Button>
            ))}
            <Button
              look="outline-danger"
              onClick={() => {
                r.tap(`${line.what}: ${words.off}`, { kind: "off", component: line.component });
                setPanel("");
              }}
            >
              {words.offNow}
            </Button>
          </span>
        </div>
      )}
      {panel === "keys" && <p className="panel">{words.sectionKeys}</p>}
      {panel === "plate" && line && <PlateCard joins={joinsOf(line, due)} />}
      <footer className="presses">
        <Button disabled={!line} onClick={() => line && more(line, 1)}>
          +1
        </Button>
        <Button disabled={!line} onClick={() => line && more(line, 2)}>
          +2
        </Button>
        <Button
          look="outline-danger"
          aria-expanded={panel === "trouble"}
          onClick={() => setPanel(panel === "trouble" ? "" : "trouble")}
        >
          {words.trouble}
        </Button>
        <Button aria-expanded={panel === "plate"} onClick={() => setPanel(panel === "plate" ? "" : "plate")}>
          {words.plate}
        </Button>
        <Button disabled={!r.last} onClick={r.undo}>
          {words.undo}
        </Button>
      </footer>
    </>
  );
}

// joinsOf are the tables' courses that a run is for.
const joinsOf = (l: Line, due: Due) =>
  l.joins.flatMap((j) => due.joins.find((d) => joinKey(d) === joinKey(j)) ?? []);

// tables are the names of those that a run is for.
const tables = (l: Line, due: Due) => [...new Set(joinsOf(l, due).map((j) => j.name))];

// sameTable are what is to be fired now for one table, where there are several: one press fires them.
function sameTable(now: Line[], due: Due): { name: string; lines: Line[] } | null {
  for (const l of now)
    for (const j of l.joins) {
      const lines = now.filter((o) => o.joins.some((k) => joinKey(k) === joinKey(j)));
      if (lines.length > 1)
        return { name: due.joins.find((d) => joinKey(d) === joinKey(j))?.name ?? j.table, lines };
    }
  return null;
}

function Row({
  l,
  r,
  due,
  width,
  chosen,
  onChoose,
  onFire,
  onReady,
}: {
  l: Line;
  r: Running;
  due: Due;
  width: number;
  chosen: boolean;
  onChoose: () => void;
  onFire: () => void;
  onReady: () => void;
}) {
  const words = text.live;
  const joins = joinsOf(l, due);
  const ring = joins[0];
  const names = tables(l, due);
  const away = (Date.parse(l.fire_at) - r.now) / 1000;
  const running = (r.now - Date.parse(l.fire_at)) / 1000;
  const left = (Date.parse(l.done_at) - r.now) / 1000;
  const act =
    l.standing === "due" || l.standing === "overdue"
      ? "fire"
      : l.standing === "on" || l.standing === "asks"
        ? "ready"
        : "";
  return (
    <li data-standing={l.standing} data-task={l.task} aria-current={chosen}>
      {act === "fire" ? (
        <button type="button" className="act fire" onClick={onFire}>
          {words.fire}
          <small>{l.standing === "overdue" ? words.overdue : `${words.by} ${clock(l.fire_at)}`}</small>
        </button>
      ) : act === "ready" ? (
        <button type="button" className="act ready" onClick={onReady}>
          {words.ready}
          <small>{left >= 0 ? `${words.in} ${span(left)}` : `${span(-left)} ${words.over}`}</small>
          <span
            className="runs-down"
            style={{ width: `${Math.max(0, Math.min(1, left / (left + running))) * 100}%` }}
          />
        </button>
      ) : (
        <span className="act when figure">
          {l.away_s === undefined ? clock(l.fire_at) : words.fromAway(l.away_s)}
          <small>
            {l.away_s !== undefined || l.standing === "waits"
              ? words.notCalled
              : `${words.in} ${rough(away)}`}
          </small>
        </span>
      )}
      <button type="button" className="what" onClick={onChoose}>
        <b>
          {l.portions} × {l.what}
          {l.act && <span className="quiet"> {l.act}</span>}
        </b>
        <Strand line={l} now={r.now} width={Math.max(60, width)} />
        <span className={l.standing === "overdue" || l.standing === "asks" ? "late" : "quiet"}>
          {[
            ...l.how.on,
            names.join(", "),
            l.how.apart || l.how.needs.length > 0 ? `${l.how.needs.join(", ")}: ${words.ownPan}` : "",
            l.core_c === undefined ? "" : words.core(l.core_c),
            ...l.how.checks.slice(0, act === "ready" ? 1 : 0),
            l.taken_by ? `${words.taken} ${l.taken_by}` : l.how.people.join(", "),
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
      </button>
      {ring && <Ring join={ring} size={64} />}
    </li>
  );
}

// span is a running count, in seconds below ten minutes; rough is how long until something, in minutes, half ones below three.
const span = (s: number) =>
  s < 600
    ? `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, "0")}`
    : `${Math.round(s / 60)} min`;
const rough = (s: number) =>
  s < 180
    ? `${(Math.round(Math.max(0, s) / 30) / 2).toString().replace(".5", "½").replace(/^0½/, "½")} min`
    : `${Math.round(s / 60)} min`;
