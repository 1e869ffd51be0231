// zero writes seconds from zero as hours and minutes: 1:05.
export const zero = (seconds: number): string => {
  const minutes = Math.floor(seconds / 60);
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
};

// zeroSeconds is zero with its seconds, where they are not nought.
export const zeroSeconds = (seconds: number): string => {
  const s = Math.floor(seconds) % 60;
  return s === 0 ? zero(seconds) : `${zero(seconds)}:${String(s).padStart(2, "0")}`;
};

// ticks are the marks of an axis of so many seconds that is so many pixels wide: every 10, 15, 30 or 60 minutes or more.
export function ticks(seconds: number, width: number): number[] {
  const every = [600, 900, 1800, 3600, 7200, 14400].find((s) => (s / seconds) * width >= 52) ?? 28800;
  const out: number[] = [];
  for (let t = 0; t <= seconds; t += every) out.push(t);
  return out;
}
