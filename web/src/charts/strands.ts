// The layout of the strands: plan → rectangles, wedges and curves. Pure functions;
// React only draws what they return.
import type { Schemas } from "../api/client";
import { ticks } from "./scale";

type Plan = Schemas["Plan"];
type Bar = Schemas["Bar"];
type WaitBar = Schemas["WaitBar"];

export const headHeight = 30;
export const rowHeight = 42;
const right = 92; // room for the curves and the ring

export interface BarShape {
  bar: Bar;
  x: number;
  width: number;
  y: number;
  height: number;
  label: { text: string; x: number; y: number; inside: boolean } | null;
  // Hands at its ends and inside it, as high as a step that takes them throughout.
  hands: { x: number; width: number; y: number; height: number; touch: Schemas["BarTouch"] }[];
}

export interface WaitShape {
  wait: WaitBar;
  path: string;
  shortestX: number | null;
  y: number;
  label: { text: string; x: number } | null;
}

export interface Row {
  strand: Schemas["Strand"];
  y: number;
  needX: number;
  gateX: number | null;
  curve: string;
  bars: BarShape[];
  waits: WaitShape[];
}

export interface Layout {
  width: number;
  height: number;
  rows: Row[];
  ticks: { x: number; seconds: number }[];
  ring: { x: number; y: number };
  secondsPerPixel: number;
}

// Thickness is attention.
export const thickness: Record<Bar["hands"], number> = { both: 22, tend: 11, none: 5 };

const textWidth = (s: string) => s.length * 6.9;

// wedge is the height (0…1) of a wait after t seconds: full up to its best, nothing
// at its longest.
export function wedge(t: number, w: Pick<WaitBar, "best" | "longest" | "shortest">): number {
  const best = w.best ?? w.longest ?? Infinity;
  if (w.longest === undefined || t <= best) return 1;
  if (w.longest <= best) return t <= w.longest ? 1 : 0;
  return Math.max(0, 1 - (t - best) / (w.longest - best));
}

function waitShape(w: WaitBar, x: (s: number) => number, y: number): WaitShape {
  const full = 9;
  const length = w.to_s - w.from_s;
  const corners = [0, w.best, length].filter((t): t is number => t !== undefined && t <= length);
  const points = [...new Set(corners)].sort((a, b) => a - b);
  const top = points.map((t): [number, number] => [x(w.from_s + t), y - full * Math.max(0.12, wedge(t, w))]);
  const bottom = points
    .map((t): [number, number] => [x(w.from_s + t), y + full * Math.max(0.12, wedge(t, w))])
    .reverse();
  const path = `M${[...top, ...bottom].map((p) => p.map((n) => Math.round(n * 100) / 100).join(",")).join("L")}Z`;
  const width = x(w.to_s) - x(w.from_s);
  const label =
    w.place && width > textWidth(w.place) + 60 ? { text: w.place, x: x(w.from_s) + width / 2 } : null;
  return {
    wait: w,
    path,
    y,
    label,
    shortestX: w.shortest > 0 && w.shortest <= length ? x(w.from_s + w.shortest) : null,
  };
}

// barShape places one batch and its words: inside a thick band when they fit, else
// above it where nothing else is written.
function barShape(
  bar: Bar,
  x: (s: number) => number,
  y: number,
  lane: number,
  lanes: number,
  taken: [number, number][],
): BarShape {
  const gap = lanes > 1 ? 2 : 0;
  const high = bar.touches.length > 0 ? thickness.both : thickness[bar.hands];
  const full = thickness[bar.hands];
  const height = Math.max(3, full / lanes - gap);
  const width = Math.max(2, x(bar.finish_s) - x(bar.start_s));
  const middle = x(bar.start_s) + width / 2;
  const degrees = bar.setpoint_c === undefined ? "" : `${Math.round(bar.setpoint_c)}°`;
  const words = [
    `${bar.name} ${degrees}`.trim(),
    bar.name,
    `${firstWords(bar.name)} ${degrees}`.trim(),
    firstWords(bar.name),
    degrees,
  ];
  let label: BarShape["label"] = null;
  if (lane === 0) {
    const inside =
      bar.hands === "both" && lanes === 1 ? words.find((w) => w && textWidth(w) <= width - 10) : undefined;
    if (inside) label = { text: inside, x: middle, y: y + 5, inside: true };
    else {
      const free = (w: string) => {
        const half = textWidth(w) / 2;
        return half < width / 2 + 36 && !taken.some(([a, b]) => middle - half < b && a < middle + half);
      };
      const above = words.find((w) => w && free(w));
      if (above) {
        taken.push([middle - textWidth(above) / 2 - 6, middle + textWidth(above) / 2 + 6]);
        label = { text: above, x: middle, y: y - high / 2 - 3, inside: false };
      }
    }
  }
  const row = thickness.both / lanes;
  const hands = bar.touches.map((touch) => ({
    touch,
    x: x(touch.from_s),
    width: Math.max(2, x(touch.to_s) - x(touch.from_s)),
    y: y - thickness.both / 2 + lane * row + gap / 2,
    height: row - gap,
  }));
  const top =
    hands.length > 0
      ? y - thickness.both / 2 + lane * row + row / 2 - height / 2
      : y - full / 2 + lane * (full / lanes) + gap / 2;
  return { bar, x: x(bar.start_s), width, y: top, height, label, hands };
}

const firstWords = (s: string) => s.split(/,| in the | and /)[0] ?? s;

// lanesOf puts batches that overlap side by side.
function lanesOf(bars: Bar[]): { bar: Bar; lane: number; lanes: number }[] {
  const ends: number[] = [];
  const placed = bars.map((bar) => {
    let lane = ends.findIndex((e) => e <= bar.start_s);
    if (lane < 0) lane = ends.push(0) - 1;
    ends[lane] = bar.finish_s;
    return { bar, lane };
  });
  return placed.map((p) => {
    const overlapping = placed.filter(
      (q) => q.bar.start_s < p.bar.finish_s && p.bar.start_s < q.bar.finish_s,
    );
    return { ...p, lanes: Math.max(...overlapping.map((q) => q.lane)) + 1 };
  });
}

// aheadWords is how wide the words are of what is made ahead, pixels.
const aheadWords = 170;

export function layout(plan: Plan, width: number): Layout {
  const first = Math.min(plan.first_fire_s, -60, ...plan.strands.map((s) => s.needed_s));
  const from = first * 1.06;
  // What is made ahead says so to the left of its moment: where that is early, there is room for it.
  const early = plan.strands.some((s) => !s.fired && s.ahead_steps > 0 && s.needed_s < first * 0.7);
  const left = early ? aheadWords : 22;
  const across = Math.max(120, width - right) - left;
  const x = (s: number) => left + (1 - s / from) * across;
  const ring = { x: x(0) + 52, y: headHeight + (plan.strands.length * rowHeight) / 2 };
  const rows = plan.strands.map((strand, i): Row => {
    const y = headHeight + i * rowHeight + rowHeight / 2 + 3;
    const needX = x(strand.needed_s);
    const start = strand.fired ? strand.fire_s : strand.needed_s;
    const mid = x(0) + 16;
    const taken: [number, number][] = [];
    return {
      strand,
      y,
      needX,
      gateX: strand.ahead_steps > 0 ? x(start) - 11 : null,
      curve: `M${needX} ${y}C${Math.max(mid, needX + 20)} ${y} ${ring.x - 8} ${(y + ring.y) / 2} ${ring.x} ${ring.y}`,
      bars: lanesOf(strand.bars).map((b) => barShape(b.bar, x, y, b.lane, b.lanes, taken)),
      // Batches hide each other's waits: words stand only where there is one.
      waits: strand.waits.map((w) => {
        const shape = waitShape(w, x, y);
        const one = strand.bars.find((b) => b.task === w.after_task)?.of === 1;
        return one ? shape : { ...shape, label: null };
      }),
    };
  });
  return {
    width,
    height: headHeight + plan.strands.length * rowHeight + 8,
    rows,
    ring,
    ticks: ticks(from, x(0) - x(from), 74).map((s) => ({ x: x(s), seconds: s })),
    secondsPerPixel: -from / (x(0) - x(from)),
  };
}
