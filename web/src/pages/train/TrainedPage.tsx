import { useRef } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock, span } from "../../ui/time";
import { useWidth } from "../../ui/useWidth";
import { StrandsOf } from "./StrandsOf";
import { useBegin, usePractice } from "./usePractice";

type Cooked = Schemas["CookedRun"];

// TrainedPage is how somebody cooked: a mark with its reasons, and what happened along the clock.
export function TrainedPage() {
  const { id = "" } = useParams();
  const practice = usePractice(id);
  const begin = useBegin();
  const sections = useHouse().data?.sections ?? [];
  const words = text.train;
  if (practice.error) return <Failed error={practice.error} retry={() => void practice.refetch()} />;
  if (!practice.data) return null;
  const p = practice.data;
  const r = p.result;
  const again = (seed?: number) =>
    void begin({
      service: p.service,
      section: p.section,
      person: p.person,
      exercise: p.exercise?.id,
      trouble: p.trouble,
      seed,
    });
  return (
    <article className="sheet rehearse train trained">
      <header>
        <div>
          <h1>{words.how}</h1>
          <p className="quiet">
            {[
              p.person,
              sections.find((s) => s.id === p.section)?.name,
              p.exercise?.name ?? words.whole,
              p.name,
              words.night(p.seed),
            ]
              .filter(Boolean)
              .join(" · ")}
          </p>
        </div>
        <div className="variants">
          {r && <Button onClick={() => again(p.seed)}>{words.again}</Button>}
          {r && <Button onClick={() => again()}>{words.other}</Button>}
          <Link
            className="btn btn-outline-primary"
            to={`/fire/train?service=${p.service}&section=${p.section}${p.person ? `&who=${encodeURIComponent(p.person)}` : ""}`}
          >
            {words.title}
          </Link>
        </div>
      </header>
      {!r && (p.judging || p.running) && <p role="status">{p.running ? words.goesOn : words.judging}</p>}
      {!r && p.cut && <p className="mark-late">▲ {words.cut}</p>}
      {r && (
        <>
          <div className="card-enamel marked">
            <b className="figure">{words.mark(r.mark)}</b>
            <ul>
              {r.parts.map((x) => (
                <li key={x.what}>
                  <span>{words.parts[x.what]}</span>
                  <span className="bar" aria-hidden>
                    <span style={{ width: `${(100 * x.points) / x.of}%` }} />
                  </span>
                  <span className="figure">{words.points(x.points, x.of)}</span>
                  <span className="quiet">{x.said.text}</span>
                </li>
              ))}
            </ul>
          </div>
          {r.ended && <p className="quiet">{words.ended}</p>}
          <section className="card-enamel">
            <h2>{words.remarks}</h2>
            {r.remarks.length === 0 && <p>{words.fine}</p>}
            <ul className="remarks">
              {r.remarks.map((x, i) => (
                <li key={i} data-what={x.what}>
                  <b className="figure">{x.at ? clock(x.at) : ""}</b>
                  <span>{x.said.text}</span>
                </li>
              ))}
            </ul>
          </section>
          {r.cooked.length > 0 && (
            <section className="card-enamel">
              <h2>{words.along}</h2>
              <Along list={r.cooked} />
              <p className="quiet">{words.alongNote}</p>
            </section>
          )}
          {r.strands.length > 0 && <StrandsOf list={r.strands} />}
          <p className="quiet">{words.sure}</p>
        </>
      )}
    </article>
  );
}

// Along is when each run was due and when it was fired, one lane for each thing.
function Along({ list }: { list: Cooked[] }) {
  const box = useRef<HTMLDivElement>(null);
  const width = Math.max(320, useWidth(box));
  const lanes = [...new Set(list.map((r) => r.what))];
  const left = Math.min(240, width * 0.32);
  const step = 30;
  const height = lanes.length * step + 30;
  const due = (r: Cooked) => Date.parse(r.due_at);
  const fired = (r: Cooked) => (r.fired_at ? Date.parse(r.fired_at) : due(r) + 1000 * r.late_s);
  const from = Math.min(...list.map((r) => Math.min(due(r), fired(r)))) - 30_000;
  const to = Math.max(...list.map((r) => Math.max(due(r), fired(r)))) + 60_000;
  const x = (t: number) => left + ((t - from) / (to - from)) * (width - left - 20);
  const every =
    [60, 120, 300, 600, 1800, 3600].find((s) => ((to - from) / 1000 / s) * 64 < width - left) ?? 3600;
  const first = Math.ceil(from / (1000 * every)) * 1000 * every;
  const ticks = Array.from(
    { length: Math.floor((to - first) / (1000 * every)) + 1 },
    (_, i) => first + 1000 * every * i,
  );
  const sample = list[0]?.due_at ?? "";
  return (
    <div ref={box} className="cooked">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        height={height}
        role="img"
        aria-label={text.train.along}
      >
        {ticks.map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={0} y2={height - 22} className="hair" />
            <text x={x(t)} y={height - 6} textAnchor="middle">
              {wallAt(t, sample)}
            </text>
          </g>
        ))}
        {lanes.map((what, i) => (
          <g key={what}>
            <text x={left - 10} y={i * step + 20} textAnchor="end" className="name">
              {what.length > left / 7.5 ? `${what.slice(0, Math.floor(left / 7.5) - 1)}…` : what}
            </text>
            {list
              .filter((r) => r.what === what)
              .map((r) => (
                <g key={r.task} className={r.late_s > 30 ? "late" : r.late_s < -90 ? "early" : undefined}>
                  <line
                    x1={x(due(r))}
                    x2={x(fired(r))}
                    y1={i * step + 15}
                    y2={i * step + 15}
                    className="off"
                  />
                  <line x1={x(due(r))} x2={x(due(r))} y1={i * step + 5} y2={i * step + 25} className="due" />
                  {r.fired_at && <circle cx={x(fired(r))} cy={i * step + 15} r={4} />}
                  <title>{said(r)}</title>
                </g>
              ))}
          </g>
        ))}
      </svg>
    </div>
  );
}

function said(r: Cooked) {
  const words = text.train;
  const how = !r.fired_at
    ? words.never_
    : r.late_s < 0
      ? words.early(span(-r.late_s))
      : words.late(span(r.late_s));
  return `${r.portions} × ${r.what}, ${clock(r.due_at)}: ${how}`;
}

// wallAt is an instant by the kitchen's clock, of which another instant says the zone.
function wallAt(ms: number, other: string): string {
  const zone = /([+-])(\d\d):(\d\d)$/.exec(other);
  const by = zone ? (zone[1] === "-" ? -1 : 1) * (Number(zone[2]) * 60 + Number(zone[3])) : 0;
  return new Date(ms + by * 60_000).toISOString().slice(11, 16);
}
