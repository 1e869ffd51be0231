import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { EquipmentSelect } from "../../ui/EquipmentSelect";
import { Check, TextField } from "../../ui/fields";
import { DegreesField, SecondsField, TimeField } from "../../ui/understood";

type Wait = Schemas["Wait"];

// WaitMore is how something is kept while it waits: at once, the place that it takes, what ends it, its care.
export function WaitMore({
  wait: w,
  house,
  onSave,
}: {
  wait: Wait;
  house: Schemas["House"];
  onSave: (w: Wait) => void;
}) {
  const kinds = [...new Set(house.equipment.map((e) => e.kind))].filter((k) => k !== "pass" && k !== "bench");
  return (
    <div className="fields">
      <Button
        onClick={() => onSave({ ...w, shortest: 0, best: undefined, longest: 30, no_limit: undefined })}
      >
        {text.work.atOnce}
      </Button>
      <EquipmentSelect
        label={text.work.takes}
        kind={w.in?.kind}
        kinds={kinds}
        onSave={(kind) =>
          onSave({
            ...w,
            in: kind ? { ...w.in, kind, units: w.in?.units ?? 1 } : undefined,
            longest: kind ? (w.longest ?? Math.max(3600, 2 * w.shortest)) : w.longest,
            no_limit: undefined,
          })
        }
      />
      {w.in && (
        <DegreesField
          label={text.chain.degrees}
          value={w.in.setpoint_c}
          onSave={(v) => onSave({ ...w, in: { ...w.in!, setpoint_c: v } })}
        />
      )}
      <Check
        label={text.work.eachPiece}
        on={w.each ?? false}
        onChange={(on) => onSave({ ...w, each: on || undefined })}
      />
      <TimeField
        label={text.work.stretch}
        value={w.stretch?.longest_s}
        onSave={(v) =>
          onSave({ ...w, stretch: v === undefined ? undefined : { ...w.stretch, longest_s: v } })
        }
      />
      {w.stretch && (
        <EquipmentSelect
          label={text.work.stretchIn}
          kind={w.stretch.in?.kind}
          kinds={kinds}
          onSave={(kind) =>
            onSave({
              ...w,
              stretch: {
                longest_s: w.stretch!.longest_s,
                in: kind ? { kind, units: w.stretch!.in?.units ?? 1 } : undefined,
              },
            })
          }
        />
      )}
      <TextField
        label={text.work.until}
        value={w.until ?? ""}
        placeholder={text.work.untilHint}
        onSave={(v) => onSave({ ...w, until: v || undefined })}
      />
      <TextField
        label={text.work.kept}
        value={w.kept ?? ""}
        placeholder={text.work.keptHint}
        onSave={(v) => onSave({ ...w, kept: v || undefined })}
      />
      <TextField
        label={text.work.care}
        value={w.care?.say ?? ""}
        placeholder={text.work.careHint}
        onSave={(say) =>
          onSave({
            ...w,
            care: say ? { say, seconds: w.care?.seconds ?? 15, every_s: w.care?.every_s ?? 1200 } : undefined,
          })
        }
      />
      {w.care && (
        <>
          <SecondsField
            label={text.work.forLong}
            value={w.care.seconds}
            onSave={(v) => onSave({ ...w, care: { ...w.care!, seconds: v ?? w.care!.seconds } })}
          />
          <TimeField
            label={text.work.every}
            value={w.care.every_s}
            onSave={(v) => onSave({ ...w, care: { ...w.care!, every_s: v ?? w.care!.every_s } })}
          />
        </>
      )}
    </div>
  );
}
