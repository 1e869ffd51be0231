import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { EquipmentSelect } from "../../ui/EquipmentSelect";
import { Check, TextField } from "../../ui/fields";
import { SecondsField, TimeField } from "../../ui/understood";

type PotOf = Schemas["Pot"];

// Pot says that something stands on the stove: brought up once, held, topped up, and drawn by the ladle.
export function Pot({
  component: c,
  house,
  onSave,
}: {
  component: Schemas["Component"];
  house: Schemas["House"];
  onSave: (p: PotOf | undefined) => void;
}) {
  const p = c.pot;
  const kinds = [...new Set(house.equipment.map((e) => e.kind))];
  return (
    <div className="fields">
      <Check
        label={`${text.work.pot}: ${text.work.potWhat}`}
        on={p !== undefined}
        onChange={(on) => onSave(on ? { holds_s: 7200 } : undefined)}
      />
      {p && (
        <>
          <TimeField
            label={text.work.holds}
            value={p.holds_s}
            onSave={(v) => onSave({ ...p, holds_s: v ?? p.holds_s })}
          />
          <EquipmentSelect
            label={text.work.stands}
            kind={p.in?.kind}
            kinds={kinds}
            onSave={(kind) => onSave({ ...p, in: kind ? { kind, units: p.in?.units ?? 1 } : undefined })}
          />
          <TextField
            label={text.work.care}
            value={p.top_up?.say ?? ""}
            placeholder={text.work.topUp}
            onSave={(say) =>
              onSave({
                ...p,
                top_up: say
                  ? { say, seconds: p.top_up?.seconds ?? 40, every_s: p.top_up?.every_s ?? 1800 }
                  : undefined,
              })
            }
          />
          {p.top_up && (
            <>
              <SecondsField
                label={text.work.forLong}
                value={p.top_up.seconds}
                onSave={(v) => onSave({ ...p, top_up: { ...p.top_up!, seconds: v ?? p.top_up!.seconds } })}
              />
              <TimeField
                label={text.work.every}
                value={p.top_up.every_s}
                onSave={(v) => onSave({ ...p, top_up: { ...p.top_up!, every_s: v ?? p.top_up!.every_s } })}
              />
            </>
          )}
        </>
      )}
    </div>
  );
}
