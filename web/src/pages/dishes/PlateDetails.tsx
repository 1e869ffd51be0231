import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Fold, NumberField, Select, TextField } from "../../ui/fields";
import { TimeField } from "../../ui/understood";
import { span } from "../../ui/time";

const temps = ["hot", "warm", "ambient", "chilled", "frozen"] as const;

// PlateDetails is what the specification says of the whole plate: the vessel, what faces
// the guest, the last check, how long it may stand.
export function PlateDetails({
  spec,
  vessels,
  onChange,
}: {
  spec: Schemas["Specification"];
  vessels: Schemas["Vessel"][];
  onChange: (s: Schemas["Specification"]) => void;
}) {
  const summary = [
    `${text.dish.leaves} ${spec.final_checks.join(" · ") || text.dish.nothing}`,
    spec.stand_limit_s > 0 ? `${text.dish.stands} ${span(spec.stand_limit_s)}` : "",
    (spec.plated_ahead ?? 0) > 0 ? text.details.aheadOf(spec.plated_ahead ?? 0) : "",
    spec.table_side ?? "",
  ]
    .filter(Boolean)
    .join(" · ");
  return (
    <Fold title={summary}>
      <div className="fields">
        <Select
          label={text.details.vessel}
          value={spec.vessel}
          options={vessels.map((v) => [v.id, v.name] as const)}
          onSave={(vessel) => onChange({ ...spec, vessel })}
        />
        <Select
          label={text.details.temp}
          value={spec.vessel_temp}
          options={temps.map((t) => [t, t] as const)}
          onSave={(vessel_temp) => onChange({ ...spec, vessel_temp })}
        />
        <TimeField
          label={text.details.stands}
          value={spec.stand_limit_s || undefined}
          onSave={(s) => onChange({ ...spec, stand_limit_s: s ?? 0 })}
        />
        <NumberField
          optional
          label={text.details.ahead}
          value={spec.plated_ahead}
          onSave={(v) => onChange({ ...spec, plated_ahead: v > 0 ? Math.round(v) : undefined })}
        />
        {(spec.plated_ahead ?? 0) > 0 && (
          <TimeField
            label={text.details.rack}
            value={spec.rack_s}
            onSave={(v) => onChange({ ...spec, rack_s: v })}
          />
        )}
        <TextField
          wide
          label={text.details.facing}
          value={spec.facing ?? ""}
          onSave={(facing) => onChange({ ...spec, facing: facing || undefined })}
        />
        <TextField
          wide
          label={text.details.tableSide}
          value={spec.table_side ?? ""}
          onSave={(v) => onChange({ ...spec, table_side: v || undefined })}
        />
        <TextField
          wide
          name="final-checks"
          label={text.details.checks}
          value={spec.final_checks.join(", ")}
          onSave={(v) =>
            onChange({
              ...spec,
              final_checks: v
                .split(",")
                .map((x) => x.trim())
                .filter(Boolean),
            })
          }
        />
      </div>
    </Fold>
  );
}
