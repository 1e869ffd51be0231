import { useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { useSave } from "../../api/useSave";
import { text } from "../../text";
import { Faulty, NumberField, Select, TextField } from "../../ui/fields";

type Question = Schemas["Question"];

const kinds = ["convert", "ratio", "brine", "reduce", "begin-with", "reduced-by", "carry", "for"] as const;
// WorkOut does the sums by the scales: units, ratios, brines and reductions. The server
// reckons; between weight and volume with the component's own density.
export function WorkOut({
  component,
  density,
  house,
}: {
  component: string;
  density: number;
  house: Schemas["House"];
}) {
  const units = house.units.map((u) => [u, u] as const);
  const [q, setQ] = useState<Question>({
    kind: "convert",
    amount: 1,
    unit: "l",
    to: "g",
    percent: 10,
    left: 1,
  });
  const [answer, setAnswer] = useState<Schemas["Answer"] | null>(null);
  const { save, problem } = useSave([]);
  const ask = async (next: Question) => {
    setQ(next);
    setAnswer(
      await save(() =>
        settle(api.POST("/api/work-out", { body: { ...next, grams_per_ml: density, component } })),
      ),
    );
  };
  const warmths = (q.kind === "convert" ? ["°C", "°F", "gas"] : []).map((u) => [u, u] as const);
  const parts = q.kind === "ratio" || q.kind === "brine" || q.kind === "reduce" || q.kind === "begin-with";
  return (
    <div className="work-out">
      <div className="fields">
        <Select
          label={text.workOut.kind}
          value={q.kind}
          options={kinds.map((k) => [k, text.workOut.kinds[k]] as const)}
          onSave={(kind) => void ask({ ...q, kind })}
        />
        <NumberField
          name="work-amount"
          label={text.workOut.amount}
          value={q.amount}
          onSave={(amount) => void ask({ ...q, amount })}
        />
        <Select
          label={text.workOut.unit}
          value={q.unit}
          options={[...units, ...warmths]}
          onSave={(unit) => void ask({ ...q, unit })}
        />
        {q.kind === "convert" && (
          <Select
            label={text.workOut.to}
            value={q.to ?? "g"}
            options={[...units, ...warmths]}
            onSave={(to) => void ask({ ...q, to })}
          />
        )}
        {parts && (
          <NumberField
            name="work-percent"
            label={text.workOut.percent}
            value={q.percent}
            onSave={(percent) => void ask({ ...q, percent })}
          />
        )}
        {q.kind === "carry" && (
          <TextField
            wide
            name="work-steps"
            label={text.workOut.steps}
            value={q.steps ?? ""}
            onSave={(steps) => void ask({ ...q, steps })}
          />
        )}
        {q.kind === "reduced-by" && (
          <NumberField
            name="work-left"
            label={text.workOut.left}
            value={q.left}
            onSave={(left) => void ask({ ...q, left })}
          />
        )}
      </div>
      <p className="answer" aria-live="polite">
        {answer?.said.text}
      </p>
      {(answer?.parts ?? []).length > 0 && (
        <ul>
          {(answer?.parts ?? []).map((p) => (
            <li key={p.text}>{p.text}</li>
          ))}
        </ul>
      )}
      <Faulty problem={problem} />
    </div>
  );
}
