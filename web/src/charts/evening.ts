import type { Schemas } from "../api/client";

type Join = Schemas["EveningJoin"];

export interface Axis {
  from: number; // ms
  to: number;
  width: number;
}

export const xOf = (a: Axis, instant: string) => ((Date.parse(instant) - a.from) / (a.to - a.from)) * a.width;

// ticksOf are marks at whole stretches of the hour, not closer than 56 pixels; their label
// is the clock on the kitchen's wall, taken from the offset in a known instant.
export function ticksOf(a: Axis, like: string): { x: number; label: string }[] {
  const m = /([+-])(\d\d):(\d\d)$/.exec(like);
  const offset = m ? (m[1] === "-" ? -1 : 1) * (Number(m[2]) * 60 + Number(m[3])) * 60_000 : 0;
  const steps = [5, 10, 15, 30, 60, 120].map((x) => x * 60_000);
  const step = steps.find((s) => (s / (a.to - a.from)) * a.width >= 56) ?? 7_200_000;
  const out = [];
  for (let t = Math.ceil((a.from + offset) / step) * step; t <= a.to + offset; t += step)
    out.push({
      x: ((t - offset - a.from) / (a.to - a.from)) * a.width,
      label: new Date(t).toISOString().slice(11, 16),
    });
  return out;
}

export interface Placed {
  join: Join;
  x: number;
  row: number;
}

// placeJoins stacks rings that would touch: each goes into the first row with room.
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

// profile is the outline of a load from its steps, as an SVG path over a height.
export function profile(load: Schemas["Load"], a: Axis, height: number): string {
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
