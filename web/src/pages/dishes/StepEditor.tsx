import { useRef, useState, type KeyboardEvent } from "react";
import type { Schemas } from "../../api/client";
import { useComponent } from "../../api/queries";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { seconds, span } from "../../ui/time";
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
  return <Fields {...props} key={view.data?.version} component={c} step={step} />;
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
  // What is saved already, so that it is not sent again with the next field.
  const [was, setWas] = useState(() => draftOf(step, wait));
  const [draft, setDraft] = useState(was);
  const [fault, setFault] = useState("");
  const form = useRef<HTMLFormElement>(null);

  const save = async () => {
    const read = (name: string, typed: string, optional = false): number | undefined => {
      const s = seconds(typed);
      if (s === null && (!optional || typed.trim() !== ""))
        throw new Error(`${name}: ${text.errors.duration}`);
      return s ?? undefined;
    };
    try {
      const change: StepChange = {};
      if (
        draft.low !== was.low ||
        draft.likely !== was.likely ||
        draft.high !== was.high ||
        draft.perPortion !== was.perPortion
      ) {
        const per = read(text.editor.portion, draft.perPortion) ?? 0;
        const same = draft.perPortion === was.perPortion;
        const likely = read(text.editor.likely, draft.likely) ?? 0;
        // Only the likely time typed: quick and slow keep their proportion.
        if (same && draft.low === was.low && draft.high === was.high) {
          change.likely_s = likely;
          change.portions = 0;
        } else {
          change.time = {
            fixed: {
              low: read(text.editor.quick, draft.low) ?? 0,
              likely,
              high: read(text.editor.slow, draft.high) ?? 0,
            },
            per_portion: same ? step.time.per_portion : { low: per, likely: per, high: per },
          };
        }
      }
      if (draft.hands !== was.hands) change.hands = draft.hands;
      if (draft.setpoint !== was.setpoint && step.equipment) {
        const degrees =
          draft.setpoint.trim() === ""
            ? undefined
            : Number(draft.setpoint.replace(",", ".").replace(/°|c/gi, ""));
        if (degrees !== undefined && Number.isNaN(degrees))
          throw new Error(`${text.editor.setpoint}: ${text.errors.number}`);
        change.equipment = { ...step.equipment, setpoint_c: degrees };
      }
      if (draft.shortest !== was.shortest || draft.best !== was.best || draft.longest !== was.longest) {
        const w = {
          place: wait?.place,
          shortest: read(text.editor.shortest, draft.shortest, true) ?? 0,
          best: read(text.editor.best, draft.best, true),
          longest: read(text.editor.longest, draft.longest, true),
        };
        if (last) change.hold = w;
        else if (before)
          change.after = step.after.map((a) => (a.step === before.step ? { ...w, step: a.step } : a));
      }
      setFault("");
      if (Object.keys(change).length === 0) return;
      setWas(draft);
      if (!(await onSave(change, `${step.name}: ${draft.likely}`))) setWas(was); // it is to be saved yet
    } catch (e) {
      setFault(e instanceof Error ? e.message : String(e));
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
        onChange={(e) => setDraft({ ...draft, [key]: e.target.value })}
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
      <div className="d-flex align-items-center gap-3 mb-2">
        <h2 className="flex-grow-1">
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
            onChange={(e) => setDraft({ ...draft, hands: e.target.value as Step["hands"] })}
            onBlur={() => void save()}
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
