import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { TextField } from "../../ui/fields";
import { clockField } from "./clockField";

type Hour = Schemas["Hours"];

const { shown, read } = clockField;

// readHours reads one day's hours: 10:00–15:00, 17–23; empty is a day off; null when it
// cannot be understood.
export function readHours(day: number, typed: string): Hour[] | null {
  if (typed.trim() === "") return [];
  const out: Hour[] = [];
  for (const part of typed.split(",")) {
    const [from, to, more] = part.split(/\s*(?:-|–|to)\s*/);
    if (from === undefined || to === undefined || more !== undefined) return null;
    const a = read(from);
    let b = read(to);
    if (a === null || b === null) return null;
    if (b <= a) b += 24 * 60; // into the night
    out.push({ day, from: a, to: b });
  }
  return out;
}

const say = (list: Hour[]) => list.map((h) => `${shown(h.from)}–${shown(h.to % 1440)}`).join(", ");

// Hours are a person's week, one field for each day, Monday first.
export function Hours({ hours, onSave }: { hours: Hour[]; onSave: (h: Hour[]) => void }) {
  return (
    <div className="fields hours">
      {[1, 2, 3, 4, 5, 6, 0].map((day) => (
        <TextField
          key={day}
          label={text.days[day] ?? ""}
          value={say(hours.filter((h) => h.day === day).sort((a, b) => a.from - b.from))}
          placeholder={text.house.off}
          check={(v) => (readHours(day, v) === null ? text.errors.hours : "")}
          onSave={(v) => onSave([...hours.filter((h) => h.day !== day), ...(readHours(day, v) ?? [])])}
        />
      ))}
    </div>
  );
}
