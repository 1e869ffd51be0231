import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button, Drop } from "../../ui/Button";
import { NumberField, TextField } from "../../ui/fields";
import { DegreesField } from "../../ui/understood";

type Step = Schemas["Step"];

// StepWishes are guests' wishes of a step: seconds more or less, or a core or a size of their own from which these follow.
export function StepWishes({ step: s, onSave }: { step: Step; onSave: (s: Step) => void }) {
  return (
    <fieldset className="fields">
      <legend>{text.chain.doneness}</legend>
      {s.doneness.map((d, i) => {
        const set = (n: typeof d) => onSave({ ...s, doneness: s.doneness.map((x, j) => (j === i ? n : x)) });
        return (
          <span className="fields" key={i}>
            <TextField label={text.chain.wish} value={d.name} onSave={(name) => set({ ...d, name })} />
            <NumberField
              label={text.chain.moreSeconds}
              value={d.seconds}
              onSave={(v) => set({ ...d, seconds: Math.round(v), target_c: undefined, mm: undefined })}
            />
            {s.piece && (
              <>
                <DegreesField
                  label={text.heat.wishCore}
                  value={d.target_c}
                  onSave={(v) => set({ ...d, target_c: v, mm: undefined })}
                />
                <NumberField
                  optional
                  label={text.heat.wishMm}
                  value={d.mm}
                  onSave={(v) => set({ ...d, mm: v || undefined, target_c: undefined })}
                />
              </>
            )}
            <NumberField
              optional
              label={text.work.atEnds}
              value={d.ends}
              onSave={(v) => set({ ...d, ends: v > 0 ? Math.round(v) : undefined })}
            />
            <Drop onClick={() => onSave({ ...s, doneness: s.doneness.filter((_, j) => j !== i) })} />
          </span>
        );
      })}
      <Button onClick={() => onSave({ ...s, doneness: [...s.doneness, { name: "well done", seconds: 60 }] })}>
        {text.chain.addWish}
      </Button>
    </fieldset>
  );
}
