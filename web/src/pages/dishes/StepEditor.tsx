import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { Problem, type Schemas } from "../../api/client";
import { whyOf } from "../../api/problem";
import { useComponent } from "../../api/queries";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { span } from "../../ui/time";
import { understand } from "../../ui/understood";
import type { StepChange } from "./useChanges";

type Step = Schemas["Step"];

// Draft holds what is typed, as typed; it is understood only when it is saved.
interface Draft {
  low: string;
  likely: string;
  high: string;
  perPortion: string;
  setpoint: string;
  hands: Step["hands"];
  shortest: string;
  best: string;
  longest: string;
}

const say = (s: number | undefined) => (s === undefined ? "" : span(s));

function draftOf(s: Step, w: Schemas["Wait"] | Schemas["Predecessor"] | undefined): Draft {
  return {
    low: span(s.time.fixed.low),
    likely: span(s.time.fixed.likely),
    high: span(s.time.fixed.high),
    perPortion: span(s.time.per_portion.likely),
    setpoint: s.equipment?.setpoint_c === undefined ? "" : String(s.equipment.setpoint_c),
    hands: s.hands,
    shortest: say(w?.shortest),
    best: say(w?.best),
    longest: say(w?.longest),
  };
}

// without is a draft without the fields that a test names.
const without = (d: Partial<Draft>, gone: (k: keyof Draft) => boolean): Partial<Draft> =>
  Object.fromEntries(Object.entries(d).filter(([k]) => !gone(k as keyof Draft)));

// StepEditor edits one step by typing: times, hands, setpoint, and the wait that
// comes after it.
export function StepEditor(props: {
  component: string;
  step: string;
  faults: { path: string; message: string }[];
  onSave: (c: StepChange, mine: string) => Promise<boolean>;
  onClose: () => void;
}) {
  const view = useComponent(props.component);
  const c = view.data?.component;
  const step = c?.steps.find((s) => s.id === props.step);
  if (!c || !step) return null;
  return <Fields {...props} key={props.step} component={c} step={step} />;
}

function Fields({
  component: c,
  step,
  faults,
  onSave,
  onClose,
}: {
  component: Schemas["Component"];
  step: Step;
  faults: { path: string; message: string }[];
  onSave: (c: StepChange, mine: string) => Promise<boolean>;
  onClose: () => void;
}) {
  // The wait after the last step is the component's hold; before a step, the wait
  // from the step that it comes after.
  const last = !c.steps.some((s) => s.after.some((a) => a.step === step.id));
  const before = step.after.find((a) => c.steps.find((s) => s.id === a.step)?.phase === "pick-up");
  const wait = last ? c.hold : before;
  // What was typed and is not saved yet, over what is saved; and what is on its way, so that it is not sent again with
  // the next field.
  const [typed, setTyped] = useState<Partial<Draft>>({});
  const sent = useRef<Partial<Draft>>({});
  const saved = draftOf(step, wait);
  const draft = { ...saved, ...typed };
  useEffect(() => {
    sent.current = without(sent.current, (k) => typed[k] !== sent.current[k]);
  }, [typed]);
  // What was not understood, and why. It is said for as long as it stands: what else is saved meanwhile does not take it away.
  const [wrong, setWrong] = useState<{ said: Partial<Draft>; why: string }>({ said: {}, why: "" });
  const stands = (k: keyof Draft) => typed[k] !== undefined && typed[k] !== saved[k];
  const fault = (Object.keys(wrong.said) as (keyof Draft)[]).some(stands) ? wrong.why : "";
  const form = useRef<HTMLFormElement>(null);

  // changeOf asks what was typed means, and makes the change of it.
  const changeOf = async (mine: Partial<Draft>): Promise<StepChange> => {
    const all = { ...saved, ...mine };
    const read = async (name: string, value: string, optional = false): Promise<number | undefined> => {
      if (optional && value.trim() === "") return undefined;
      const meant = await understand("time", value);
      if (!meant.ok) throw new Error(`${name}: ${text.errors.duration}`);
      return meant.value;
    };
    const said = (...keys: (keyof Draft)[]) => keys.some((k) => mine[k] !== undefined);
    const change: StepChange = {};
    if (said("low", "likely", "high", "perPortion")) {
      const likely = (await read(text.editor.likely, all.likely)) ?? 0;
      // Only the likely time typed: quick and slow keep their proportion.
      if (!said("low", "high", "perPortion")) {
        change.likely_s = likely;
        change.portions = 0;
      } else {
        const per = (await read(text.editor.portion, all.perPortion)) ?? 0;
        change.time = {
          fixed: {
            low: (await read(text.editor.quick, all.low)) ?? 0,
            likely,
            high: (await read(text.editor.slow, all.high)) ?? 0,
          },
          per_portion: said("perPortion") ? { low: per, likely: per, high: per } : step.time.per_portion,
        };
      }
    }
    if (mine.hands !== undefined) change.hands = mine.hands;
    if (mine.setpoint !== undefined && step.equipment) {
      const meant = mine.setpoint.trim() === "" ? null : await understand("degrees", mine.setpoint);
      if (meant && !meant.ok) throw new Error(`${text.editor.setpoint}: ${text.errors.degrees}`);
      change.equipment = { ...step.equipment, setpoint_c: meant?.value, setpoint_to_c: undefined };
    }
    if (said("shortest", "best", "longest")) {
      const w = {
        ...wait,
        no_limit: all.longest.trim() === "" ? wait?.no_limit : undefined,
        shortest: (await read(text.editor.shortest, all.shortest, true)) ?? 0,
        best: await read(text.editor.best, all.best, true),
        longest: await read(text.editor.longest, all.longest, true),
      };
      if (last) change.hold = w;
      else if (before)
        change.after = step.after.map((x) => (x.step === before.step ? { ...w, step: x.step } : x));
    }
    return change;
  };

  const save = async (now: Partial<Draft> = typed) => {
    const keys = (Object.keys(now) as (keyof Draft)[]).filter(
      (k) => now[k] !== saved[k] && now[k] !== sent.current[k],
    );
    const mine = Object.fromEntries(keys.map((k) => [k, now[k]])) as Partial<Draft>;
    if (keys.length === 0) return;
    sent.current = { ...sent.current, ...mine };
    try {
      const change = await changeOf(mine);
      setWrong((w) => (keys.some((k) => w.said[k] !== undefined) ? { said: {}, why: "" } : w));
      if (await onSave(change, `${step.name}: ${mine.likely ?? draft.likely}`))
        setTyped((t) => without(t, (k) => t[k] === mine[k])); // what was typed meanwhile stays
      else sent.current = without(sent.current, (k) => sent.current[k] === mine[k]);
    } catch (e) {
      setWrong({
        said: mine,
        why: e instanceof Problem ? whyOf(e) : e instanceof Error ? e.message : String(e),
      });
      sent.current = without(sent.current, (k) => sent.current[k] === mine[k]);
    }
  };

  // Enter goes on to the next field, as in a list; leaving a field saves.
  const onKey = (e: KeyboardEvent<HTMLFormElement>) => {
    if (e.key !== "Enter" || !(e.target instanceof HTMLInputElement)) return;
    e.preventDefault();
    const fields = [...(form.current?.querySelectorAll<HTMLElement>("input, select") ?? [])];
    const next = fields[(fields.indexOf(e.target) + 1) % fields.length];
    if (next === e.target) void save();
    else next?.focus(); // leaving the field saves
  };
  const field = (key: Exclude<keyof Draft, "hands">, label: string) => (
    <div>
      <label htmlFor={`step-${key}`}>{label}</label>
      <input
        id={`step-${key}`}
        className="form-control"
        value={draft[key]}
        placeholder={text.editor.unsaid}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
        onBlur={() => void save()}
      />
    </div>
  );
  return (
    <form
      className="step-editor"
      ref={form}
      onKeyDown={onKey}
      onSubmit={(e) => e.preventDefault()}
      aria-label={step.name}
    >
      <div className="step-head">
        <h2>
          {c.name}: {step.name}
        </h2>
        <Button onClick={onClose}>{text.editor.close}</Button>
      </div>
      <div className="fields">
        <fieldset>
          <legend>{text.editor.batch}</legend>
          {field("low", text.editor.quick)}
          {field("likely", text.editor.likely)}
          {field("high", text.editor.slow)}
          {field("perPortion", text.editor.portion)}
        </fieldset>
        <div>
          <label htmlFor="step-hands">{text.editor.hands}</label>
          <select
            id="step-hands"
            className="form-select"
            value={draft.hands}
            onChange={(e) => {
              const now = { ...typed, hands: e.target.value as Step["hands"] };
              setTyped(now);
              void save(now);
            }}
          >
            <option value="both">{text.editor.both}</option>
            <option value="tend">{text.editor.tend}</option>
            <option value="none">{text.editor.none}</option>
          </select>
        </div>
        {step.equipment && field("setpoint", text.editor.setpoint)}
        {(last || before) && (
          <fieldset>
            <legend>{last ? text.editor.hold : text.editor.waitBefore}</legend>
            {field("shortest", text.editor.shortest)}
            {field("best", text.editor.best)}
            {field("longest", text.editor.longest)}
          </fieldset>
        )}
      </div>
      {(fault || faults.length > 0) && (
        <div className="fault" role="alert">
          {fault || faults.map((f) => f.message).join(". ")}
        </div>
      )}
    </form>
  );
}
