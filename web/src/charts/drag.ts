// Dragging the end of a step is a pure reducer, driven by the pointer and by the
// arrow keys alike.
export interface Drag {
  task: string;
  edge: "start" | "finish";
  fromX: number;
  original: number; // seconds
  seconds: number;
}

export const snap = 5;

const clamp = (s: number) => Math.max(snap, Math.round(s / snap) * snap);

export const begin = (task: string, edge: Drag["edge"], x: number, seconds: number): Drag => ({
  task,
  edge,
  fromX: x,
  original: seconds,
  seconds,
});

export function move(d: Drag, x: number, secondsPerPixel: number): Drag {
  const outward = d.edge === "start" ? d.fromX - x : x - d.fromX;
  return { ...d, seconds: clamp(d.original + outward * secondsPerPixel) };
}

// nudge is the same by key: left makes a step start earlier, so longer.
export function nudge(seconds: number, key: string, large: boolean): number | null {
  const by = large ? 30 : snap;
  if (key === "ArrowLeft") return clamp(seconds + by);
  if (key === "ArrowRight") return clamp(seconds - by);
  return null;
}
