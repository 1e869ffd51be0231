import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Drop } from "../../ui/Button";
import { Check, Select } from "../../ui/fields";
import { TimeField } from "../../ui/understood";

type Step = Schemas["Step"];
type Other = Schemas["OtherStep"];

const nameOf = (a: Other, mates: Schemas["Mate"][]) => {
  const mate = mates.find((m) => m.component === a.component);
  return {
    what: mate?.name ?? a.component,
    step: mate?.steps.find((x) => x.step === a.step)?.name ?? a.step,
  };
};

// besideOf says in words after which step of another component one comes.
export const besideOf = (a: Other, mates: Schemas["Mate"][]) => {
  const n = nameOf(a, mates);
  return (a.pan ? text.work.besidePan : text.work.besideAfter)(n.what, n.step);
};

// Beside is what of other components of the same plate a step comes after: in their pan, or by the clock.
export function Beside({
  step: s,
  mates,
  onSave,
}: {
  step: Step;
  mates: Schemas["Mate"][];
  onSave: (s: Step) => void;
}) {
  const all = s.beside ?? [];
  const set = (list: Other[]) => onSave({ ...s, beside: list.length > 0 ? list : undefined });
  const free = mates.flatMap((m) =>
    m.steps
      .filter((x) => !all.some((a) => a.component === m.component && a.step === x.step))
      .map((x) => [`${m.component}/${x.step}`, `${m.name}: ${x.name}`] as const),
  );
  if (all.length === 0 && free.length === 0) return null;
  return (
    <fieldset className="fields">
      <legend>{text.work.beside}</legend>
      {all.map((a, i) => {
        const one = (n: Partial<Other>) => set(all.map((x, k) => (k === i ? { ...x, ...n } : x)));
        return (
          <span className="fields" key={`${a.component}/${a.step}`}>
            <strong>{besideOf(a, mates)}</strong>
            <Check
              label={text.work.inItsPan}
              on={a.pan ?? false}
              onChange={(on) => one({ pan: on || undefined })}
            />
            <Check
              label={text.work.takenFrom}
              on={a.any ?? false}
              onChange={(on) => one({ any: on || undefined })}
            />
            <TimeField
              label={text.work.atLeast}
              value={a.shortest || undefined}
              onSave={(v) => one({ shortest: v ?? 0 })}
            />
            <TimeField label={text.work.atMost} value={a.longest} onSave={(v) => one({ longest: v })} />
            <Drop onClick={() => set(all.filter((_, k) => k !== i))} />
          </span>
        );
      })}
      {free.length > 0 && (
        <Select
          label={text.work.addBeside}
          value=""
          options={[["", text.work.choose] as const, ...free]}
          onSave={(v) => {
            const [component, step] = v.split("/");
            if (component && step) set([...all, { component, step, shortest: 0 }]);
          }}
        />
      )}
    </fieldset>
  );
}
