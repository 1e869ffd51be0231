import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Says } from "./Says";
import { Weeks } from "./Weeks";

type NightLine = Schemas["NightLine"];

// BackPage is the record of the services that are over: what it says about what is written, and each evening at a glance.
export function BackPage() {
  const words = text.back;
  const go = useNavigate();
  const [one, setOne] = useState("");
  const [params, setParams] = useSearchParams();
  const weekly = params.get("by") === "week";
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
        <div className="variants">
          <Link className="btn btn-outline-primary" to="/back/amounts">
            {words.amounts}
          </Link>
        </div>
      </header>
      <section className="card-enamel">
        <h2>{words.learnt}</h2>
        {v.learnt.length === 0 && <p>{words.learntNone(v.looked)}</p>}
        <ul className="learnt">
          {v.learnt.map((l) => (
            <Says key={`${l.kind}/${l.component ?? ""}/${l.step ?? ""}/${l.what}/${l.day ?? 0}`} l={l} />
          ))}
        </ul>
        {v.learnt.length > 0 && <p className="quiet">{words.learntNote(v.looked)}</p>}
      </section>
      <div className="by" role="group" aria-label={words.by}>
        <button type="button" aria-pressed={!weekly} onClick={() => setParams({}, { replace: true })}>
          {words.nights}
        </button>
        <button
          type="button"
          aria-pressed={weekly}
          onClick={() => setParams({ by: "week" }, { replace: true })}
        >
          {words.weeks}
        </button>
      </div>
      {weekly ? <Weeks list={v.weeks} /> : <Nights list={v.nights} one={one} put={put} />}
    </article>
  );
}

// Nights are the evenings at a glance, the last first.
function Nights({ list, one, put }: { list: readonly NightLine[]; one: string; put: (id: string) => void }) {
  const words = text.back;
  return (
    <ol className="nights">
      {list.map((n) => (
        <li key={n.service}>
          <Link className="card-enamel" to={`/back/${n.service}`}>
            <b>{n.name}</b>
            <span className="figure">
              {words.covers(n.covers)} · {words.late(n.late, n.courses)}
            </span>
            <Glance n={n} />
            <small className="quiet">{words.mean(n.late_s)}</small>
          </Link>
          {list.length > 1 && (
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
