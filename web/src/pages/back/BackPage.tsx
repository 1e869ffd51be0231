import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { span } from "../../ui/time";

type Learnt = Schemas["Learnt"];
type NightLine = Schemas["NightLine"];

// BackPage is the record of the services that are over: what it says about what is written, and each evening at a glance.
export function BackPage() {
  const words = text.back;
  const go = useNavigate();
  const [one, setOne] = useState("");
  const record = useQuery({
    queryKey: keys.back(),
    queryFn: () => settle(api.GET("/api/lookback")),
    refetchInterval: (q) => (q.state.data?.playing ? 1500 : false),
  });
  if (record.error) return <Failed error={record.error} retry={() => void record.refetch()} />;
  if (!record.data) return null;
  const v = record.data;
  if (v.nights.length === 0)
    return (
      <div className="empty card-enamel">
        <h1>{words.title}</h1>
        <p>{v.playing ? words.playing : words.none}</p>
        <p className="quiet">{words.noneSay}</p>
      </div>
    );
  const put = (id: string) => {
    if (one === "") setOne(id);
    else if (one === id) setOne("");
    else void go(`/back/beside?a=${one}&b=${id}`);
  };
  const first = v.nights.at(-1)?.name ?? "";
  return (
    <article className="sheet back">
      <header>
        <div>
          <h1>{words.title}</h1>
          <p className="quiet">
            {words.of(v.of)}
            {v.nights.length > 1 && `, ${first} – ${v.nights[0]?.name ?? ""}`}
            {v.playing && ` · ${words.playing}`}
          </p>
        </div>
      </header>
      <section className="card-enamel">
        <h2>{words.learnt}</h2>
        {v.learnt.length === 0 && <p>{words.learntNone(v.looked)}</p>}
        <ul className="learnt">
          {v.learnt.map((l) => (
            <Says key={`${l.kind}/${l.component ?? ""}/${l.step ?? ""}/${l.what}`} l={l} />
          ))}
        </ul>
        {v.learnt.length > 0 && <p className="quiet">{words.learntNote(v.looked)}</p>}
      </section>
      <h2>{words.nights}</h2>
      <ol className="nights">
        {v.nights.map((n) => (
          <li key={n.service}>
            <Link className="card-enamel" to={`/back/${n.service}`}>
              <b>{n.name}</b>
              <span className="figure">
                {words.covers(n.covers)} · {words.late(n.late, n.courses)}
              </span>
              <Glance n={n} />
              <small className="quiet">{words.mean(n.late_s)}</small>
            </Link>
            {v.nights.length > 1 && (
              <button
                type="button"
                className="link"
                aria-pressed={one === n.service}
                onClick={() => put(n.service)}
              >
                {one === n.service ? words.chosenBeside : words.putBeside}
              </button>
            )}
          </li>
        ))}
      </ol>
    </article>
  );
}

// Glance is an evening in a hand's breadth: each course by how late it was.
function Glance({ n }: { n: NightLine }) {
  const [width, height, base] = [240, 56, 40];
  const last = Math.max(1, ...n.joins.map((j) => j.wanted_s));
  const y = (s: number) => base - Math.max(-12, Math.min(38, (s / 600) * 38));
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      aria-label={text.back.late(n.late, n.courses)}
    >
      <line x1={0} x2={width} y1={base} y2={base} className="base" />
      {n.joins.map((j, i) => {
        const x = 4 + (j.wanted_s / last) * (width - 8);
        return (
          <line
            key={i}
            x1={x}
            x2={x}
            y1={base}
            y2={y(j.late_s)}
            className={j.late_s > 180 ? "late" : "stem"}
          />
        );
      })}
    </svg>
  );
}

// Says is something that the record says, with the press that writes it.
function Says({ l }: { l: Learnt }) {
  const words = text.back;
  const queries = useQueryClient();
  const [said, setSaid] = useState("");
  const [done, setDone] = useState(false);
  const [tried, setTried] = useState("");
  const look = () => {
    setTried(text.workingItOut);
    void settle(
      api.GET("/api/lookback/steps/{id}/{step}", {
        params: { path: { id: l.component ?? "", step: l.step ?? "" } },
      }),
    )
      .then((x) => setTried(x.said.text))
      .catch((e: unknown) => setTried((e as Error).message));
  };
  const use = () =>
    void settle(
      api.POST("/api/lookback/steps/{id}/{step}", {
        params: { path: { id: l.component ?? "", step: l.step ?? "" } },
        body: { version: l.version ?? 1 },
      }),
    )
      .then(() => {
        setDone(true);
        void queries.invalidateQueries({ queryKey: keys.component() });
        void queries.invalidateQueries({ queryKey: keys.fire() });
        void queries.invalidateQueries({ queryKey: keys.prep });
      })
      .catch((e: unknown) => setSaid((e as Error).message));
  return (
    <li data-kind={l.kind}>
      <Interval l={l} />
      <div>
        <p>
          {l.text.text}
          <br />
          <small className="quiet figure">{words.interval(l.low, l.high)}</small>
        </p>
        {said && <p className="mark-late">▲ {said}</p>}
        {done && (
          <p role="status">
            {words.used} <Link to={`/components/${l.component ?? ""}`}>{l.what}</Link>
          </p>
        )}
        {l.advice && <p>{l.advice.text}</p>}
        {tried && <p role="status">{tried}</p>}
        {l.kind === "person" && <small className="quiet">{words.person}</small>}
        {l.kind === "share" && <small className="quiet">{words.share}</small>}
      </div>
      {l.use && l.time && !done && (
        <span className="use">
          <Button onClick={use}>{words.use(ofTime(l.use))}</Button>
          <small className="quiet">{words.instead(ofTime(l.time))}</small>
          {!tried && <Button onClick={look}>{words.look}</Button>}
        </span>
      )}
    </li>
  );
}

const ofTime = (t: Schemas["StepTime"]) =>
  [
    t.fixed.likely > 0 ? span(t.fixed.likely) : "",
    t.per_portion.likely > 0 ? `${span(t.per_portion.likely)} a portion` : "",
  ]
    .filter(Boolean)
    .join(" + ");

// Interval is where a factor lies, beside what is written.
function Interval({ l }: { l: Learnt }) {
  const [width, height] = [150, 40];
  const far = Math.max(1.25, l.high, 1 / l.low);
  const x = (f: number) => width / 2 + (Math.log(f) / Math.log(far)) * (width / 2 - 10);
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden className="interval">
      <line x1={x(1)} x2={x(1)} y1={2} y2={26} className="written" />
      <line x1={x(l.low)} x2={x(l.high)} y1={14} y2={14} className="range" />
      <circle cx={x(l.factor)} cy={14} r={6} />
      <text x={x(1)} y={38} textAnchor="middle">
        {text.back.written}
      </text>
    </svg>
  );
}
