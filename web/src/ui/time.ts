// Times as cooks write them. The server sends instants in the kitchen's own zone,
// so the clock on the wall is a part of the text.
export const day = (instant: string) => instant.slice(0, 10);
export const clock = (instant: string) => instant.slice(11, 16);
export const clockSeconds = (instant: string) => instant.slice(17, 19);

// usualJoin is the join that is shown until somebody chooses one.
export const usualJoin = "19:42";

// span writes a length of time: 45 s, 4:30, 1 h 20.
export function span(seconds: number): string {
  const s = Math.abs(Math.round(seconds));
  const sign = seconds < 0 ? "−" : "";
  if (s >= 3600) {
    const m = Math.round((s % 3600) / 60);
    return `${sign}${Math.floor(s / 3600)} h${m ? ` ${m}` : ""}`;
  }
  if (s < 60) return `${sign}${s} s`;
  return `${sign}${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
}

// toJoin writes where something stands before the join: −12:30.
export function toJoin(seconds: number): string {
  const s = Math.abs(Math.round(seconds));
  const sign = seconds < 0 ? "−" : seconds > 0 ? "+" : "";
  return `${sign}${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
}

// wall writes minutes after midnight as the clock shows them; past midnight the hours go on (25:30).
export const wall = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;

// hourWidth is what an hour's label takes with some room beside it, px.
const hourWidth = 46;

// hoursApart is how many hours lie between two labels on a line on which an hour is so long, px: as few as have room.
export const hoursApart = (anHour: number) => [1, 2, 3, 4].find((h) => h * anHour >= hourWidth) ?? 6;
