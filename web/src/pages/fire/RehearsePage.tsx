import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { Link, useSearchParams } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Table } from "../../ui/Table";
import { useWidth } from "../../ui/useWidth";
import { useServices } from "../prep/usePrep";
import { useBegin } from "../train/usePractice";
import { wallClock } from "./wallClock";

type View = Schemas["RehearsalView"];
type Rehearsal = Schemas["Rehearsal"];

const nights = 200;

// RehearsePage is a service that is played many times before it happens: how often what is late, what it waits for, and what would help.
export function RehearsePage() {
  const [params] = useSearchParams();
  const services = useServices();
  const queries = useQueryClient();
  const line = services.data?.find((s) =>
    params.get("service") ? s.service.id === params.get("service") : !s.over,
  );
  const id = line?.service.id ?? "";
  const view = useQuery({
    queryKey: keys.rehearsal(id),
    queryFn: () => settle(api.GET("/api/services/{id}/rehearsal", { params: { path: { id } } })),
    enabled: id !== "",
    refetchInterval: (q) => (q.state.data?.running ? 400 : false),
  });
  const begin = useBegin();
  const words = text.rehearse;
  const error = services.error ?? view.error;
  if (error) return <Failed error={error} retry={() => void services.refetch().then(() => view.refetch())} />;
  if (services.data && !line)
    return (
      <div className="empty card-enamel">
        <h1>{words.title}</h1>
        <p>{text.fire.none}</p>
        <Link className="btn btn-primary" to="/prep/services">
          {text.prep.services}
        </Link>
      </div>
    );
  if (!line || !view.data) return null;
  const v = view.data;
  const keep = (x: View) => queries.setQueryData(keys.rehearsal(id), x);
  const play = () =>
    void settle(
      api.POST("/api/services/{id}/rehearsal", { params: { path: { id } }, body: { nights } }),
    ).then((x) => {
      keep(x);
      void view.refetch();
    });
  const stop = () =>
    void settle(api.DELETE("/api/services/{id}/rehearsal", { params: { path: { id } } })).then(keep);
  const printed = v.policies.find((p) => p.policy === "as-printed");
  return (
    <article className="sheet rehearse">
      <header>
        <div>
          <h1>{words.title}</h1>
          <p className="quiet">{words.of(line.service.name)}</p>
        </div>
        <div className="variants">
          <Link className="btn btn-outline-primary" to={`/fire?service=${id}`}>
            {text.screens.fire}
          </Link>
          <Link className="btn btn-outline-primary" to={`/fire/train?service=${id}`}>
            {text.train.title}
          </Link>
          <Button onClick={() => void begin({ service: id, pace: 8 })}>{text.train.watch}</Button>
          {v.running ? (
            <Button onClick={stop}>{words.stop}</Button>
          ) : (
            <Button look="primary" onClick={play}>
              {v.plan > 0 ? words.again(nights) : words.play(nights)}
            </Button>
          )}
        </div>
      </header>
      {v.running && (
        <div className="played" role="status">
          <progress value={v.done} max={v.of} aria-label={words.playing(v.done, v.of)} />
          <span className="figure">{words.playing(v.done, v.of)}</span>
        </div>
      )}
      {v.stale && !v.running && <p className="mark-late">▲ {words.stale}</p>}
      {!printed && !v.running && <p className="lead-line">{words.first}</p>}
      {printed && (
        <>
          <p className="lead-line">
            {words.says(printed.nights, printed.late, printed.worst_s, printed.grace_s)}
          </p>
          <section className="card-enamel">
            <h2>{words.along}</h2>
            <Along r={printed} origin={v.origin} />
            <p className="quiet">{words.alongNote(printed.grace_s)}</p>
          </section>
          <div className="two">
            <Breaks r={printed} />
            <Helps v={v} printed={printed} />
          </div>
          <p>{words.differs(printed.off, printed.vain, printed.helped)}</p>
          <Policies v={v} />
          <Courses r={printed} origin={v.origin} />
          <p className="quiet">{words.sure}</p>
        </>
      )}
    </article>
  );
}

// Along is how often each course is late, along the clock of the evening.
function Along({ r, origin }: { r: Rehearsal; origin: string }) {
  const box = useRef<HTMLDivElement>(null);
  const width = Math.max(320, useWidth(box));
  const height = 190;
  const [left, bottom, top] = [48, 26, 22];
  const from = Math.floor(Math.min(...r.joins.map((j) => j.wish_s)) / 1800) * 1800;
  const to = Math.ceil((Math.max(...r.joins.map((j) => j.wish_s)) + 1) / 1800) * 1800;
  const x = (s: number) => left + ((s - from) / (to - from)) * (width - left - 24);
  const most = Math.max(0.2, ...r.joins.map((j) => j.late));
  const y = (share: number) => top + (1 - share / most) * (height - top - bottom);
  const hours = Array.from({ length: (to - from) / 1800 + 1 }, (_, i) => from + i * 1800);
  return (
    <div ref={box}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        height={height}
        role="img"
        aria-label={text.rehearse.along}
      >
        {hours.map((s) => (
          <g key={s}>
            <line x1={x(s)} x2={x(s)} y1={top} y2={height - bottom} className="hair" />
            <text x={x(s)} y={height - 8} textAnchor="middle">
              {wallClock(origin, s)}
            </text>
          </g>
        ))}
        {[0, most / 2, most].map((s) => (
          <text key={s} x={left - 6} y={y(s) + 4} textAnchor="end">
            {text.rehearse.share(s)}
          </text>
        ))}
        <line x1={left} x2={width - 24} y1={y(0)} y2={y(0)} className="base" />
        {r.joins.map((j) => (
          <g key={`${j.table}/${j.course}/${j.round ?? 0}`} className={j.late > 0.25 ? "often" : undefined}>
            <line x1={x(j.wish_s)} x2={x(j.wish_s)} y1={y(0)} y2={y(j.late)} className="stem" />
            <circle cx={x(j.wish_s)} cy={y(j.late)} r={4} />
            <title>{`${j.name}, ${text.courses[j.course]} ${wallClock(origin, j.wish_s)}: ${text.rehearse.share(j.late)}`}</title>
          </g>
        ))}
        {named(r).map((j) => (
          <text
            key={`${j.table}/${j.course}`}
            x={x(j.wish_s)}
            y={y(j.late) - 9}
            textAnchor="middle"
            className="name"
          >
            {j.name.replace(/^Table /, "")}
          </text>
        ))}
      </svg>
    </div>
  );
}

// named are the courses that are late most often, apart enough to be read.
function named(r: Rehearsal) {
  const out: Rehearsal["joins"] = [];
  for (const j of [...r.joins].sort((a, b) => b.late - a.late).slice(0, 12))
    if (j.late > 0.1 && out.every((o) => Math.abs(o.wish_s - j.wish_s) > 240)) out.push(j);
  return out;
}

function Breaks({ r }: { r: Rehearsal }) {
  const words = text.rehearse;
  const sections = useHouse().data?.sections ?? [];
  const name = (id?: string) => sections.find((s) => s.id === id)?.name ?? "";
  return (
    <section className="card-enamel">
      <h2>{words.breaks}</h2>
      {r.causes.length === 0 && <p className="quiet">{words.none}</p>}
      <ol className="causes">
        {r.causes.slice(0, 5).map((c) => (
          <li key={`${c.section}/${c.resource}`}>
            {words.cause(words.share(c.share), name(c.section), c.resource ? c.name : "")}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Helps({ v, printed }: { v: View; printed: Rehearsal }) {
  const words = text.rehearse;
  const list = [...v.changes].sort((a, b) => a.goes.late - b.goes.late);
  return (
    <section className="card-enamel">
      <h2>{words.helps}</h2>
      {list.length === 0 && <p className="quiet">{v.running ? words.looking : words.nothing}</p>}
      {list.length > 0 && list.every((c) => c.goes.late >= printed.late) && (
        <p>{v.running ? words.noneYet : words.noneHelps}</p>
      )}
      <ol className="causes">
        {list.map((c) => (
          <li key={c.mend}>
            {c.said.text}{" "}
            <b className={c.goes.late < printed.late ? "mark-good" : "quiet"}>
              {words.fewer(words.share(printed.late), words.share(c.goes.late))}
            </b>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Policies({ v }: { v: View }) {
  const words = text.rehearse;
  return (
    <section className="card-enamel">
      <h2>{words.policies}</h2>
      <Table
        columns={words.columns}
        rows={v.policies.map((p) => [
          words.policy[p.policy],
          p.nights,
          words.share(p.late),
          words.minutes(p.late_s),
          words.minutes(p.worst_s),
          words.held(p.held_min),
        ])}
      />
    </section>
  );
}

function Courses({ r, origin }: { r: Rehearsal; origin: string }) {
  const words = text.rehearse;
  return (
    <details className="card-enamel">
      <summary>{words.courses}</summary>
      <Table
        columns={words.columnsOf}
        rows={r.joins.map((j) => [
          `${j.name}, ${text.courses[j.course]}`,
          wallClock(origin, j.wish_s),
          words.share(j.late),
          j.late > 0 ? words.minutes(j.late_s) : "",
          j.bad_s > 0 ? words.minutes(j.bad_s) : "",
        ])}
      />
    </details>
  );
}
