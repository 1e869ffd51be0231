// What a keypad does to the number that is typed: at most three figures before the point and one after it.
export const keys = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "−", "0", "."] as const;

export function pressed(shown: string, key: string): string {
  if (key === "⌫") return shown.slice(0, -1);
  if (key === "−") return shown.startsWith("−") ? shown.slice(1) : `−${shown}`;
  if (key === ".") return shown.includes(".") ? shown : /[0-9]$/.test(shown) ? `${shown}.` : `${shown}0.`;
  const [whole = "", part] = shown.replace("−", "").split(".");
  if (part !== undefined) return part.length > 0 ? shown : shown + key;
  if (whole === "0") return shown.slice(0, -1) + key;
  return whole.length > 2 ? shown : shown + key;
}

// degrees is the number that was typed; null while it is none.
export function degrees(shown: string): number | null {
  const n = Number(shown.replace("−", "-"));
  return /[0-9]/.test(shown) && !Number.isNaN(n) ? n : null;
}

// newId names a line before it is sent: sent twice, it is kept once.
export function newId(): string {
  const b = crypto.getRandomValues(new Uint8Array(16));
  b[6] = ((b[6] ?? 0) & 0x0f) | 0x40;
  b[8] = ((b[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...b].map((x) => x.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}
