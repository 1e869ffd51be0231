// The axis of a wait: near zero seconds matter, further out hours and days do.
const ends = [600, 1800, 7200, 6 * 3600, 86400, 3 * 86400, 14 * 86400, 60 * 86400];

// endFor is a length of axis on which the given time still has room to grow.
export const endFor = (seconds: number): number => ends.find((e) => e >= seconds * 1.4) ?? 60 * 86400;

const bend = (end: number) => end / 40;

// toShare places a time on the axis, 0 to 1; fromShare is its inverse.
export const toShare = (seconds: number, end: number): number =>
  Math.log1p(Math.min(seconds, end) / bend(end)) / Math.log1p(end / bend(end));

export const fromShare = (share: number, end: number): number =>
  Math.expm1(Math.min(1, Math.max(0, share)) * Math.log1p(end / bend(end))) * bend(end);

// stepAt is by how much a mark moves at a time: what a cook would say.
export const stepAt = (seconds: number): number =>
  seconds < 120
    ? 5
    : seconds < 600
      ? 30
      : seconds < 3600
        ? 60
        : seconds < 6 * 3600
          ? 600
          : seconds < 2 * 86400
            ? 1800
            : 3600 * 6;

export const snap = (seconds: number): number => Math.round(seconds / stepAt(seconds)) * stepAt(seconds);

export interface Marks {
  shortest: number;
  best: number | undefined;
  longest: number | undefined;
}

export type Mark = keyof Marks;

// moveMark sets one mark and keeps shortest ≤ best ≤ longest: the others give way.
export function moveMark(m: Marks, mark: Mark, to: number): Marks {
  const v = Math.max(0, to);
  switch (mark) {
    case "shortest":
      return {
        shortest: v,
        best: m.best === undefined ? undefined : Math.max(m.best, v),
        longest: m.longest === undefined ? undefined : Math.max(m.longest, v),
      };
    case "best":
      return {
        shortest: Math.min(m.shortest, v),
        best: v,
        longest: m.longest === undefined ? undefined : Math.max(m.longest, v),
      };
    case "longest":
      return {
        shortest: Math.min(m.shortest, v),
        best: m.best === undefined ? undefined : Math.min(m.best, v),
        longest: v,
      };
  }
}
