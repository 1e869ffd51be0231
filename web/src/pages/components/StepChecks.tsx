import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button, Drop } from "../../ui/Button";
import { Select, TextField } from "../../ui/fields";
import { DegreesField, SecondsField } from "../../ui/understood";

type Step = Schemas["Step"];

const checks = ["core", "look", "touch", "taste", "weight", "sound", "smell"] as const;

// StepChecks is when a step may begin, how one sees that it is done, what then when it is not yet or too far, and what is never done in it.
export function StepChecks({ step: s, onSave }: { step: Step; onSave: (s: Step) => void }) {
  const ready = (list: string[]) => onSave({ ...s, ready: list.length > 0 ? list : undefined });
  const never = (list: Schemas["Never"][]) => onSave({ ...s, never: list.length > 0 ? list : undefined });
  return (
    <fieldset className="fields">
      <legend>{text.chain.checks}</legend>
      <TextField
        wide
        name="ready"
        label={text.chain.ready}
        value={(s.ready ?? []).join(", ")}
        onSave={(v) =>
          ready(
            v
              .split(",")
              .map((x) => x.trim())
              .filter(Boolean),
          )
        }
      />
      {s.checks.map((k, i) => {
        const set = (n: typeof k) => onSave({ ...s, checks: s.checks.map((x, j) => (j === i ? n : x)) });
        return (
          <span className="fields" key={i}>
            <Select
              label={text.chain.checkBy}
              value={k.kind}
              options={checks.map((c) => [c, c] as const)}
              onSave={(kind) => set({ ...k, kind })}
            />
            {k.kind === "core" ? (
              <DegreesField
                label={text.chain.target}
                value={k.target_c}
                onSave={(v) => set({ ...k, target_c: v })}
              />
            ) : (
              <TextField label={text.chain.until} value={k.say ?? ""} onSave={(v) => set({ ...k, say: v })} />
            )}
            <SecondsField
              label={text.chain.notYet}
              value={k.not_yet_s}
              onSave={(v) => set({ ...k, not_yet_s: v || undefined })}
            />
            <TextField
              label={text.chain.tooFar}
              value={k.too_far ?? ""}
              onSave={(v) => set({ ...k, too_far: v || undefined })}
            />
            <Drop onClick={() => onSave({ ...s, checks: s.checks.filter((_, j) => j !== i) })} />
          </span>
        );
      })}
      {(s.never ?? []).map((n, i) => (
        <span className="fields" key={i}>
          <TextField
            label={text.chain.never}
            value={n.what}
            onSave={(what) => never((s.never ?? []).map((x, j) => (j === i ? { ...n, what } : x)))}
          />
          <TextField
            label={text.chain.because}
            value={n.because ?? ""}
            onSave={(v) =>
              never((s.never ?? []).map((x, j) => (j === i ? { ...n, because: v || undefined } : x)))
            }
          />
          <Drop onClick={() => never((s.never ?? []).filter((_, j) => j !== i))} />
        </span>
      ))}
      <Button onClick={() => onSave({ ...s, checks: [...s.checks, { kind: "look", say: "" }] })}>
        {text.chain.addCheck}
      </Button>
      <Button onClick={() => never([...(s.never ?? []), { what: text.chain.newNever }])}>
        {text.chain.addNever}
      </Button>
    </fieldset>
  );
}
