// Times as cooks write them. The server sends instants in the kitchen's own zone,
// so the clock on the wall is a part of the text.
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

// seconds reads what a cook types: 4 (minutes), 4:30, 1½, 90 s, 2 h 10; null when
// it cannot be understood.
export function seconds(typed: string): number | null {
  const t = typed
    .trim()
    .toLowerCase()
    .replace(",", ".")
    .replace("½", ".5")
    .replace("¼", ".25")
    .replace("¾", ".75");
  if (t === "") return null;
  const colon = /^(\d{1,4}):([0-5]\d)$/.exec(t);
  if (colon) return Number(colon[1]) * 60 + Number(colon[2]);
  const units: Record<string, number> = { s: 1, sec: 1, m: 60, min: 60, h: 3600, d: 86400 };
  let sum = 0;
  let rest = t;
  let bare = true;
  while (rest !== "") {
    const part = /^(\d+(?:\.\d+)?|\.\d+)\s*(sec|s|min|m|h|d)?\s*/.exec(rest);
    if (!part) return null;
    const unit = part[2] ?? (bare ? "min" : "");
    if (unit === "") {
      sum += Number(part[1]) * 60;
    } else {
      sum += Number(part[1]) * (units[unit] ?? 0);
    }
    bare = false;
    rest = rest.slice(part[0].length);
  }
  return Math.round(sum);
}
