import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Check, NumberField, TextField } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { Hours } from "./Hours";
import { PartsList } from "./PartsList";
import type { House, Part } from "./useParts";

// PeopleList is who cooks, where, and when.
export function PeopleList({ h, part }: { h: House; part: Part<Schemas["Person"]> }) {
  return (
    <PartsList
      title={text.house.people}
      add={text.house.addPerson}
      onAdd={() => part.add(text.house.newPerson)}
      items={h.people.map((p) => ({
        id: p.id,
        title: (
          <>
            <b>{p.name}</b> <span className="quiet">{p.role}</span>{" "}
            {p.sections.map((s) => (
              <Swatch key={s} section={h.sections.find((x) => x.id === s)} />
            ))}
          </>
        ),
        body: (
          <>
            <div className="fields">
              <TextField
                wide
                label={text.makings.name}
                value={p.name}
                onSave={(name) => part.change({ ...p, name })}
              />
              <TextField
                wide
                label={text.house.role}
                value={p.role ?? ""}
                onSave={(role) => part.change({ ...p, role })}
              />
              <NumberField
                label={text.house.eyes}
                optional
                value={p.eyes}
                onSave={(v) => part.change({ ...p, eyes: Math.round(v) })}
              />
              <span className="fields">
                {h.sections.map((s) => (
                  <Check
                    key={s.id}
                    label={s.name}
                    on={p.sections.includes(s.id)}
                    onChange={(on) =>
                      part.change({
                        ...p,
                        sections: on ? [...p.sections, s.id] : p.sections.filter((x) => x !== s.id),
                      })
                    }
                  />
                ))}
              </span>
            </div>
            <TextField
              wide
              name="absent"
              label={text.house.absent}
              value={(p.absent ?? []).join(", ")}
              check={(v) =>
                v.split(",").every((d) => d.trim() === "" || /^\d{4}-\d{2}-\d{2}$/.test(d.trim()))
                  ? ""
                  : text.services.dateLike
              }
              onSave={(v) =>
                part.change({
                  ...p,
                  absent: v
                    .split(",")
                    .map((d) => d.trim())
                    .filter(Boolean),
                })
              }
            />
            <Hours hours={p.hours} onSave={(hours) => part.change({ ...p, hours })} />
          </>
        ),
        onRemove: () => part.remove(p.id),
      }))}
    />
  );
}
