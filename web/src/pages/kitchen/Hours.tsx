import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { HoursField } from "../../ui/understood";

type Hour = Schemas["Hours"];

// Hours are a person's week, one field for each day, Monday first.
export function Hours({ hours, onSave }: { hours: Hour[]; onSave: (h: Hour[]) => void }) {
  return (
    <div className="fields hours">
      {[1, 2, 3, 4, 5, 6, 0].map((day) => (
        <HoursField
          key={day}
          label={text.days[day] ?? ""}
          value={hours.filter((h) => h.day === day).sort((a, b) => a.from - b.from)}
          onSave={(list) =>
            onSave([...hours.filter((h) => h.day !== day), ...list.map((x) => ({ day, ...x }))])
          }
        />
      ))}
    </div>
  );
}
