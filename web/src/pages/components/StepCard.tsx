import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { checkWords, neverWords } from "../../ui/checks";
import { Button } from "../../ui/Button";
import { EquipmentSelect } from "../../ui/EquipmentSelect";
import { Check, Chips, NumberField, Select, TextField } from "../../ui/fields";
import { DegreesField, TimeField } from "../../ui/understood";
import { NotesHere } from "../back/Notes";
import { Beside, besideOf } from "./Beside";
import { HandsBar } from "./HandsBar";
import { Wares } from "./Wares";
import { StepChecks } from "./StepChecks";
import { StepHands } from "./StepHands";
import { HeatingLine, StepPiece } from "./StepPiece";
import { StepWishes } from "./StepWishes";

type Step = Schemas["Step"];

const hands = [
  ["both", text.editor.both],
  ["tend", text.editor.tend],
  ["none", text.editor.none],
] as const;
const list = (v: string) =>
  v
    .split(",")
    .map((x) => x.trim())
    .filter(Boolean);

// StepCard is one step: what matters at a glance in one line, the rest unfolds.
export function StepCard({
  step: s,
  component,
  house,
  assumed,
  heating,
  oven,
  mates,
  onProbe,
  open,
  onOpen,
  onSave,
  onAdd,
  onRemove,
}: {
  step: Step;
  component: Schemas["Component"];
  house: Schemas["House"];
  assumed: Schemas["AssumedStep"] | undefined;
  heating: Schemas["StepHeating"] | undefined;
  oven: string | undefined;
  mates: Schemas["Mate"][];
  onProbe: (step: string, typed: string) => Promise<boolean>;
  open: boolean;
  onOpen: (open: boolean) => void;
  onSave: (s: Step) => void;
  onAdd: () => void;
  onRemove: () => void;
}) {
  const kinds = [...new Set(house.equipment.map((e) => e.kind))];
  const likely = (v: number | undefined) => {
    const t = v ?? 0;
    const was = s.time.fixed;
    // Quick and slow keep their proportion to what is likely.
    const part = (x: number) => (was.likely > 0 ? Math.round((x * t) / was.likely) : t);
    onSave({ ...s, time: { ...s.time, fixed: { low: part(was.low), likely: t, high: part(was.high) } } });
  };
  const fixed = (k: "low" | "high", v: number | undefined) =>
    onSave({ ...s, time: { ...s.time, fixed: { ...s.time.fixed, [k]: v ?? s.time.fixed.likely } } });
  return (
    <div className={`link ${s.hands}`}>
      <NotesHere bare where={{ step: `${component.id}/${s.id}` }} />
      <div className="fields">
        <TextField wide label={text.chain.step} value={s.name} onSave={(name) => onSave({ ...s, name })} />
        <TimeField label={text.editor.likely} value={s.time.fixed.likely} onSave={likely} />
        <Select
          label={text.editor.hands}
          value={s.hands}
          options={hands}
          onSave={(h) =>
            // Who has both hands on it throughout has none at its ends alone.
            onSave(
              h === "both"
                ? { ...s, hands: h, ends: { in_s: 0, out_s: 0 }, touches: undefined }
                : { ...s, hands: h, away: undefined },
            )
          }
        />
        <EquipmentSelect
          label={text.chain.equipment}
          kind={s.equipment?.kind}
          kinds={kinds}
          onSave={(kind) =>
            onSave({ ...s, equipment: kind ? { kind, units: s.equipment?.units ?? 1 } : undefined })
          }
        />
        {s.equipment && (
          <DegreesField
            label={text.chain.degrees}
            value={s.equipment.setpoint_c}
            onSave={(v) => {
              const to = s.equipment?.setpoint_to_c;
              // A range whose lower end goes past its upper one is one heat.
              const up = v !== undefined && to !== undefined && to >= v ? to : undefined;
              onSave({
                ...s,
                equipment: { ...s.equipment!, setpoint_c: v, setpoint_to_c: up, said: undefined },
              });
            }}
          />
        )}
        <Button aria-expanded={open} onClick={() => onOpen(!open)}>
          {open ? text.editor.close : text.chain.more}
        </Button>
      </div>
      {s.hands !== "both" && (
        <HandsBar step={s} eyes={assumed?.eyes ?? 1} onSave={(ends) => onSave({ ...s, ends })} />
      )}
      {!open && <HeatingLine heating={heating} />}
      {(s.beside ?? []).length > 0 && !open && (
        <p className="quiet hints">{(s.beside ?? []).map((a) => besideOf(a, mates)).join(" · ")}</p>
      )}
      {(s.dangers.length > 0 || s.checks.length > 0 || s.ready || s.never) && !open && (
        <p className="quiet hints">
          {[
            ...(s.ready ?? []).map((x) => `${text.chain.ready} ${x}`),
            ...s.checks.map(checkWords),
            ...(s.never ?? []).map(neverWords),
          ].join(" · ")}
          {s.dangers.length > 0 && (
            <span className="mark-wait">
              {" "}
              ◌ {text.component.mind} {s.dangers.map((d) => d.replace("-", " ")).join(", ")}
            </span>
          )}
        </p>
      )}
      {open && (
        <>
          <div className="fields">
            <TimeField label={text.editor.quick} value={s.time.fixed.low} onSave={(v) => fixed("low", v)} />
            <TimeField label={text.editor.slow} value={s.time.fixed.high} onSave={(v) => fixed("high", v)} />
            <TimeField
              label={text.editor.portion}
              value={s.time.per_portion.likely || undefined}
              onSave={(v) => {
                const t = v ?? 0;
                onSave({ ...s, time: { ...s.time, per_portion: { low: t, likely: t, high: t } } });
              }}
            />
            {s.equipment?.setpoint_c !== undefined && (
              <DegreesField
                label={text.work.upToDegrees}
                value={s.equipment.setpoint_to_c}
                onSave={(v) => onSave({ ...s, equipment: { ...s.equipment!, setpoint_to_c: v } })}
              />
            )}
            {s.equipment && (
              <NumberField
                label={text.chain.units}
                value={s.equipment.units}
                onSave={(units) => onSave({ ...s, equipment: { ...s.equipment!, units: Math.round(units) } })}
              />
            )}
            {s.equipment && s.phase === "pick-up" && (
              <TimeField
                label={text.chain.preheat}
                value={s.equipment.preheat_s}
                onSave={(v) => onSave({ ...s, equipment: { ...s.equipment!, preheat_s: v } })}
              />
            )}
            <NumberField
              optional
              label={text.chain.batch}
              value={s.batch?.portions}
              onSave={(v) =>
                onSave({
                  ...s,
                  batch: v > 0 ? { portions: Math.round(v), run: s.batch?.run ?? "side-by-side" } : undefined,
                })
              }
            />
            {s.batch && (
              <Select
                label={text.chain.run}
                value={s.batch.run}
                options={
                  [
                    ["side-by-side", text.chain.sideBySide],
                    ["in-turn", text.chain.inTurn],
                  ] as const
                }
                onSave={(run) => onSave({ ...s, batch: { ...s.batch!, run } })}
              />
            )}
            <Select
              label={text.newDish.section}
              value={s.section ?? ""}
              options={[["", text.chain.own] as const, ...house.sections.map((x) => [x.id, x.name] as const)]}
              onSave={(v) => onSave({ ...s, section: v || undefined })}
            />
          </div>
          {oven && <p className="quiet mb-0">{oven}</p>}
          <StepPiece
            step={s}
            usual={assumed?.piece}
            heating={heating}
            onSave={onSave}
            component={component.id}
            onKeep={(typed) => onProbe(s.id, typed)}
          />
          <StepHands
            step={s}
            people={house.people}
            assumed={s.phase === "pick-up" ? assumed : undefined}
            onSave={onSave}
          />
          <fieldset className="fields">
            <legend>{text.chain.after}</legend>
            {component.steps
              .filter((x) => x.id !== s.id)
              .map((x) => (
                <Check
                  key={x.id}
                  label={x.name}
                  on={s.after.some((a) => a.step === x.id)}
                  onChange={(on) =>
                    onSave({
                      ...s,
                      after: on
                        ? [...s.after, { step: x.id, shortest: 0 }]
                        : s.after.filter((a) => a.step !== x.id),
                    })
                  }
                />
              ))}
          </fieldset>
          {s.phase === "pick-up" && <Beside step={s} mates={mates} onSave={onSave} />}
          <Wares step={s} component={component} house={house} onSave={onSave} />
          <StepChecks step={s} onSave={onSave} />
          <StepWishes step={s} onSave={onSave} />
          <div className="fields">
            <TextField
              wide
              label={text.chain.putsIn}
              value={s.puts_in.join(", ")}
              onSave={(v) => onSave({ ...s, puts_in: list(v) })}
            />
            <TextField
              wide
              label={text.chain.takesOut}
              value={s.takes_out.join(", ")}
              onSave={(v) => onSave({ ...s, takes_out: list(v) })}
            />
          </div>
          <Chips
            label={text.chain.dangers}
            all={house.choices.dangers}
            chosen={s.dangers}
            onChange={(dangers) => onSave({ ...s, dangers })}
          />
          {s.dangers.length > 0 && <p className="quiet">{text.chain.caution}</p>}
          <div className="fields">
            <Button onClick={onAdd}>{text.chain.addAfter}</Button>
            <Button look="outline-danger" onClick={onRemove}>
              {text.chain.remove}
            </Button>
          </div>
        </>
      )}
    </div>
  );
}
