import { useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useHouse } from "../../api/queries";
import { useSession } from "../../api/session";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Table } from "../../ui/Table";
import { useWidth } from "../../ui/useWidth";
import { dayName } from "../prep/days";
import { useServices } from "../prep/usePrep";
import { screenOf, useBegin, useTraining, type Practice } from "./usePractice";

type Exercise = Schemas["Exercise"];

// TrainPage is what there is to train at, for a person at a section, and what they did so far.
export function TrainPage() {
  const [params, setParams] = useSearchParams();
  const services = useServices();
  const house = useHouse();
  const session = useSession().data;
  const begin = useBegin();
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  const line = services.data?.find((s) =>
    params.get("service") ? s.service.id === params.get("service") : !s.over,
  );
  const people = house.data?.people ?? [];
  const who = session?.signed_in ? session.name : (params.get("who") ?? "");
  const own = people.find((p) => p.name === who)?.sections[0];
  const sections = house.data?.sections ?? [];
  const section = params.get("section") ?? own ?? sections[0]?.id ?? "";
  const training = useTraining(who, section);
  const words = text.train;
  const error = services.error ?? house.error ?? training.error;
  if (error) return <Failed error={error} retry={() => void training.refetch()} />;
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
  if (!line || !training.data) return null;
  const { exercises, results, today } = training.data;
  const choose = (name: string, to: string) =>
    setParams(
      () => {
        // What was chosen a moment ago stands in the address before it stands on the page.
        const p = new URLSearchParams(window.location.search);
        if (to) p.set(name, to);
        else p.delete(name);
        if (name === "who") p.delete("section");
        return p;
      },
      { replace: true },
    );
  const start = (more: Partial<Schemas["PracticeIn"]>) => {
    setBusy(true);
    setProblem("");
    begin({ service: line.service.id, section, person: who, ...more }).catch((e: unknown) => {
      setBusy(false);
      setProblem((e as Error).message);
    });
  };
  const best = (x: Exercise) =>
    Math.max(
      -1,
      ...results.filter((r) => r.section === section && r.exercise?.id === x.id).map((r) => r.mark ?? -1),
    );
  const sectionName = (id: string) => sections.find((s) => s.id === id)?.name ?? id;
  return (
    <article className="sheet rehearse train" data-for={`${who}/${section}`}>
      <header>
        <div>
          <h1>{words.title}</h1>
          <p className="quiet">{words.of(line.service.name)}</p>
        </div>
        <div className="variants">
          <Link className="btn btn-outline-primary" to={`/fire/rehearse?service=${line.service.id}`}>
            {text.rehearse.title}
          </Link>
          <Link className="btn btn-outline-primary" to={`/fire?service=${line.service.id}`}>
            {text.screens.fire}
          </Link>
        </div>
      </header>
      <p className="lead-line">{words.first}</p>
      <div className="choosers">
        {session?.signed_in ? (
          <b>{who}</b>
        ) : (
          <label>
            {words.who}
            <select className="form-select" value={who} onChange={(e) => choose("who", e.target.value)}>
              <option value="">{words.nobody}</option>
              {people.map((p) => (
                <option key={p.id}>{p.name}</option>
              ))}
            </select>
          </label>
        )}
        <label>
          {words.section}
          <select className="form-select" value={section} onChange={(e) => choose("section", e.target.value)}>
            {sections.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {problem && (
        <p role="alert">
          <span className="mark-late">▲</span> {problem}
        </p>
      )}
      {today && (
        <section className="card-enamel today">
          <div>
            <h2>
              {words.today}: {today.name}
            </h2>
            <p>{today.about}</p>
            <p className="quiet">{words.todayNote}</p>
          </div>
          <Button look="primary" disabled={busy} onClick={() => start({ today: true })}>
            {words.begin}
          </Button>
        </section>
      )}
      <ol className="exercises">
        {exercises.map((x) => (
          <li key={x.id} className="card-enamel">
            <div>
              <b>{x.name}</b>
              <p>{x.about}</p>
              <small className="quiet figure">
                {words.times(x.pace)} · {words.trouble[x.trouble]}
              </small>
            </div>
            <span className="figure">{best(x) >= 0 ? words.best(best(x)) : words.never}</span>
            <Button disabled={busy} onClick={() => start({ exercise: x.id })}>
              {words.begin}
            </Button>
          </li>
        ))}
      </ol>
      <section className="card-enamel">
        <h2>{words.results}</h2>
        {results.length === 0 && <p className="quiet">{words.none}</p>}
        {results.filter((r) => r.mark !== undefined).length > 1 && <Marks list={results} />}
        {results.length > 0 && (
          <Table
            columns={words.columns}
            rows={results
              .slice(0, 30)
              .map((r) => [
                `${dayName(r.began_at.slice(0, 10))} ${r.began_at.slice(11, 16)}`,
                r.person || words.nobody,
                sectionName(r.section),
                r.exercise?.name ?? words.whole,
                <Standing key="mark" r={r} />,
              ])}
          />
        )}
      </section>
    </article>
  );
}

// Standing is the mark of one that has ended, with the way to it.
function Standing({ r }: { r: Practice }) {
  const words = text.train;
  if (r.running) return <Link to={screenOf(r)}>{words.toIt}</Link>;
  if (r.mark === undefined && !r.judging) return <span className="quiet">{words.cutShort}</span>;
  return <Link to={`/fire/train/${r.id}`}>{r.mark ?? words.how}</Link>;
}

// Marks are those of one person over time, or of everybody.
function Marks({ list }: { list: Practice[] }) {
  const box = useRef<HTMLDivElement>(null);
  const width = Math.max(320, useWidth(box));
  const height = 130;
  const marked = list.filter((r) => r.mark !== undefined).reverse();
  const x = (i: number) => 36 + (i / Math.max(1, marked.length - 1)) * (width - 60);
  const y = (mark: number) => 10 + (1 - mark / 100) * (height - 34);
  return (
    <div ref={box}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        height={height}
        role="img"
        aria-label={text.train.marks}
      >
        {[0, 50, 90].map((m) => (
          <g key={m}>
            <line x1={30} x2={width - 12} y1={y(m)} y2={y(m)} className={m === 0 ? "base" : "hair"} />
            <text x={26} y={y(m) + 4} textAnchor="end">
              {m}
            </text>
          </g>
        ))}
        <polyline className="run" points={marked.map((r, i) => `${x(i)},${y(r.mark ?? 0)}`).join(" ")} />
        {marked.map((r, i) => (
          <circle key={r.id} cx={x(i)} cy={y(r.mark ?? 0)} r={5}>
            <title>{`${r.began_at.slice(0, 10)} · ${r.exercise?.name ?? text.train.whole}: ${r.mark ?? 0}`}</title>
          </circle>
        ))}
      </svg>
    </div>
  );
}
