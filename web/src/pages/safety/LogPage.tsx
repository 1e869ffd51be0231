import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useHouse } from "../../api/queries";
import { useSave } from "../../api/useSave";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { clock } from "../../ui/time";
import { dayName } from "../prep/days";
import { ReadingPanel, type Wanted } from "./ReadingPanel";

// LogPage is the log of temperatures of a day: what is missing stands first, one press opens the keypad.
export function LogPage() {
  const house = useHouse();
  const [params, setParams] = useSearchParams();
  const day = params.get("day") ?? "";
  const log = useQuery({
    queryKey: keys.temperatures(day),
    queryFn: () => settle(api.GET("/api/safety/log", { params: { query: { day: day || undefined } } })),
    refetchInterval: 60_000,
  });
  const { save, problem } = useSave([keys.temperatures()]);
  const [wanted, setWanted] = useState<{ n: number; of: Wanted } | null>(null);
  if (house.data?.empty) return <Empty />;
  if (log.error && !log.data) return <Failed error={log.error} retry={() => void log.refetch()} />;
  if (!log.data || !house.data) return null;
  const l = log.data;
  const ask = (of: Wanted) => setWanted((w) => ({ n: (w?.n ?? 0) + 1, of }));
  const go = (by: number) => {
    const d = new Date(`${l.day}T12:00:00Z`);
    d.setUTCDate(d.getUTCDate() + by);
    setParams({ day: d.toISOString().slice(0, 10) }, { replace: true });
  };
  const file = (ending: string, of: string) => `/api/safety/log.${ending}?${of}`;
  const month = `month=${l.day.slice(0, 7)}`;
  return (
    <article className="temperatures">
      <header>
        <h1>
          {text.safety.log} <small className="quiet">{dayName(l.day)}</small>
        </h1>
        <div className="variants">
          <Button onClick={() => go(-1)}>{text.safety.dayBefore}</Button>
          {!l.today && <Button onClick={() => go(1)}>{text.safety.dayAfter}</Button>}
          {(
            [
              [text.safety.ofDay, `day=${l.day}`],
              [text.safety.ofMonth, month],
            ] as const
          ).map(([name, of]) => (
            <span key={of} className="files">
              {name}
              {(["pdf", "csv"] as const).map((ending) => (
                <a key={ending} href={file(ending, of)}>
                  {text.safety.files[ending]}
                </a>
              ))}
            </span>
          ))}
          <Link className="btn btn-outline-primary" to="/prep">
            {text.screens.prep}
          </Link>
        </div>
      </header>
      <Faulty problem={problem} />
      {l.today && (
        <div className="log-entry">
          <section className="card-enamel">
            <h2>{text.safety.missing}</h2>
            {l.due.length === 0 && <p className="mark-good">● {text.safety.nothingMissing}</p>}
            <ul className="dues">
              {l.due.map((d) => (
                <li key={d.said.text}>
                  <button
                    type="button"
                    className={d.late ? "late" : undefined}
                    aria-pressed={wanted?.of.what === d.what && wanted.of.kind === d.kind}
                    onClick={() => ask(wantedOf(d))}
                  >
                    <b>
                      {d.late ? "▲ " : "◌ "}
                      {d.said.text}
                    </b>
                    <span className="quiet">
                      {d.by ? `${text.safety.by} ${clock(d.by)}` : `${text.safety.since} ${clock(d.since)}`}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
            <h2>{text.safety.other}</h2>
            <div className="kinds">
              {Object.entries(text.safety.kinds).map(([kind, name]) => (
                <button
                  key={kind}
                  type="button"
                  onClick={() => ask({ kind: kind as Wanted["kind"], what: "" })}
                >
                  {name}
                </button>
              ))}
            </div>
          </section>
          {wanted ? (
            <ReadingPanel
              key={wanted.n}
              wanted={wanted.of}
              log={l}
              onClose={() => setWanted(null)}
              onWrite={async (r) =>
                (await save(() => settle(api.POST("/api/safety/log", { body: r })))) !== null
              }
            />
          ) : (
            <section className="card-enamel reading-panel">
              <p className="quiet">{text.safety.pick}</p>
            </section>
          )}
        </div>
      )}
      <section className="card-enamel">
        <h2>{text.safety.written}</h2>
        {l.lines.length === 0 && <p className="quiet">{text.safety.none}</p>}
        {[...l.lines].reverse().map((x) => (
          <LogLine
            key={x.number}
            line={x}
            onCorrect={
              l.today
                ? () =>
                    ask({
                      kind: x.kind,
                      what: x.what,
                      ref: x.ref,
                      subject: x.subject,
                      run: x.run,
                      corrects: x.number,
                    })
                : undefined
            }
          />
        ))}
      </section>
      <p className="quiet">
        {text.house.codes[house.data.kitchen.safety_code]}. {text.safety.caution}
      </p>
    </article>
  );
}

const wantedOf = (d: Schemas["Due"]): Wanted => ({
  kind: d.kind,
  what: d.kind === "probe" ? "" : d.what,
  ref: d.ref,
  subject: d.subject,
  run: d.run,
});

function LogLine({ line: x, onCorrect }: { line: Schemas["Line"]; onCorrect?: () => void }) {
  const mark = { within: "●", past: "▲", open: "◌", noted: "" }[x.state];
  const tone = { within: "mark-good", past: "mark-late", open: "mark-wait", noted: "quiet" }[x.state];
  return (
    <div className={`log-line${x.corrected ? " corrected" : ""}`} data-line={x.number} data-state={x.state}>
      <span className="figure">{clock(x.at)}</span>
      <span>
        <b>{x.what || text.safety.kinds[x.kind]}</b>{" "}
        <span className="quiet">
          {text.safety.kinds[x.kind]}
          {x.note && ` · ${x.note}`}
        </span>
      </span>
      <b className="figure degrees-of">{x.c === undefined ? "" : `${String(x.c).replace("-", "−")} °C`}</b>
      <span className={tone}>
        {mark} {x.corrected ? text.safety.correctedBy(x.corrected) : x.said.text}
        {x.corrects ? ` (${text.safety.corrects(x.corrects)})` : ""}
      </span>
      <span className="quiet">{x.person}</span>
      {onCorrect && !x.corrected ? <Button onClick={onCorrect}>{text.safety.correct}</Button> : <span />}
    </div>
  );
}
