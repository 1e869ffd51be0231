import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button, Drop } from "../../ui/Button";
import { Check, Select, TextField } from "../../ui/fields";
import { SecondsField, TimeField } from "../../ui/understood";

type Step = Schemas["Step"];
type Touch = Schemas["Touch"];

const mays = [
  ["", text.work.mayUnsaid],
  ["anybody", text.work.mayAnybody],
  ["section", text.work.maySection],
  ["named", text.work.mayNamed],
] as const;
const times = ["half-way", "after", "before-end", "every"] as const;

// StepHands is what a step that does not take the hands throughout says of them: how long at its ends, what is done inside it,
// whether it goes on from the step before, and whether it may begin before the call.
export function StepHands({
  step: s,
  assumed,
  people,
  onSave,
}: {
  step: Step;
  people: Schemas["Person"][];
  assumed: Schemas["AssumedStep"] | undefined;
  onSave: (s: Step) => void;
}) {
  const touches = s.touches ?? [];
  const set = (list: Touch[]) => onSave({ ...s, touches: list.length > 0 ? list : undefined });
  const ends = (e: Partial<Step["ends"]>) => onSave({ ...s, ends: { ...s.ends, ...e } });
  const guess = (is: boolean | undefined) => (is ? text.work.guessedYes : text.work.guessedNo);
  return (
    <>
      {s.hands !== "both" && (
        <>
          <div className="fields">
            <SecondsField
              label={text.work.layIn}
              value={s.ends.in_s}
              onSave={(v) => ends({ in_s: v ?? 0 })}
            />
            <SecondsField
              label={text.work.inEach}
              value={s.ends.in_each_s}
              onSave={(v) => ends({ in_each_s: v })}
            />
            <SecondsField
              label={text.work.takeOut}
              value={s.ends.out_s}
              onSave={(v) => ends({ out_s: v ?? 0 })}
            />
            <SecondsField
              label={text.work.outEach}
              value={s.ends.out_each_s}
              onSave={(v) => ends({ out_each_s: v })}
            />
          </div>
          <fieldset className="fields">
            <legend>{text.work.inside}</legend>
            {touches.map((t, i) => {
              const one = (n: Partial<Touch>) => set(touches.map((x, j) => (j === i ? { ...x, ...n } : x)));
              return (
                <span className="fields" key={i}>
                  <TextField label={text.work.what} value={t.say} onSave={(say) => one({ say })} />
                  <SecondsField
                    label={text.work.forLong}
                    value={t.seconds}
                    onSave={(v) => one({ seconds: v ?? t.seconds })}
                  />
                  <Select
                    label={text.work.when}
                    value={t.when}
                    options={times.map((x) => [x, text.work.times[x]] as const)}
                    onSave={(when) => one({ when, at_s: when === "half-way" ? undefined : (t.at_s ?? 300) })}
                  />
                  {t.when !== "half-way" && (
                    <TimeField
                      label={text.work.at}
                      value={t.at_s}
                      onSave={(v) => one({ at_s: v ?? t.at_s })}
                    />
                  )}
                  <Drop onClick={() => set(touches.filter((_, j) => j !== i))} />
                </span>
              );
            })}
            <Button onClick={() => set([...touches, { say: text.work.turn, seconds: 10, when: "half-way" }])}>
              {text.work.add}
            </Button>
          </fieldset>
        </>
      )}
      {s.hands === "both" && (
        <Check
          label={text.work.away}
          on={s.away ?? false}
          onChange={(on) => onSave({ ...s, away: on || undefined })}
        />
      )}
      <div className="fields">
        <Select
          label={text.work.may}
          value={s.may ?? ""}
          options={mays}
          onSave={(v) =>
            onSave({
              ...s,
              may: v || undefined,
              people: v === "named" ? people.slice(0, 1).map((p) => p.id) : undefined,
            })
          }
        />
        {s.may === "named" &&
          people.map((p) => (
            <Check
              key={p.id}
              label={p.name}
              on={(s.people ?? []).includes(p.id)}
              onChange={(on) =>
                onSave({
                  ...s,
                  people: on ? [...(s.people ?? []), p.id] : (s.people ?? []).filter((x) => x !== p.id),
                })
              }
            />
          ))}
      </div>
      {assumed && (
        <div className="fields">
          {s.after.length === 1 && (
            <Select
              label={text.work.same}
              value={s.same === undefined ? "" : s.same ? "yes" : "no"}
              options={
                [
                  ["", guess(assumed.goes_on)],
                  ["yes", text.work.yes],
                  ["no", text.work.no],
                ] as const
              }
              onSave={(v) => onSave({ ...s, same: v === "" ? undefined : v === "yes" })}
            />
          )}
          <Select
            label={text.work.call}
            value={s.call ?? ""}
            options={
              [
                ["", guess(assumed.may_begin)],
                ["any-time", text.work.yes],
                ["on-the-call", text.work.no],
              ] as const
            }
            onSave={(v) => onSave({ ...s, call: v || undefined })}
          />
        </div>
      )}
    </>
  );
}
