// Minutes after midnight as a clock time; past midnight the hours go on (25:30).
export const clockField = {
  shown: (minutes: number) =>
    `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`,
  read: (typed: string): number | null => {
    const m = /^(\d{1,2})(?:[:.](\d{2}))?$/.exec(typed.trim());
    if (!m) return null;
    const minutes = Number(m[1]) * 60 + Number(m[2] ?? 0);
    return Number(m[2] ?? 0) < 60 && minutes <= 48 * 60 ? minutes : null;
  },
};
