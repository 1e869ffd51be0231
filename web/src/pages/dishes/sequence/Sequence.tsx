import { useState, type KeyboardEvent } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { text } from "../../../text";
import { Swatch } from "../../../ui/Swatch";
import { span } from "../../../ui/time";
import { unitWord } from "../../../ui/units";
import { understand } from "../../../ui/understood";
import { NewComponent } from "../NewComponent";
import { changed } from "../Variants";
import { Cell } from "./Cell";
import { Clock } from "./Clock";
import { ElementEditor } from "./ElementEditor";
import { VariantElement } from "./VariantElement";
import { formOf, where } from "./words";

type Element = Schemas["Element"];

// secondsOf asks what a typed time of a practised hand means; a bare number is seconds.
const secondsOf = async (typed: string) => {
  const u = await understand("seconds", typed).catch(() => null); // nobody could be asked: it stays as typed
  return u?.ok ? u.value : null;
};

interface Props {
  view: Schemas["DishView"];
  spec: Schemas["Specification"];
  sections: Schemas["Section"][];
  components: Schemas["ComponentLine"][];
  choices: Schemas["Choices"];
  variant: string;
  chosen: number;
  onChoose: (n: number) => void;
  onChange: (spec: Schemas["Specification"]) => void;
  onArrange: (edit: Omit<Schemas["SequenceEdit"], "version" | "draft">) => void;
}

// Sequence lists what goes on the plate, in its order, one line each, edited in place.
export function Sequence({
  view,
  spec,
  sections,
  components,
  choices,
  variant,
  chosen,
  onChoose,
  onChange,
  onArrange,
}: Props) {
  const [adding, setAdding] = useState(false);
  const elements = spec.elements;
  const v = spec.variants.find((x) => x.name === variant);
  const gone = new Set(v?.changes.filter((c) => c.kind === "leave-out").map((c) => c.element));
  const total = elements.reduce((sum, e, i) => (gone.has(i + 1) ? sum : sum + e.seconds), 0);
  const editable = variant === "";
  const set = (i: number, e: Element) =>
    onChange({ ...spec, elements: elements.map((x, k) => (k === i ? e : x)) });
  const swap = (i: number, k: number) => {
    if (k < 0 || k >= elements.length) return;
    onChoose(k + 1);
    onArrange({ edit: "move", number: i + 1, to: k + 1 });
  };
  const onKey = (e: KeyboardEvent, i: number) => {
    if (!editable || !e.altKey) return;
    if (e.key === "ArrowUp" || e.key === "ArrowDown") {
      e.preventDefault();
      swap(i, e.key === "ArrowUp" ? i - 1 : i + 1);
    }
  };
  const [sought, setSought] = useState("");
  const offered = components.filter(
    (c) => !c.archived && c.name.toLowerCase().includes(sought.trim().toLowerCase()),
  );
  const add = (component: string) => {
    setAdding(false);
    onArrange({ edit: "add", component });
    onChoose(elements.length + 1);
  };
  return (
    <div className="card-enamel">
      <table className="sequence" aria-label={text.sequence.caption}>
        <thead>
          <tr>
            <th className="num" aria-label={text.sequence.number} />
            <th>{text.sequence.component}</th>
            <th className="right">{text.sequence.amount}</th>
            <th>{text.sequence.form}</th>
            <th className="narrow-off">{text.sequence.tool}</th>
            <th className="right">{text.sequence.time}</th>
          </tr>
        </thead>
        <tbody>
          {elements.map((e, i) => {
            const c = view.components[i];
            const out = gone.has(i + 1);
            const other = v?.changes.find((x) => x.element === i + 1 && x.kind !== "leave-out");
            return (
              <tr
                key={i}
                className={chosen === i + 1 ? "chosen" : undefined}
                style={out ? { opacity: 0.6 } : undefined}
                onKeyDown={(k) => onKey(k, i)}
              >
                <td className="num">
                  <button
                    type="button"
                    className="bead"
                    aria-pressed={chosen === i + 1}
                    aria-label={`${i + 1} ${c?.name}`}
                    onClick={() => onChoose(chosen === i + 1 ? 0 : i + 1)}
                  >
                    {i + 1}
                  </button>
                </td>
                <td>
                  <Swatch section={sections.find((s) => s.id === c?.section)} />{" "}
                  <Link
                    className="component"
                    to={`/components/${e.component}`}
                    style={out ? { textDecoration: "line-through" } : undefined}
                  >
                    {c?.name}
                  </Link>
                  {out && <span className="quiet"> {text.sequence.leftOut}</span>}
                  {other?.with && (
                    <span className="quiet">
                      {" → "}
                      {other.with.component === e.component
                        ? text.sequence.changed
                        : components.find((x) => x.id === other.with?.component)?.name}
                    </span>
                  )}
                  {e.last_moment && <span className="quiet"> · {text.sequence.last}</span>}
                </td>
                <td className="right">
                  <Cell
                    label={`${text.sequence.amount} ${i + 1}`}
                    value={String(e.amount)}
                    editable={editable}
                    read={(t) => (Number(t.replace(",", ".")) > 0 ? Number(t.replace(",", ".")) : null)}
                    onChange={(amount) => set(i, { ...e, amount })}
                  />{" "}
                  {unitWord(c?.unit ?? "", e.amount)}
                </td>
                <td>
                  <span className="place">
                    <Clock e={e} />
                    <span>
                      {formOf(e)}, {where(e)}
                    </span>
                  </span>
                </td>
                <td className="narrow-off quiet">{e.tool}</td>
                <td className="right">
                  <Cell
                    label={`${text.sequence.time} ${i + 1}`}
                    value={span(e.seconds)}
                    editable={editable}
                    read={secondsOf}
                    onChange={(s) => set(i, { ...e, seconds: s })}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
        <tfoot>
          <tr>
            <td />
            <td>
              {editable && (
                <button
                  type="button"
                  className="link"
                  onClick={() => setAdding(!adding)}
                  aria-expanded={adding}
                >
                  {text.sequence.add}
                </button>
              )}
            </td>
            <td colSpan={2} className="right">
              {text.sequence.one}
            </td>
            <td className="narrow-off" />
            <td className="right">
              <b>{span(total)}</b>
            </td>
          </tr>
        </tfoot>
      </table>
      {adding && (
        <div className="adder" role="listbox" aria-label={text.sequence.add}>
          <input
            className="form-control"
            type="search"
            placeholder={text.sequence.seek}
            aria-label={text.sequence.seek}
            value={sought}
            onChange={(e) => setSought(e.target.value)}
          />
          {offered.map((c) => (
            <button key={c.id} type="button" role="option" aria-selected={false} onClick={() => add(c.id)}>
              <Swatch section={sections.find((s) => s.id === c.section)} /> {c.name}
            </button>
          ))}
        </div>
      )}
      {adding && <NewComponent sections={sections} onMade={(c) => add(c.id)} />}
      {editable && chosen > 0 && elements[chosen - 1] && (
        <ElementEditor
          key={chosen}
          choices={choices}
          number={chosen}
          count={elements.length}
          element={elements[chosen - 1] as Element}
          onChange={(e) => set(chosen - 1, e)}
          onMove={(by) => swap(chosen - 1, chosen - 1 + by)}
          onRemove={() => {
            onChoose(0);
            onArrange({ edit: "remove", number: chosen });
          }}
        />
      )}
      {v && chosen > 0 && elements[chosen - 1] && (
        <VariantElement
          key={`${variant}/${chosen}`}
          choices={choices}
          number={chosen}
          element={elements[chosen - 1] as Element}
          change={v.changes.find((c) => c.element === chosen) ?? null}
          components={components}
          onChange={(c) => onChange(changed(spec, variant, chosen, c))}
        />
      )}
    </div>
  );
}
