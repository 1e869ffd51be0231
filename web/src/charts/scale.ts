// Steps of a time axis, so that ticks stand far enough apart to be read.
const steps = [15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 14400];

// ticks returns instants (seconds, 0 is the join) for an axis from `from` to 0.
export function ticks(from: number, width: number, apart: number): number[] {
  const step = steps.find((s) => (s / -from) * width >= apart) ?? 14400;
  const out: number[] = [];
  for (let t = 0; t >= from; t -= step) out.push(t);
  return out;
}
