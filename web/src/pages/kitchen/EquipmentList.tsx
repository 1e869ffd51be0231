import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Check, NumberField, Select, TextField } from "../../ui/fields";
import { DegreesField, SecondsField } from "../../ui/understood";
import { pairs, PartsList } from "./PartsList";
import type { House, Part } from "./useParts";

// EquipmentList is what is cooked on, with its room and its heat.
export function EquipmentList({ h, part }: { h: House; part: Part<Schemas["Equipment"]> }) {
  return (
    <PartsList
      title={text.house.equipment}
      add={text.house.addEquipment}
      onAdd={() => part.add(text.house.newEquipment)}
      items={h.equipment.map((e) => ({
        id: e.id,
        title: (
          <>
            <b>{e.name}</b>{" "}
            <span className="quiet">
              {e.kind.replace("-", " ")}, {e.capacity} {e.unit}
              {e.thermostat && `, ${e.thermostat.low_c}–${e.thermostat.high_c} °C`}
            </span>
          </>
        ),
        body: (
          <div className="fields">
            <TextField
              wide
              label={text.makings.name}
              value={e.name}
              onSave={(name) => part.change({ ...e, name })}
            />
            <Select
              label={text.house.kind}
              value={e.kind}
              options={pairs(h.choices.equipment)}
              onSave={(kind) => part.change({ ...e, kind })}
            />
            <NumberField
              label={text.house.room}
              value={e.capacity}
              onSave={(v) => part.change({ ...e, capacity: Math.round(v) })}
            />
            <TextField
              label={text.house.countedIn}
              value={e.unit}
              onSave={(unit) => part.change({ ...e, unit })}
            />
            <SecondsField
              label={text.house.rinse}
              value={e.rinse_s}
              onSave={(v) => part.change({ ...e, rinse_s: v || undefined })}
            />
            {e.kind === "oven" && (
              <>
                <Check
                  label={text.heat.still}
                  on={e.still === true}
                  onChange={(on) => part.change({ ...e, still: on || undefined })}
                />
                <SecondsField
                  label={text.heat.recover}
                  value={e.recover_s}
                  onSave={(v) => part.change({ ...e, recover_s: v || undefined })}
                />
              </>
            )}
            <Check
              label={text.house.thermostat}
              on={e.thermostat !== undefined}
              onChange={(on) =>
                part.change({
                  ...e,
                  thermostat: on ? h.choices.thermostat : undefined,
                })
              }
            />
            {e.thermostat && (
              <>
                {(
                  [
                    ["low_c", text.house.low],
                    ["high_c", text.house.high],
                    ["standby_c", text.house.standby],
                  ] as const
                ).map(([key, label]) => (
                  <DegreesField
                    key={key}
                    label={label}
                    value={e.thermostat?.[key]}
                    onSave={(v) =>
                      part.change({
                        ...e,
                        thermostat: { ...(e.thermostat ?? h.choices.thermostat), [key]: v ?? 0 },
                      })
                    }
                  />
                ))}
                {(
                  [
                    ["heat_c_per_min", text.house.heats],
                    ["cool_c_per_min", text.house.cools],
                    ["tolerance_c", text.house.tolerance],
                  ] as const
                ).map(([key, label]) => (
                  <NumberField
                    key={key}
                    label={label}
                    value={e.thermostat?.[key]}
                    onSave={(v) =>
                      part.change({
                        ...e,
                        thermostat: { ...(e.thermostat ?? h.choices.thermostat), [key]: v },
                      })
                    }
                  />
                ))}
              </>
            )}
          </div>
        ),
        onRemove: () => part.remove(e.id),
      }))}
    />
  );
}
