import { useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import {
  brief,
  byTable,
  pack,
  perMinute,
  placeJoins,
  profile,
  short,
  ticksOf,
  xOf,
  type Axis,
  type Packed,
} from "../../charts/evening";
import { thickness } from "../../charts/strands";
import { text } from "../../text";
import { hueOf } from "../../ui/Swatch";
import { clock } from "../../ui/time";
import { useWidth } from "../../ui/useWidth";
import { JoinMark } from "./JoinMark";
import { dragStep, TableRow } from "./TableRow";

type View = Schemas["FireView"];
type House = Schemas["House"];

const head = 24;
// A finger needs more room than a mouse; fifteen tables fit a screen with the latter.
const rowHeight = window.matchMedia("(pointer: coarse)").matches ? 44 : 22;
const lane = 24;
const track = 18;
const gap = 6;

// detailFrom is from how many pixels a minute on runs are drawn one by one.
const detailFrom = 9;

// Chart is a whole service: its tables along the clock, the hands of each section or what
// they do, and the load of everything with its limit. Two depths, one drawing: zooming
// keeps what is in the middle where it is.
export function Chart({
  plan,
  house,
  tables,
  chosen,
  close,
  zoom,
  centre,
  middle,
  onMiddle,
  onChoose,
  onMove,
}: {
  plan: View;
  house: House;
  tables: Schemas["ServiceTable"][];
  chosen: string;
  close: boolean; // forty minutes fill the width, else the evening does
  zoom: number; // beyond that
  centre: number; // ms that was asked for, 0 for none
  middle: () => number; // ms in the middle of what was shown, 0 for nowhere yet
  onMiddle: (ms: number) => void;
  onChoose: (join: string) => void;
  onMove: (table: string, minutes: number) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const shown = useWidth(box);
  const from = Date.parse(plan.from) - 5 * 60_000;
  const to = Date.parse(plan.to) + 8 * 60_000;
  const fit = Math.max(300, shown);
  const base = close ? Math.max(1, (to - from) / 60_000 / 40) : 1;
  const axis: Axis = useMemo(() => ({ from, to, width: fit * base * zoom }), [from, to, fit, base, zoom]);
  useLayoutEffect(() => {
    const at = middle() || (from + to) / 2;
    if (box.current) box.current.scrollLeft = ((at - from) / (to - from)) * axis.width - shown / 2;
    // Only what is drawn elsewhere moves it, not whose functions these are.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [axis, shown, from, to]);
  useLayoutEffect(() => {
    if (!centre || !box.current) return;
    onMiddle(centre);
    box.current.scrollLeft = ((centre - from) / (to - from)) * axis.width - shown / 2;
    // Once for each time that is asked for, and when there is room to show it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [centre, shown]);
  // What was moved stands where it was put until the plan with it is there.
  const [moved, setMoved] = useState<{ table: string; by: number; version: number } | null>(null);
  const shift = moved && moved.version === plan.version ? moved : null;
  const move = useMemo(
    () => (table: string, minutes: number) => {
      setMoved({ table, by: minutes, version: plan.version });
      onMove(table, minutes);
    },
    [onMove, plan.version],
  );
  const rows = useMemo(() => {
    const seated = new Map(tables.map((t) => [t.id, t.seated_at]));
    return byTable(plan.joins).sort((a, b) => (seated.get(a.table) ?? 0) - (seated.get(b.table) ?? 0));
  }, [plan.joins, tables]);
  const detailed = perMinute(axis) >= detailFrom;
  const names = useMemo(() => new Map(plan.joins.map((j) => [j.id, short(j.name)])), [plan.joins]);
  const lanes = useMemo(
    () => lanesOf(plan, house, axis, detailed, names),
    [plan, house, axis, detailed, names],
  );
  const rowsTop = head;
  // From close the joins stand where there is room, and what is done has the space.
  const marks = placeJoins(plan.joins, axis, 42);
  const lanesTop = rowsTop + (close ? marks.rows : rows.length) * rowHeight + gap;
  const laneAt = lanes.map((_, i) => lanes.slice(0, i).reduce((y, l) => y + l.height + gap, lanesTop));
  const loadsTop = lanes.reduce((y, l) => y + l.height + gap, lanesTop);
  const loads = plan.loads.filter((l) => l.of.kind !== "person");
  const height = loadsTop + loads.length * (lane + gap);
  const mine = plan.joins.find((j) => j.id === chosen);
  return (
    <div className="evening card-enamel">
      <div className="evening-names" style={{ height }}>
        {close && (
          <span className="lane-name" style={{ top: rowsTop + 3 }}>
            {text.fire.joinsTitle}
          </span>
        )}
        {(close ? [] : rows).map((r, i) => {
          const t = tables.find((q) => q.id === r.table);
          const sure = plan.tables.find((x) => x.table === r.table);
          const worst = sure?.chance ?? 0;
          return (
            <button
              type="button"
              key={r.table}
              className="table-name"
              style={{ top: rowsTop + i * rowHeight, height: rowHeight }}
              data-name={r.table}
              aria-label={`${r.name}, ${text.services.seated} ${t ? wall(t.seated_at) : ""}, ${Math.round(worst * 100)} % ${text.fire.chance}. ${text.fire.moveHint}`}
              aria-pressed={r.joins.some((j) => j.id === chosen)}
              onClick={() => onChoose(r.joins[0]?.id ?? "")}
              onKeyDown={(e) => {
                const by = { ArrowLeft: -dragStep, ArrowRight: dragStep }[e.key];
                if (by !== undefined) {
                  e.preventDefault();
                  move(r.table, by);
                }
              }}
            >
              <span>{r.name}</span>
              <b className={sure?.doubtful ? "figure mark-wait" : "figure"}>{Math.round(worst * 100)} %</b>
            </button>
          );
        })}
        {lanes.map((l, i) => (
          <span key={l.id} className="lane-name" style={{ top: laneAt[i] }}>
            {l.name}
            {l.note && <small>{l.note}</small>}
          </span>
        ))}
        {loads.map((l, i) => (
          <span key={l.of.id} className="lane-name" style={{ top: loadsTop + i * (lane + gap) }}>
            {l.name}
            <small className={l.peak >= l.capacity ? "full" : undefined}>
              {l.peak} {text.prep.of} {l.capacity}
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
          onMiddle(from + ((e.currentTarget.scrollLeft + shown / 2) / axis.width) * (to - from));
        }}
      >
        <svg width={axis.width} height={height} role="group" aria-label={text.fire.joinsTitle}>
          {ticksOf(axis, plan.from).map((t) => (
            <g key={t.label}>
              <line x1={t.x} x2={t.x} y1={18} y2={height} stroke="var(--line)" />
              <text x={t.x} y={14} textAnchor="middle" className="tick">
                {t.label}
              </text>
            </g>
          ))}
          {mine && (
            <rect
              x={xOf(axis, mine.fire_at)}
              width={Math.max(2, xOf(axis, mine.at) - xOf(axis, mine.fire_at))}
              y={18}
              height={height - 18}
              fill="var(--enamel)"
              opacity={0.07}
            />
          )}
          {close &&
            marks.placed.map((m) => (
              <JoinMark
                key={m.join.id}
                join={m.join}
                x={m.x}
                y={rowsTop + m.row * rowHeight + rowHeight / 2}
                r={9}
                named
                chosen={m.join.id === chosen}
                faded={chosen !== "" && m.join.id !== chosen}
                onChoose={() => onChoose(m.join.id)}
              />
            ))}
          {(close ? [] : rows).map((r, i) => (
            <TableRow
              key={r.table}
              row={r}
              axis={axis}
              y={rowsTop + i * rowHeight}
              height={rowHeight}
              chosen={chosen}
              shifted={shift?.table === r.table ? shift.by : 0}
              onChoose={onChoose}
              onMove={move}
            />
          ))}
          {lanes.map((l, i) => (
            <LaneView
              key={l.id}
              lane={l}
              y={laneAt[i] ?? 0}
              axis={axis}
              chosen={chosen}
              onChoose={onChoose}
            />
          ))}
          {loads.map((l, i) => (
            <g key={l.of.id} transform={`translate(0 ${loadsTop + i * (lane + gap)})`}>
              <title>{`${l.name}: ${l.peak} ${text.prep.of} ${l.capacity} ${l.unit}`}</title>
              <Profile load={l} axis={axis} tone="var(--enamel)" />
              {l.heats
                .filter((h) => xOf(axis, h.to) - xOf(axis, h.from) > 34)
                .map((h, k) => (
                  <text key={k} x={xOf(axis, h.from) + 3} y={lane - 4} className="tick">
                    {h.c}°
                  </text>
                ))}
            </g>
          ))}
        </svg>
      </div>
    </div>
  );
}

const wall = (minutes: number) =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;

interface Lane {
  id: string;
  name: string;
  note: string;
  height: number;
  hue: string;
  load: Pick<Schemas["Load"], "steps" | "capacity"> | null;
  runs: Packed[];
}

// lanesOf are the sections: from afar the hands they use, from close what they do; and the
// pass with its plating.
function lanesOf(
  plan: View,
  house: House,
  axis: Axis,
  detailed: boolean,
  names: Map<string, string>, // of the tables, short, by join
): Lane[] {
  const out: Lane[] = [];
  for (const s of house.sections) {
    const runs = s.pass ? platingOf(plan, s.id) : plan.runs.filter((r) => r.section === s.id);
    if (runs.length === 0) continue;
    const hands = plan.hands.find((h) => h.section === s.id);
    const { packed, tracks } = pack(runs, axis, (r) => {
      if (!detailed) return "";
      if (s.pass) return brief(r.what);
      const whose = [...new Set(r.joins.map((j) => names.get(j)))];
      return `${whose.length > 2 ? `${whose[0]}–${whose[whose.length - 1]}` : whose.join("+")} ${brief(r.what)}`;
    });
    const asRuns = detailed || s.pass || !hands?.steps.length;
    out.push({
      id: s.id,
      name: s.name,
      note: detailed ? "" : (hands?.people ?? []).map((p) => p.split(" ")[0]).join(", "),
      height: asRuns && detailed ? tracks * track : lane,
      hue: hueOf(s),
      load: asRuns ? null : (hands ?? null),
      runs: asRuns ? (detailed ? packed : packed.map((p) => ({ ...p, track: 0 }))) : [],
    });
  }
  return out;
}

// platingOf are the joins as runs at the pass.
const platingOf = (plan: View, section: string): Schemas["FireRun"][] =>
  plan.joins.map((j) => ({
    joins: [j.id],
    section,
    what: `${j.name}${j.round > 0 ? ` ${text.fire.round} ${j.round}` : ""}`,
    step: text.courses[j.course],
    count: j.plates,
    from: j.plate_at,
    to: j.at,
    hands: "both",
    apart: false,
  }));

function Profile({
  load,
  axis,
  tone,
}: {
  load: Pick<Schemas["Load"], "steps" | "capacity">;
  axis: Axis;
  tone: string;
}) {
  return (
    <>
      <line x1={0} x2={axis.width} y1={0} y2={0} stroke="var(--vermilion)" strokeDasharray="5 4" />
      <line x1={0} x2={axis.width} y1={lane} y2={lane} stroke="var(--hair)" />
      <path d={profile(load, axis, lane)} fill={tone} opacity={0.55} />
    </>
  );
}

function LaneView({
  lane: l,
  y,
  axis,
  chosen,
  onChoose,
}: {
  lane: Lane;
  y: number;
  axis: Axis;
  chosen: string;
  onChoose: (join: string) => void;
}) {
  return (
    <g transform={`translate(0 ${y})`} data-lane={l.id}>
      {l.load ? (
        <Profile load={l.load} axis={axis} tone={l.hue} />
      ) : (
        <>
          <line x1={0} x2={axis.width} y1={l.height + 2} y2={l.height + 2} stroke="var(--line)" />
          {l.runs.map((p, i) => {
            const thick = Math.min(track - 3, thickness[p.run.hands]);
            const top = p.track * track + (track - thick) / 2;
            return (
              <g
                key={i}
                className="run"
                opacity={chosen !== "" && !p.run.joins.includes(chosen) ? 0.22 : 1}
                onClick={() => onChoose(p.run.joins[0] ?? "")}
              >
                <title>{`${clock(p.run.from)}–${clock(p.run.to)} ${p.run.what}: ${p.run.step}, ${p.run.count}`}</title>
                <rect
                  x={p.x}
                  y={top}
                  width={p.width}
                  height={thick}
                  rx={Math.min(3, thick / 2)}
                  fill={l.hue}
                  stroke={p.run.apart ? "var(--ink)" : "none"}
                  strokeWidth={p.run.apart ? 2 : 0}
                />
                {(
                  [
                    ["in", p.run.in_s ?? 0],
                    ["out", p.run.out_s ?? 0],
                  ] as const
                )
                  .filter(([, s]) => s > 0)
                  .map(([end, s]) => {
                    const w = Math.max(1.5, (perMinute(axis) * s) / 60);
                    const high = Math.min(track - 3, thickness.both);
                    return (
                      <rect
                        key={end}
                        data-hands={end}
                        x={end === "in" ? p.x : p.x + p.width - w}
                        y={p.track * track + (track - high) / 2}
                        width={w}
                        height={high}
                        fill={l.hue}
                      />
                    );
                  })}
                {p.label !== "" && (
                  <text
                    x={p.inside ? p.x + 4 : p.x + p.width + 3}
                    y={p.track * track + track / 2 + 4.5}
                    className={p.inside ? "in-run" : "after-run"}
                  >
                    {p.label}
                  </text>
                )}
              </g>
            );
          })}
        </>
      )}
    </g>
  );
}
