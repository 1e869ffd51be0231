import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { joinKey } from "../../api/live";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { StepBars } from "../../ui/StepBars";
import { Table } from "../../ui/Table";
import { clock, span } from "../../ui/time";
import { Along } from "./Along";
import { off, seconds, standing, type Join, type Night } from "./night";
import { NightNotes } from "./Notes";
import { Probes } from "./Probes";
import { ThrownAway } from "./ThrownAway";

type Step = Schemas["RealStep"];

// NightPage is a service as it was: what cost most, its courses along the clock, and paper over stove.
export function NightPage() {
  const { id = "" } = useParams();
  const words = text.back;
  const [chosen, setChosen] = useState("");
  const night = useQuery({
    queryKey: keys.back(id),
    queryFn: () => settle(api.GET("/api/lookback/{id}", { params: { path: { id } } })),
    staleTime: 60_000,
  });
  if (night.error) return <Failed error={night.error} retry={() => void night.refetch()} />;
  if (!night.data) return null;
  const n = night.data;
  const worst = n.joins.reduce<Join | undefined>((a, j) => (!a || j.late_s > a.late_s ? j : a), undefined);
  const join = n.joins.find((j) => joinKey(j) === chosen) ?? worst;
  return (
    <article className="sheet back">
      <header>
        <div>
          <h1>{n.name}</h1>
          <p className="quiet">{words.title}</p>
        </div>
        <div className="variants">
          {(["night.pdf", "night.xlsx", "steps.csv", "courses.csv"] as const).map((f) => (
            <a key={f} className="btn btn-outline-primary" href={`/api/lookback/${id}/${f}`}>
              {words.file[f]}
            </a>
          ))}
          <a className="btn btn-outline-primary" href={`/api/services/${id}/log.jsonl`}>
            {words.log}
          </a>
          <Link className="btn btn-outline-primary" to="/back">
            {words.all}
          </Link>
        </div>
      </header>
      <section className="card-enamel">
        <h2>{words.how}</h2>
        <ul className="said">
          {n.said.map((m, i) => (
            <li key={i} className={i === 0 ? "lead-line" : undefined}>
              {m.text}
            </li>
          ))}
        </ul>
      </section>
      <section className="card-enamel">
        <h2>{words.along}</h2>
        <Along n={n} chosen={join ? joinKey(join) : ""} choose={setChosen} />
        <p className="quiet">{words.alongNote(n.grace_s)}</p>
        {join && <Made n={n} join={join} />}
      </section>
      {n.holds.length > 0 && (
        <section className="card-enamel">
          <h2>{words.held}</h2>
          <Held n={n} />
        </section>
      )}
      {n.probes.length > 0 && <Probes list={n.probes} />}
      <section className="card-enamel">
        <h2>{words.paper}</h2>
        <Paper n={n} />
        <p className="quiet">{words.paperNote}</p>
      </section>
      <ThrownAway service={id} />
      <NightNotes service={id} groups={[...new Set(n.joins.map((j) => j.name))]} steps={n.paper} />
      <section className="card-enamel">
        <h2>{words.people}</h2>
        <Table
          columns={words.peopleColumns}
          rows={n.people.map((p) => [p.name, p.runs, span(p.planned_s), span(p.real_s), off(p.late_s, 15)])}
        />
      </section>
    </article>
  );
}

// Made is what a course was made of: each step as planned, and as it was.
function Made({ n, join }: { n: Night; join: Join }) {
  const list = n.steps.filter((s) => s.joins.some((j) => joinKey(j) === joinKey(join)));
  return (
    <div className="made">
      <h3>
        {text.back.join(join.name, text.courses[join.course])}{" "}
        <span className={join.late_s > n.grace_s ? "mark-late" : "quiet"}>{standing(join)}</span>
      </h3>
      <p className="quiet figure">
        {text.back.wanted} {clock(join.wanted_at)}
        {join.sent_at && ` · ${text.back.left} ${clock(join.sent_at)}`}
        {join.back.length > 0 && ` · ${text.back.back}: ${join.back.join(", ")}`}
      </p>
      <StepBars
        wanted={seconds(n, join.wanted_at)}
        sent={join.sent_at ? seconds(n, join.sent_at) : undefined}
        wantedWord={text.back.wanted}
        list={list.map((s) => {
          const p = seconds(n, s.planned_at);
          const at = s.at ? seconds(n, s.at) : undefined;
          return {
            key: s.task,
            name: `${s.what} · ${s.act}`,
            said: took(s),
            paper: [p, p + s.planned_s],
            stove: at !== undefined && s.real_s !== undefined ? [at, at + s.real_s] : undefined,
            off: (s.real_s ?? 0) > s.planned_s + 20,
          };
        })}
      />
      <p className="quiet">{text.back.outline}</p>
    </div>
  );
}

const took = (s: Step) => `${span(s.planned_s)} → ${s.real_s === undefined ? "?" : span(s.real_s)}`;

// Held is what waited longer than it may, the worst first.
function Held({ n }: { n: Night }) {
  const [all, setAll] = useState(false);
  const names = new Map(n.joins.map((j) => [j.table, j.name]));
  return (
    <>
      <Table
        columns={text.back.heldColumns}
        rows={n.holds
          .slice(0, all ? undefined : 6)
          .map((h) => [
            `${h.what}, ${h.act}`,
            [...new Set(h.joins.map((j) => names.get(j.table) ?? j.table))].join(", "),
            span(h.may_s),
            span(h.waited_s),
          ])}
      />
      {!all && n.holds.length > 6 && (
        <button type="button" className="link" onClick={() => setAll(true)}>
          + {n.holds.length - 6}
        </button>
      )}
      <p className="quiet">{text.back.heldNote(n.kept)}</p>
    </>
  );
}

// Paper is each step of the evening, written and taken, what differs most first.
function Paper({ n }: { n: Night }) {
  const [all, setAll] = useState(false);
  const list = n.paper;
  return (
    <>
      <Table
        columns={text.back.columns}
        rows={list.slice(0, all ? undefined : 10).map((l) => [
          `${l.what}, ${l.act}`,
          l.runs,
          span(l.planned_s),
          span(l.real_s),
          <b key="more" className={l.real_s > l.planned_s * 1.05 ? "mark-late" : undefined}>
            {l.more_s >= 0 ? "+" : ""}
            {span(l.more_s)}
          </b>,
        ])}
      />
      {!all && list.length > 10 && (
        <button type="button" className="link" onClick={() => setAll(true)}>
          + {list.length - 10}
        </button>
      )}
    </>
  );
}
