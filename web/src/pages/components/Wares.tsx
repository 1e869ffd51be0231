import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Drop } from "../../ui/Button";
import { NumberField, Select } from "../../ui/fields";

type Step = Schemas["Step"];
type Ware = Schemas["Ware"];

// Wares is the small ware that a step fills: which, how many, and what empties it.
export function Wares({
  step: s,
  component,
  house,
  onSave,
}: {
  step: Step;
  component: Schemas["Component"];
  house: Schemas["House"];
  onSave: (s: Step) => void;
}) {
  const all = s.wares ?? [];
  const there = house.equipment.filter((e) => e.kind === "small-ware");
  const set = (list: Ware[]) => onSave({ ...s, wares: list.length > 0 ? list : undefined });
  if (all.length === 0 && there.length === 0) return null;
  return (
    <fieldset className="fields">
      <legend>{text.work.wares}</legend>
      {all.map((w, i) => {
        const one = (n: Partial<Ware>) => set(all.map((x, k) => (k === i ? { ...x, ...n } : x)));
        return (
          <span className="fields" key={w.equipment}>
            <strong>{there.find((e) => e.id === w.equipment)?.name ?? w.equipment}</strong>
            <NumberField
              label={text.work.wareEach}
              value={w.each}
              onSave={(v) => one({ each: Math.max(1, Math.round(v)), for: undefined })}
            />
            <NumberField
              optional
              label={text.work.wareFor}
              value={w.for}
              onSave={(v) => one({ for: v > 1 ? Math.round(v) : undefined })}
            />
            <Select
              label={text.work.wareUntil}
              value={w.until ?? ""}
              options={[
                ["", text.work.thePlate] as const,
                ...component.steps.filter((x) => x.id !== s.id).map((x) => [x.id, x.name] as const),
              ]}
              onSave={(until) => one({ until: until || undefined })}
            />
            <Drop onClick={() => set(all.filter((_, k) => k !== i))} />
          </span>
        );
      })}
      {there.some((e) => !all.some((w) => w.equipment === e.id)) && (
        <Select
          label={text.work.wares}
          value=""
          options={[
            ["", text.work.choose] as const,
            ...there
              .filter((e) => !all.some((w) => w.equipment === e.id))
              .map((e) => [e.id, e.name] as const),
          ]}
          onSave={(equipment) => equipment && set([...all, { equipment, each: 1 }])}
        />
      )}
    </fieldset>
  );
}
