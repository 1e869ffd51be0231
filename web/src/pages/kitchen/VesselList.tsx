import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { NumberField, Select, TextField } from "../../ui/fields";
import { DegreesField } from "../../ui/understood";
import { pairs, PartsList } from "./PartsList";
import type { House, Part } from "./useParts";

// VesselList is what is plated on.
export function VesselList({ h, part }: { h: House; part: Part<Schemas["Vessel"]> }) {
  return (
    <PartsList
      title={text.house.vessels}
      add={text.house.addVessel}
      onAdd={() => part.add(text.house.newVessel)}
      items={h.vessels.map((v) => ({
        id: v.id,
        title: (
          <>
            <b>{v.name}</b>{" "}
            <span className="quiet">
              {v.kind}, {v.width_mm}
              {v.depth_mm ? ` × ${v.depth_mm}` : ""} mm
            </span>
          </>
        ),
        body: (
          <div className="fields">
            <TextField
              wide
              label={text.makings.name}
              value={v.name}
              onSave={(name) => part.change({ ...v, name })}
            />
            <Select
              label={text.house.kind}
              value={v.kind}
              options={pairs(h.choices.vessels)}
              onSave={(kind) => part.change({ ...v, kind })}
            />
            {(
              [
                ["width_mm", text.house.width],
                ["depth_mm", text.house.depth],
                ["rim_mm", text.house.rim],
                ["height_mm", text.house.height],
              ] as const
            ).map(([key, label]) => (
              <NumberField
                key={key}
                optional={key === "depth_mm"}
                label={label}
                value={v[key]}
                onSave={(n) => part.change({ ...v, [key]: n })}
              />
            ))}
            <Select
              label={text.heat.material}
              value={v.material ?? "porcelain"}
              options={pairs(h.choices.materials)}
              onSave={(m) => part.change({ ...v, material: m as typeof v.material })}
            />
            <DegreesField
              label={text.heat.warm}
              value={v.warm_c || undefined}
              onSave={(c) => part.change({ ...v, warm_c: c })}
            />
          </div>
        ),
        onRemove: () => part.remove(v.id),
      }))}
    />
  );
}
