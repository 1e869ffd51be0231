import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { text } from "../../../text";
import { Button, Drop } from "../../../ui/Button";
import { Chips, NumberField, TextField } from "../../../ui/fields";
import { ClockField } from "../../../ui/understood";

type Table = Schemas["ServiceTable"];

// TableLine is one table of a service; what its guests need unfolds.
export function TableLine({
  t,
  banquet,
  choices,
  onSave,
  onRemove,
}: {
  t: Table;
  banquet: boolean;
  choices: Schemas["Choices"];
  onSave: (t: Table) => void;
  onRemove: () => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <div className="table-line" data-table={t.id}>
      <div className="fields">
        <TextField label={text.makings.name} value={t.name} onSave={(name) => onSave({ ...t, name })} />
        <NumberField
          label={text.services.covers}
          value={t.covers}
          onSave={(v) => onSave({ ...t, covers: Math.round(v) })}
        />
        <ClockField
          label={text.services.seated}
          value={t.seated_at}
          onSave={(v) => onSave({ ...t, seated_at: v })}
        />
        {banquet && (
          <NumberField
            optional
            label={text.services.tablesOf}
            value={t.tables_of}
            onSave={(v) => onSave({ ...t, tables_of: v > 0 ? Math.round(v) : undefined })}
          />
        )}
        {banquet && (
          <NumberField
            optional
            label={text.services.secondWave}
            value={t.second_wave_min}
            onSave={(v) => onSave({ ...t, second_wave_min: v > 0 ? Math.round(v) : undefined })}
          />
        )}
        <Button aria-expanded={open} onClick={() => setOpen(!open)}>
          {t.needs.length > 0
            ? t.needs
                .map(
                  (n) =>
                    `${n.guests} ${[...(n.without ?? []).map((a) => `${text.services.no} ${a}`), ...(n.diets ?? [])].join(", ")}${n.doneness ? ` ${n.doneness}` : ""}`,
                )
                .join("; ")
            : text.services.needs}
        </Button>
        <Drop onClick={onRemove} />
      </div>
      {open && (
        <div className="needs">
          {t.needs.map((n, i) => {
            const set = (v: typeof n) => onSave({ ...t, needs: t.needs.map((x, k) => (k === i ? v : x)) });
            return (
              <div key={i} className="fields">
                <NumberField
                  label={text.services.guests}
                  value={n.guests}
                  onSave={(v) => set({ ...n, guests: Math.round(v) })}
                />
                <TextField
                  label={text.services.doneness}
                  value={n.doneness ?? ""}
                  onSave={(v) => set({ ...n, doneness: v || undefined })}
                />
                <Chips
                  label={text.variants.without}
                  all={choices.allergens}
                  chosen={n.without ?? []}
                  onChange={(without) => set({ ...n, without })}
                />
                <Chips
                  label={text.diets.lives}
                  all={choices.diets}
                  chosen={n.diets ?? []}
                  onChange={(diets) => set({ ...n, diets })}
                />
              </div>
            );
          })}
          <Button onClick={() => onSave({ ...t, needs: [...t.needs, { guests: 1, without: [] }] })}>
            {text.services.addNeed}
          </Button>
        </div>
      )}
    </div>
  );
}
