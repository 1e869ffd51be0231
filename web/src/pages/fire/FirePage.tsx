import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { useHouse } from "../../api/queries";
import { Empty, Failed } from "../../app/Empty";
import { placeJoins, profile, ticksOf, xOf, type Axis } from "../../charts/evening";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { hueOf } from "../../ui/Swatch";
import { clock, span } from "../../ui/time";
import { useWidth } from "../../ui/useWidth";
import { useServices } from "../prep/usePrep";
import { Fires } from "../dishes/Firing";
import { Strands } from "../dishes/Strands";

type View = Schemas["FireView"];
type Join = Schemas["EveningJoin"];

const ring = 34;
const head = 26;

// FirePage is a whole service: its joins along the clock, what is fired in each section,
// the load of everything with its limit, and what does not fit.
export function FirePage() {
  const house = useHouse();
  const services = useServices();
  const [params, setParams] = useSearchParams();
  const open = services.data?.filter((s) => !s.over) ?? [];
  const id = params.get("service") ?? open[0]?.service.id ?? "";
  const mend = params.get("mend") ?? "";
  const chosen = params.get("join") ?? "";
  const set = (changes: Record<string, string>) => {
    const next = new URLSearchParams(params);
    for (const [k, v] of Object.entries(changes)) {
      if (v) next.set(k, v);
      else next.delete(k);
    }
    setParams(next, { replace: true });
  };
  const plan = useQuery({
    queryKey: ["fire", id, mend],
    queryFn: () =>
      settle(api.GET("/api/fire/{id}", { params: { path: { id }, query: { mend: mend || undefined } } })),
    enabled: id !== "",
    placeholderData: (old) => old,
    refetchInterval: (q) => (q.state.data?.better ? 1500 : false),
  });
  if (house.data?.empty) return <Empty />;
  if (!house.data || !services.data) return null;
  if (id === "")
    return (
      <div className="empty card-enamel">
        <h1>{text.screens.fire}</h1>
        <p>{text.fire.none}</p>
        <Link className="btn btn-primary" to="/prep/services">
          {text.prep.services}
        </Link>
      </div>
    );
  if (plan.error && !plan.data) return <Failed error={plan.error} retry={() => void plan.refetch()} />;
  const p = plan.data;
  return (
    <article className="fire">
      <header>
        <div className="variants" role="group" aria-label={text.prep.services}>
          {open.map((s) => (
            <Button
              key={s.service.id}
              look={s.service.id === id ? "primary" : "outline-primary"}
              aria-pressed={s.service.id === id}
              onClick={() => set({ service: s.service.id, mend: "", join: "" })}
            >
              {s.service.name}
            </Button>
          ))}
        </div>
        {p && (
          <span className="quiet figure" aria-live="polite">
            {p.joins.length} {text.fire.joins}, {p.tasks} {text.fire.steps}
            {p.better && ` · ${text.fire.better}`}
          </span>
        )}
        <div className="variants">
          <Link className="btn btn-outline-primary" to={`/fire/sheet?service=${id}`}>
            {text.fire.sheet}
          </Link>
          <a className="btn btn-outline-primary" href={`/api/fire/${id}/files/workload.json`}>
            {text.fire.workload}
          </a>
          <a className="btn btn-outline-primary" href={`/api/fire/${id}/files/schedule.json`}>
            {text.fire.schedule}
          </a>
        </div>
      </header>
      {p && p.joins.length > 0 && (
        <div className="fire-body">
          <Evening
            plan={p}
            house={house.data}
            chosen={chosen}
            onChoose={(j) => set({ join: j === chosen ? "" : j })}
          />
          <Side
            plan={p}
            id={id}
            mend={mend}
            onTry={(m) => set({ mend: m })}
            onChoose={(j) => set({ join: j })}
          />
        </div>
      )}
      {p && p.joins.length === 0 && <p className="quiet">{text.fire.empty}</p>}
      {p && chosen && <OneJoin plan={p} id={id} mend={mend} join={chosen} house={house.data} />}
    </article>
  );
}

function Evening({
  plan,
  house,
  chosen,
  onChoose,
}: {
  plan: View;
  house: Schemas["House"];
  chosen: string;
  onChoose: (join: string) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const shown = useWidth(box);
  const [zoom, setZoom] = useState(1);
  const centre = useRef(0.5);
  const from = Date.parse(plan.from) - 5 * 60_000;
  const to = Date.parse(plan.to) + 8 * 60_000;
  const axis: Axis = useMemo(
    () => ({ from, to, width: Math.max(400, shown) * zoom }),
    [from, to, shown, zoom],
  );
  // Zooming keeps what is in the middle where it is.
  useLayoutEffect(() => {
    const el = box.current;
    if (el) el.scrollLeft = centre.current * axis.width - shown / 2;
  }, [axis, shown]);
  const change = (by: number) => {
    const el = box.current;
    if (el) centre.current = (el.scrollLeft + shown / 2) / axis.width;
    setZoom((z) => Math.min(12, Math.max(1, z * by)));
  };
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      if (typing) return;
      if (e.key === "+") change(1.5);
      if (e.key === "-") change(1 / 1.5);
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  });
  const { placed, rows } = placeJoins(plan.joins, axis, ring + 2);
  const sections = house.sections.filter((s) => plan.fires.some((f) => f.section === s.id));
  const mine = plan.joins.find((j) => j.id === chosen);
  const loads = [...plan.loads.filter((l) => !l.person), ...plan.loads.filter((l) => l.person)];
  const joinsHeight = head + rows * (ring + 2) + 6;
  const lane = 26;
  const loadHeight = 30;
  const loadsTop = joinsHeight + sections.length * lane + 10;
  const height = loadsTop + loads.length * (loadHeight + 10) + 6;
  return (
    <div className="evening card-enamel">
      <div className="evening-names" style={{ height }} aria-hidden="true">
        <span style={{ top: 2 }}>{text.fire.joinsTitle}</span>
        {sections.map((s, i) => (
          <span key={s.id} style={{ top: joinsHeight + i * lane + 3 }}>
            {s.name}
          </span>
        ))}
        {loads.map((l, i) => (
          <span key={l.id} className="load-name" style={{ top: loadsTop + i * (loadHeight + 10) }}>
            {l.name}
            <small className={!l.person && l.peak >= l.capacity ? "full" : undefined}>
              {l.person ? text.fire.hands : `${l.peak} ${text.prep.of} ${l.capacity} ${l.unit}`}
            </small>
          </span>
        ))}
      </div>
      <div
        className="evening-scroll"
        ref={box}
        tabIndex={0}
        aria-label={text.fire.scroll}
        onScroll={(e) => {
          centre.current = (e.currentTarget.scrollLeft + shown / 2) / axis.width;
        }}
      >
        <svg width={axis.width} height={height} role="group" aria-label={text.fire.joinsTitle}>
          {ticksOf(axis, plan.from).map((t) => (
            <g key={t.label}>
              <line x1={t.x} x2={t.x} y1={20} y2={height} stroke="#ece7da" />
              <text x={t.x} y={15} textAnchor="middle" className="tick">
                {t.label}
              </text>
            </g>
          ))}
          {mine && (
            <rect
              x={xOf(axis, mine.fire_at)}
              width={Math.max(2, xOf(axis, mine.at) - xOf(axis, mine.fire_at))}
              y={20}
              height={height - 20}
              fill="var(--enamel)"
              opacity={0.07}
            />
          )}
          {placed.map(({ join: j, x, row }) => (
            <Ring
              key={j.id}
              join={j}
              x={x}
              y={head + row * (ring + 2) + ring / 2}
              chosen={j.id === chosen}
              faded={chosen !== "" && j.id !== chosen}
              onChoose={() => onChoose(j.id)}
            />
          ))}
          {sections.map((s, i) => (
            <g key={s.id}>
              <line
                x1={0}
                x2={axis.width}
                y1={joinsHeight + i * lane}
                y2={joinsHeight + i * lane}
                stroke="#ece7da"
              />
              {plan.fires
                .filter((f) => f.section === s.id)
                .map((f, k) => {
                  const j = plan.joins.find((q) => q.id === f.join);
                  const a = xOf(axis, f.at);
                  const b = j ? xOf(axis, j.at) : a;
                  return (
                    <g key={k} opacity={chosen !== "" && f.join !== chosen ? 0.15 : 0.9}>
                      <title>{`${clock(f.at)} ${f.table}: ${f.count} ${f.what}`}</title>
                      <line
                        x1={a}
                        x2={b}
                        y1={joinsHeight + i * lane + 13}
                        y2={joinsHeight + i * lane + 13}
                        stroke={hueOf(s)}
                        strokeWidth={2}
                        opacity={0.25}
                      />
                      <rect
                        x={a}
                        y={joinsHeight + i * lane + 6}
                        width={4}
                        height={14}
                        rx={2}
                        fill={hueOf(s)}
                      />
                    </g>
                  );
                })}
            </g>
          ))}
          {loads.map((l, i) => (
            <g key={l.id} transform={`translate(0 ${loadsTop + i * (loadHeight + 10)})`}>
              <title>{`${l.name}: ${l.peak} ${text.prep.of} ${l.capacity} ${l.unit}`}</title>
              <line x1={0} x2={axis.width} y1={0} y2={0} stroke="var(--vermilion)" strokeDasharray="5 4" />
              <line x1={0} x2={axis.width} y1={loadHeight} y2={loadHeight} stroke="#d9d3c3" />
              <path
                d={profile(l, axis, loadHeight)}
                fill={l.person ? "#7b8b96" : "var(--enamel)"}
                opacity={0.55}
              />
              {l.heats
                .filter((h) => xOf(axis, h.to) - xOf(axis, h.from) > 34)
                .map((h, k) => (
                  <text key={k} x={xOf(axis, h.from) + 3} y={loadHeight - 4} className="tick">
                    {h.c}°
                  </text>
                ))}
            </g>
          ))}
        </svg>
      </div>
      <div className="zoom">
        <Button onClick={() => change(1.5)} aria-label={text.fire.closer}>
          +
        </Button>
        <Button onClick={() => change(1 / 1.5)} aria-label={text.fire.further}>
          −
        </Button>
      </div>
    </div>
  );
}

const courseMark = { first: "1", second: "2", main: "M", dessert: "D" } as const;

// Ring is one join: the table in it, its chance around it, a notch when it is late.
function Ring({
  join: j,
  x,
  y,
  chosen,
  faded,
  onChoose,
}: {
  join: Join;
  x: number;
  y: number;
  chosen: boolean;
  faded: boolean;
  onChoose: () => void;
}) {
  const late = j.late_s > 60;
  const over = j.over_s > 5;
  const r = ring / 2 - 3;
  const chance = Math.max(0, j.chance);
  const tone = late || over ? "var(--vermilion)" : chance < 0.75 ? "var(--ochre)" : "var(--leaf)";
  const around = 2 * Math.PI * r;
  return (
    <g
      className="join"
      data-join={j.id}
      transform={`translate(${x} ${y})`}
      tabIndex={0}
      role="button"
      aria-pressed={chosen}
      aria-label={`${j.name}, ${text.courses[j.course]}, ${clock(j.at)}, ${Math.round(chance * 100)} % ${text.fire.chance}${late ? `, ${span(j.late_s)} ${text.strands.late}` : ""}`}
      opacity={faded ? 0.3 : 1}
      onClick={onChoose}
      onKeyDown={(e) => {
        if (e.key === "Enter" || e.key === " ") {
          e.preventDefault();
          onChoose();
        }
      }}
    >
      <title>{`${j.name}, ${text.courses[j.course]}: ${j.dishes.join("; ")}`}</title>
      <circle r={r + 3} fill="#fff" stroke={chosen ? "var(--ink)" : "none"} strokeWidth={2} />
      <circle r={r} fill="none" stroke="#e2dccb" strokeWidth={4} />
      <circle
        r={r}
        fill="none"
        stroke={tone}
        strokeWidth={4}
        strokeDasharray={`${chance * around} ${around}`}
        transform="rotate(-90)"
      />
      {(late || over) && <path d={`M-5 ${-r - 5} L5 ${-r - 5} L0 ${-r + 4}Z`} fill="var(--vermilion)" />}
      <text y={1} textAnchor="middle" style={{ fontSize: 14, fontWeight: 700 }}>
        {j.name.replace(/^\D+/, "") || j.name.slice(0, 2)}
      </text>
      <text y={10} textAnchor="middle" style={{ fontSize: 9.5 }}>
        {courseMark[j.course]}
        {j.round > 0 && `·${j.round}`}
      </text>
    </g>
  );
}

function Side({
  plan,
  id,
  mend,
  onTry,
  onChoose,
}: {
  plan: View;
  id: string;
  mend: string;
  onTry: (m: string) => void;
  onChoose: (join: string) => void;
}) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const mends = useQuery({
    queryKey: ["fire", id, "mends", plan.version],
    queryFn: () => settle(api.POST("/api/fire/{id}/mends", { params: { path: { id } } })),
    enabled: !plan.better && plan.trouble.length + (mend ? 1 : 0) > 0,
    staleTime: Infinity,
  });
  const guard = async (call: () => Promise<unknown>) => {
    try {
      await call();
      setProblem(null);
      onTry("");
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setProblem(e);
    }
    await queries.invalidateQueries();
  };
  const keep = (m: string) =>
    void guard(() =>
      settle(
        api.POST("/api/fire/{id}/keep", {
          params: { path: { id } },
          body: { mend: m, version: plan.version },
        }),
      ),
    );
  const setMargin = (margin: number) =>
    void guard(async () => {
      const all = await settle(api.GET("/api/services"));
      const s = all.find((x) => x.service.id === id);
      if (s)
        await settle(
          api.PUT("/api/services/{id}", {
            params: { path: { id } },
            body: { version: s.version, value: { ...s.service, margin } },
          }),
        );
    });
  return (
    <aside className="fire-side">
      <section className="card-enamel">
        <h2>{text.fire.doesnt}</h2>
        {plan.trouble.length === 0 && <p className="mark-good">● {text.fire.fits}</p>}
        <ul>
          {plan.trouble.slice(0, 6).map((t, i) => (
            <li key={i}>
              <button type="button" onClick={() => onChoose(t.join)}>
                <span className="mark-late">▲</span> {t.text}
              </button>
            </li>
          ))}
        </ul>
        {plan.trouble.length > 6 && (
          <p className="quiet">
            {text.fire.more} {plan.trouble.length - 6}.
          </p>
        )}
      </section>
      {(plan.trouble.length > 0 || mend) && (
        <section className="card-enamel">
          <h2>{text.fire.helps}</h2>
          <Faulty problem={problem} />
          {!mends.data && <p className="quiet">{text.fire.trying}</p>}
          {mends.data?.mends.length === 0 && <p className="quiet">{text.fire.nothingHelps}</p>}
          <ul>
            {mends.data?.mends.map((m) => (
              <li key={m.id} data-mend={m.id}>
                <b>{m.text}</b>
                <span className="quiet">
                  {text.fire.lateness} {span(m.late_s)}, {text.fire.was} {span(m.was_s)}
                  {(m.over_s > 0 || m.over_was_s > 0) &&
                    `; ${text.fire.held} ${span(m.over_s)}, ${text.fire.was} ${span(m.over_was_s)}`}
                  ; {m.costs}
                </span>
                <span className="variants">
                  <Button
                    look={mend === m.id ? "primary" : "outline-primary"}
                    aria-pressed={mend === m.id}
                    onClick={() => onTry(mend === m.id ? "" : m.id)}
                  >
                    {text.fire.try}
                  </Button>
                  <Button onClick={() => keep(m.id)}>{text.fire.keep}</Button>
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section className="card-enamel">
        <h2>{text.fire.margin}</h2>
        <label className="margin">
          <span className="quiet">{text.fire.toTheMinute}</span>
          <input
            key={plan.margin}
            type="range"
            min={0}
            max={100}
            step={10}
            name="margin"
            aria-label={text.fire.margin}
            defaultValue={plan.margin}
            onPointerUp={(e) => setMargin(Number(e.currentTarget.value))}
            onKeyUp={(e) => setMargin(Number(e.currentTarget.value))}
          />
          <span className="quiet">{text.fire.safe}</span>
        </label>
        <table className="plain chances">
          <tbody>
            {[...new Set(plan.joins.map((j) => j.table))].map((t) => {
              const own = plan.joins.filter((j) => j.table === t);
              const worst = Math.min(...own.map((j) => j.chance));
              return (
                <tr key={t}>
                  <td>{own[0]?.name}</td>
                  <td className="figure">
                    <b className={worst < 0.75 ? "mark-wait" : undefined}>{Math.round(worst * 100)} %</b>{" "}
                    <span className="quiet">{text.fire.chance}</span>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </section>
    </aside>
  );
}

// OneJoin is the chosen table's course with its strands.
function OneJoin({
  plan,
  id,
  mend,
  join,
  house,
}: {
  plan: View;
  id: string;
  mend: string;
  join: string;
  house: Schemas["House"];
}) {
  const j = plan.joins.find((x) => x.id === join);
  const one = useQuery({
    queryKey: ["fire", id, mend, "join", join, plan.cost, plan.version],
    queryFn: () =>
      settle(
        api.GET("/api/fire/{id}/join", {
          params: { path: { id }, query: { join, mend: mend || undefined } },
        }),
      ),
    placeholderData: (old) => old,
  });
  const [step, setStep] = useState("");
  if (!j || !one.data) return null;
  return (
    <section className="strands card-enamel" aria-label={j.name}>
      <div className="bar-head">
        <h2>
          {j.name}, {text.courses[j.course]} {clock(j.at)}
        </h2>
        <span className="quiet">{j.dishes.join(" · ")}</span>
        <span className={j.late_s > 60 ? "mark-late" : "mark-good"}>
          {j.late_s > 60
            ? `▲ ${span(j.late_s)} ${text.strands.late}`
            : `● ${Math.round(j.chance * 100)} % ${text.fire.chance}`}
        </span>
      </div>
      <div className="chart">
        <Fires plan={one.data} />
        <Strands
          plan={one.data}
          sections={house.sections}
          chosen={step}
          onChoose={(_, bar) => setStep(bar.task)}
          onStretch={() => undefined}
        />
      </div>
    </section>
  );
}
