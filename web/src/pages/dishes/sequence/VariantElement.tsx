import type { Schemas } from "../../../api/client";
import { text } from "../../../text";
import { ElementEditor } from "./ElementEditor";

type Element = Schemas["Element"];

// VariantElement says what a variant does with one element: as written, left out,
// changed, or another component instead.
export function VariantElement({
  choices,
  number,
  element,
  change,
  components,
  onChange,
}: {
  choices: Schemas["Choices"];
  number: number;
  element: Element;
  change: Schemas["Change"] | null;
  components: Schemas["ComponentLine"][];
  onChange: (c: Schemas["Change"] | null) => void;
}) {
  const kind = change?.kind ?? "";
  const set = (k: string) => {
    if (k === "") onChange(null);
    else if (k === "leave-out") onChange({ element: number, kind: k });
    else onChange({ element: number, kind: k as "replace" | "change", with: change?.with ?? element });
  };
  return (
    <>
      <div className="element-editor" aria-label={`${text.sequence.element} ${number}`}>
        <label className="wide">
          {text.variants.does}
          <select
            className="form-select"
            name="variant-does"
            value={kind}
            onChange={(e) => set(e.target.value)}
          >
            <option value="">{text.asWritten}</option>
            <option value="leave-out">{text.variants.leaveOut}</option>
            <option value="change">{text.variants.change}</option>
            <option value="replace">{text.variants.replace}</option>
          </select>
        </label>
        {kind === "replace" && change?.with && (
          <label className="look">
            {text.variants.by}
            <select
              className="form-select"
              name="variant-by"
              value={change.with.component}
              onChange={(e) =>
                onChange({ ...change, with: { ...(change.with as Element), component: e.target.value } })
              }
            >
              {components
                .filter((c) => !c.archived)
                .map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                  </option>
                ))}
            </select>
          </label>
        )}
        {change?.with && (
          <label>
            {text.sequence.amount}
            <input
              key={change.with.amount}
              className="form-control"
              inputMode="decimal"
              defaultValue={change.with.amount}
              onBlur={(e) => {
                const amount = Number(e.target.value.replace(",", "."));
                if (amount > 0) onChange({ ...change, with: { ...(change.with as Element), amount } });
              }}
            />
          </label>
        )}
      </div>
      {change?.with && (
        <ElementEditor
          choices={choices}
          number={number}
          count={number}
          element={change.with}
          onChange={(e) => onChange({ ...change, with: e })}
        />
      )}
    </>
  );
}
