import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { NumberField, Select, TextField } from "../../ui/fields";
import { ClockField, DegreesField } from "../../ui/understood";

type Kitchen = Schemas["Kitchen"];

// Settings are the house's own: its name, its clock, its code of food safety, its hours.
export function Settings({ k, put }: { k: Kitchen; put: (k: Kitchen) => void }) {
  return (
    <section className="card-enamel p-3">
      <div className="fields">
        <TextField wide label={text.empty.name} value={k.name} onSave={(name) => put({ ...k, name })} />
        <TextField
          wide
          label={text.house.zone}
          value={k.time_zone}
          onSave={(v) => put({ ...k, time_zone: v })}
        />
        <Select
          label={text.house.code}
          value={k.safety_code}
          options={
            [
              ["uk-eu", text.house.codes["uk-eu"] ?? ""],
              ["us-fda", text.house.codes["us-fda"] ?? ""],
            ] as const
          }
          onSave={(v) => put({ ...k, safety_code: v })}
        />
        {(
          [
            ["day_from", text.house.dayFrom],
            ["service_from", text.house.serviceFrom],
            ["service_to", text.house.serviceTo],
          ] as const
        ).map(([key, label]) => (
          <ClockField key={key} label={label} value={k[key]} onSave={(v) => put({ ...k, [key]: v })} />
        ))}
        <NumberField
          label={text.house.platers}
          value={k.plating_hands}
          onSave={(v) => put({ ...k, plating_hands: Math.round(v) })}
        />
        <DegreesField
          label={text.heat.serve}
          value={k.serve_c ?? 55}
          onSave={(c) => put({ ...k, serve_c: c })}
        />
      </div>
      <p className="quiet mb-0">{text.house.caution}</p>
    </section>
  );
}
