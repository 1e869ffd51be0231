// The layout of a whole service: plan → positions. Pure functions; React only draws what
// they return.
import type { Schemas } from "../api/client";

type Join = Schemas["EveningJoin"];
type Load = Schemas["Load"];
type Run = Schemas["FireRun"];

export interface Axis {
  from: number; // ms
  to: number;
  width: number;
}

export const xOf = (a: Axis, instant: string) => ((Date.parse(instant) - a.from) / (a.to - a.from)) * a.width;

export const perMinute = (a: Axis) => (a.width / (a.to - a.from)) * 60_000;

// ticksOf are marks at whole stretches of the hour, not closer than 56 pixels; their label
// is the clock on the kitchen's wall, taken from the offset in a known instant.
export function ticksOf(a: Axis, like: string): { x: number; label: string }[] {
  const m = /([+-])(\d\d):(\d\d)$/.exec(like);
  const offset = m ? (m[1] === "-" ? -1 : 1) * (Number(m[2]) * 60 + Number(m[3])) * 60_000 : 0;
  const steps = [1, 2, 5, 10, 15, 30, 60, 120].map((x) => x * 60_000);
  const step = steps.find((s) => (s / (a.to - a.from)) * a.width >= 56) ?? 7_200_000;
  const out = [];
  for (let t = Math.ceil((a.from + offset) / step) * step; t <= a.to + offset; t += step)
    out.push({
      x: ((t - offset - a.from) / (a.to - a.from)) * a.width,
      label: new Date(t).toISOString().slice(11, 16),
    });
  return out;
}

export interface TableJoins {
  table: string;
  name: string;
  joins: Join[];
}

// byTable gathers the joins of each table, the table that eats first at the top.
export function byTable(joins: Join[]): TableJoins[] {
  const rows = new Map<string, TableJoins>();
  for (const j of joins) {
    const row = rows.get(j.table) ?? { table: j.table, name: j.name, joins: [] };
    row.joins.push(j);
    rows.set(j.table, row);
  }
  return [...rows.values()];
}

// placeJoins stacks marks that would touch: each goes into the first row with room.
export function placeJoins(joins: Join[], a: Axis, size: number): { placed: Placed[]; rows: number } {
  const ends: number[] = [];
  const placed = joins.map((join) => {
    const x = xOf(a, join.at);
    let row = ends.findIndex((e) => x - e >= size);
    if (row < 0) row = ends.length;
    ends[row] = x;
    return { join, x, row };
  });
  return { placed, rows: Math.max(1, ends.length) };
}

export interface Placed {
  join: Join;
  x: number;
  row: number;
}

// short is a table's name where there is little room: its number, or two letters.
export const short = (name: string) => name.replace(/^\D+/, "") || name.slice(0, 2);

// profile is the outline of a load from its steps, as an SVG path over a height.
export function profile(load: Pick<Load, "steps" | "capacity">, a: Axis, height: number): string {
  const y = (u: number) => height - (u / load.capacity) * height;
  let d = "";
  let units = 0;
  load.steps.forEach((s, i) => {
    const x = xOf(a, s.at).toFixed(1);
    d += i === 0 ? `M${x} ${height}` : `L${x} ${y(units).toFixed(1)}`;
    d += `L${x} ${y(s.units).toFixed(1)}`;
    units = s.units;
  });
  return d ? `${d}Z` : "";
}

export interface Packed {
  run: Run;
  x: number;
  width: number;
  track: number;
  label: string;
  inside: boolean; // the label fits into the run; else it stands after it
}

const letter = 6.9; // pixels of a letter in a run

// brief is as much of a component's name as can be told at a glance.
export function brief(name: string): string {
  const words = (name.split(",")[0] ?? name).split(" ");
  let out = words[0] ?? "";
  for (const w of words.slice(1)) if (out.length + w.length < 13) out += ` ${w}`;
  return out.replace(/ (and|with|of|in)$/, "");
}

// pack puts the runs of a lane into as few tracks as they need so that none covers
// another, nor its label.
export function pack(
  runs: Run[],
  a: Axis,
  labelOf: (r: Run) => string,
): { packed: Packed[]; tracks: number } {
  const ends: number[] = [];
  const sorted = [...runs].sort((p, q) => Date.parse(p.from) - Date.parse(q.from));
  const packed = sorted.map((run) => {
    const x = xOf(a, run.from);
    const bar = Math.max(3, xOf(a, run.to) - x);
    const label = labelOf(run);
    const inside = run.hands === "both" && label.length * letter + 8 <= bar;
    const width = inside || label === "" ? bar : bar + label.length * letter + 6;
    let track = ends.findIndex((e) => e <= x);
    if (track < 0) track = ends.length;
    ends[track] = x + width + 1;
    return { run, x, width: bar, track, label, inside };
  });
  return { packed, tracks: Math.max(1, ends.length) };
}

// inMinutes is a shift of so many pixels in whole steps of minutes.
export const inMinutes = (pixels: number, a: Axis, step: number) =>
  Math.round(pixels / perMinute(a) / step) * step;
