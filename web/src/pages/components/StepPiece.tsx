import { useState } from "react";
import { api, settle, type Problem, type Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty, NumberField, Select } from "../../ui/fields";
import { span } from "../../ui/time";
import { DegreesField } from "../../ui/understood";

type Step = Schemas["Step"];
type Piece = Schemas["Piece"];

const shapes = ["slab", "cylinder", "sphere", "ellipsoid"] as const;
const foods = ["meat", "fish", "root", "egg", "dough", "liquid"] as const;

// HeatingLine is what a step's size amounts to: how long, when to take it out, how that was computed.
export function HeatingLine({ heating: h }: { heating: Schemas["StepHeating"] | undefined }) {
  if (!h) return null;
  if (h.problem) return <p className="heating mark-wait">◌ {h.said.text}</p>;
  return (
    <p className="heating">
      <b>{span(h.time.likely)}</b>
      <span className="quiet">
        , {text.heat.between} {span(h.time.low)} {text.and} {span(h.time.high)}.
      </span>
      {h.out_c !== undefined && <b> {text.heat.takeOut(h.out_c, h.rise_c ?? 0)}</b>}{" "}
      <span className="quiet">{h.said.text}</span>
      {!h.sets && <span className="mark-wait"> ◌ {text.heat.typed}</span>}
    </p>
  );
}

// StepPiece is the size that a step heats: typed, its time follows; and what a probe said of it.
export function StepPiece({
  step: s,
  usual,
  heating,
  onSave,
  ...probe
}: {
  step: Step;
  usual: Piece | undefined;
  heating: Schemas["StepHeating"] | undefined;
  onSave: (s: Step) => void;
  component: string;
  onKeep: (typed: string) => Promise<boolean>;
}) {
  const p = s.piece;
  if (!s.equipment && !p) return null;
  if (!p)
    return usual ? (
      <div className="fields">
        <Button onClick={() => onSave({ ...s, piece: usual })}>{text.heat.set}</Button>
      </div>
    ) : null;
  const put = (n: Partial<Piece>) => onSave({ ...s, piece: { ...p, ...n } });
  return (
    <fieldset className="fields piece">
      <legend>{text.heat.title}</legend>
      <Select
        label={text.heat.shape}
        value={p.shape}
        options={shapes.map((x) => [x, text.heat.shapes[x] ?? x] as const)}
        onSave={(shape) => put({ shape })}
      />
      <Select
        label={text.heat.food}
        value={p.food}
        options={foods.map((x) => [x, text.heat.foods[x] ?? x] as const)}
        onSave={(food) => put({ food })}
      />
      <NumberField
        optional
        name="piece-mm"
        label={text.heat.mm}
        value={p.mm}
        onSave={(v) => put(v ? { mm: v, grams: undefined } : { mm: undefined, grams: p.grams || 200 })}
      />
      <NumberField
        optional
        label={text.heat.grams}
        value={p.grams}
        onSave={(v) => put(v ? { grams: v, mm: undefined } : { grams: undefined, mm: p.mm || 25 })}
      />
      <DegreesField label={text.heat.start} value={p.start_c} onSave={(v) => put({ start_c: v ?? 5 })} />
      <DegreesField
        label={text.heat.target}
        value={p.target_c}
        onSave={(v) => put({ target_c: v ?? p.target_c })}
      />
      <DegreesField label={text.heat.medium} value={p.medium_c} onSave={(v) => put({ medium_c: v })} />
      {p.typed && (
        <Button onClick={() => put({ typed: undefined })} className="follow">
          {text.heat.follow}
        </Button>
      )}
      <Button look="outline-danger" onClick={() => onSave({ ...s, piece: undefined })}>
        {text.heat.drop}
      </Button>
      <HeatingLine heating={heating} />
      <Probe step={s.id} {...probe} />
    </fieldset>
  );
}

// Probe reads what a probe said, and lets it correct the step's time.
function Probe({
  step,
  component,
  onKeep,
}: {
  step: string;
  component: string;
  onKeep: (typed: string) => Promise<boolean>;
}) {
  const [typed, setTyped] = useState("");
  const [said, setSaid] = useState<Schemas["Probed"] | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const read = async () => {
    setProblem(null);
    try {
      setSaid(
        await settle(
          api.POST("/api/components/{id}/steps/{step}/probe", {
            params: { path: { id: component, step } },
            body: { text: typed },
          }),
        ),
      );
    } catch (e) {
      setSaid(null);
      setProblem(e as Problem);
    }
  };
  return (
    <div className="fields probe">
      <label className="field wide">
        {text.heat.probe}
        <textarea
          className="form-control"
          rows={2}
          value={typed}
          placeholder={text.heat.probeHint}
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      <Button disabled={typed.trim() === ""} onClick={() => void read()}>
        {text.heat.read}
      </Button>
      {said && !said.problem && (
        <Button
          onClick={() =>
            void onKeep(typed).then((ok) => {
              if (ok) {
                setTyped("");
                setSaid(null);
              }
            })
          }
        >
          {text.heat.keep}
        </Button>
      )}
      <Faulty problem={problem} />
      {said && (
        <p className={said.problem ? "mark-wait" : "probed"} role="status">
          {said.said.map((m) => m.text).join(" ")}
        </p>
      )}
    </div>
  );
}
