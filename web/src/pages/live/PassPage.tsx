import { useLayoutEffect, useRef, useState } from "react";
import { joinKey, type Due, type JoinDue } from "../../api/live";
import { useHouse } from "../../api/queries";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock } from "../../ui/time";
import { Gate } from "../fire/Gate";
import { Head, Waiting } from "./Head";
import { OffPanel } from "./OffPanel";
import { OrderPanel } from "./OrderPanel";
import { PlateCard } from "./PlateCard";
import { Ring } from "./Ring";
import { useRunning, type Running } from "./useService";

// stair is how many joins come up beside the nearest.
const stair = 5;

// lateFrom is from how many milliseconds after its plan a forecast is drawn as late.
const lateFrom = 60_000;

const isLate = (j: JoinDue) => Date.parse(j.forecast) - Date.parse(j.at) > lateFrom;

// PassPage is the pass in service: the next joins, the nearest large, what it waits for and who has it; what is called, held and sent.
export function PassPage() {
  const r = useRunning();
  return (
    <div className="live pass-screen">
      <Head r={r} title={text.screens.pass} under={r.service?.name ?? ""} sound={[]} />
      {r.due?.phase === "open" ? <Joins r={r} due={r.due} /> : <Before r={r} />}
    </div>
  );
}

function Before({ r }: { r: Running }) {
  return (
    <>
      <Waiting r={r} here />
      {r.service && r.due?.phase === "not-open" && (
        <div className="before">
          <Gate id={r.service.id} />
          <Button look="primary" onClick={() => r.tap(text.fire.running.open, { kind: "opened" })}>
            {text.fire.running.open}
          </Button>
        </div>
      )}
    </>
  );
}

const reasons = ["under", "overdone", "cold", "wrong", "dropped"] as const;

function Joins({ r, due }: { r: Running; due: Due }) {
  const house = useHouse();
  const [chosen, setChosen] = useState("");
  const [panel, setPanel] = useState<"" | "back" | "off" | "plate" | "keys" | "order">("");
  const words = text.live;
  const next = due.joins.filter((j) => j.standing !== "sent" && j.standing !== "skipped");
  const gone = due.joins.filter((j) => j.standing === "sent");
  const join = next.find((j) => joinKey(j) === chosen) ?? next[0];
  const at = (j: JoinDue) => ({ table: j.table, course: j.course, round: j.round });
  const press = (kind: "called" | "held" | "sent") => {
    if (!join) return;
    r.tap(`${join.name}, ${text.courses[join.course]}: ${text.fire.running.said[kind]}`, {
      kind,
      ...at(join),
    });
    if (kind === "sent") setChosen("");
  };
  const step = (by: number) => {
    const i = next.findIndex((j) => j === join);
    const to = next[Math.max(0, Math.min(next.length - 1, i + by))];
    if (to) setChosen(joinKey(to));
  };
  const keysRef = useRef<(key: string) => void>(() => undefined);
  useLayoutEffect(() => {
    keysRef.current = (key) => {
      if (key === "c") press("called");
      else if (key === "h") press("held");
      else if (key === "s") press("sent");
      else if (key === "u") r.undo();
      else if (key === "o") setPanel("order");
      else if (key === "arrowright") step(1);
      else if (key === "arrowleft") step(-1);
      else if (key === "?") setPanel((p) => (p === "keys" ? "" : "keys"));
      else if (key === "escape") setPanel("");
    };
  });
  useLayoutEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      if (!typing && !e.ctrlKey && !e.metaKey && !e.altKey && !e.repeat) keysRef.current(e.key.toLowerCase());
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  const open = (p: typeof panel) => setPanel(panel === p ? "" : p);
  const section = (id: string) => house.data?.sections.find((s) => s.id === id)?.name ?? id;
  if (!join)
    return (
      <div className="before">
        <p className="waiting">{words.allSent}</p>
        <Button look="primary" onClick={() => r.tap(text.fire.running.close, { kind: "closed" })}>
          {text.fire.running.close}
        </Button>
      </div>
    );
  if (panel === "order") return <OrderPanel r={r} table="" pass onClose={() => setPanel("")} />;
  const others = next.filter((j) => j !== join).slice(0, stair);
  const rows = waits(join);
  return (
    <>
      <main className="pass-grid">
        <section className="nearest" data-late={isLate(join)}>
          <Ring join={join} size={300} />
          <h1>
            {join.name}, {text.courses[join.course]}
          </h1>
          <p className="figure">
            <b>{clock(join.forecast)}</b>{" "}
            {clock(join.forecast) !== clock(join.wanted_at) && `${words.wanted} ${clock(join.wanted_at)}`}{" "}
            {join.standing !== "planned" && text.fire.running.standings[join.standing]}
            {join.call_at && ` ${words.callBy} ${clock(join.call_at)}`}
          </p>
          <ul className="plates-of">
            {join.served.map((d) => (
              <li key={d.dish + (d.variant ?? "")}>
                {d.count} × {briefly(d.name)} {d.variant && <b>{d.variant}</b>}
              </li>
            ))}
          </ul>
          {join.needs.length > 0 && <p className="needs">▲ {join.needs.join(", ")}</p>}
        </section>
        <ol className="stair">
          {others.map((j, i) => (
            <li key={joinKey(j)}>
              <button
                type="button"
                className={j.standing === "planned" ? undefined : j.standing}
                data-late={isLate(j)}
                onClick={() => setChosen(joinKey(j))}
              >
                <Ring join={j} size={[150, 128, 112, 92, 80][i] ?? 80} />
                <b>{text.courses[j.course]}</b>
                <span className="figure">{clock(j.forecast)}</span>
                {j.call_at && (
                  <small>
                    {words.callBy} {clock(j.call_at)}
                  </small>
                )}
                {i < 2 && <span className={waits(j).length > 0 ? "names" : "names whole"}>{naming(j)}</span>}
              </button>
            </li>
          ))}
        </ol>
        <section className="waits-for" aria-label={`${join.name} ${words.waits}`}>
          {panel === "" && (
            <>
              <h2>{rows.length > 0 ? `${join.name} ${words.waits}` : `${join.name}: ${words.complete}`}</h2>
              <ul className="rows">
                {rows.slice(0, 5).map((p) => (
                  <li key={p.component} data-state={p.state}>
                    <span className="dot" aria-hidden />
                    <b>{p.what}</b>
                    <span>{section(p.section)}</span>
                    <span className="figure">{words.states[p.state]}</span>
                  </li>
                ))}
              </ul>
            </>
          )}
          {panel === "plate" && <PlateCard joins={[join]} />}
          {panel === "keys" && <p className="panel">{words.passKeys}</p>}
          {panel === "back" && (
            <CameBack
              list={gone.slice(-6)}
              onSay={(j, why) => {
                r.tap(`${j.name}: ${words.cameBack}`, { kind: "sent-back", why, ...at(j) });
                setPanel("");
              }}
            />
          )}
          {panel === "off" && <OffPanel r={r} due={due} join={join} onClose={() => setPanel("")} />}
        </section>
      </main>
      <footer className="presses">
        <Button onClick={() => press("called")} aria-keyshortcuts="c">
          {text.fire.running.press.called}
        </Button>
        <Button onClick={() => press("held")} aria-keyshortcuts="h">
          {text.fire.running.press.held}
        </Button>
        <Button
          look={rows.length === 0 ? "primary" : "outline-primary"}
          onClick={() => press("sent")}
          aria-keyshortcuts="s"
        >
          {text.fire.running.press.sent}
          <small>{words.plates(join.plates)}</small>
        </Button>
        <Button onClick={() => open("order")} aria-keyshortcuts="o">
          {words.orderPress}
        </Button>
        <Button aria-expanded={panel === "back"} onClick={() => open("back")}>
          {words.cameBack}
        </Button>
        <Button aria-expanded={panel === "off"} onClick={() => open("off")}>
          {words.offPress}
          {due.off.length > 0 && <small>{due.off.length}</small>}
        </Button>
        <Button aria-expanded={panel === "plate"} onClick={() => open("plate")}>
          {words.plate}
        </Button>
        <Button disabled={!r.last} onClick={r.undo} aria-keyshortcuts="u">
          {words.undo}
        </Button>
      </footer>
    </>
  );
}

// briefly is a dish by its first words: the rest of its name says what lies beside them.
const briefly = (name: string) => name.split(",")[0] ?? name;

// waits is what a join still waits for: what it is late for first, then what is not begun, then what is on.
function waits(j: JoinDue) {
  const order = { over: 0, waiting: 1, firing: 2, ready: 3 } as const;
  return j.parts.filter((p) => p.state !== "ready").sort((a, b) => order[a.state] - order[b.state]);
}

// naming is a join in words for two metres: "waits: beet, fowl".
function naming(j: JoinDue): string {
  const list = waits(j).map((p) => p.what);
  if (list.length === 0) return text.live.complete;
  return `${text.live.waitsShort} ${list.slice(0, 2).join(", ")}${list.length > 2 ? ` +${list.length - 2}` : ""}`;
}

function CameBack({ list, onSay }: { list: JoinDue[]; onSay: (j: JoinDue, why: string) => void }) {
  const [join, setJoin] = useState<JoinDue | null>(null);
  const words = text.live;
  return (
    <div className="panel" role="dialog" aria-label={words.cameBack}>
      <b>{join ? `${join.name}, ${text.courses[join.course]}` : words.whichCame}</b>
      <span className="presses">
        {join
          ? reasons.map((w) => (
              <Button key={w} onClick={() => onSay(join, words.reasons[w])}>
                {words.reasons[w]}
              </Button>
            ))
          : list.map((j) => (
              <Button key={joinKey(j)} onClick={() => setJoin(j)}>
                {j.name}
                <small>{text.courses[j.course]}</small>
              </Button>
            ))}
      </span>
    </div>
  );
}
