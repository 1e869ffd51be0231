import { useState, type KeyboardEvent } from "react";
import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Link } from "react-router";
import { Button } from "../../ui/Button";
import { Swatch } from "../../ui/Swatch";
import { Chips } from "../../ui/fields";
import { NewComponent } from "./NewComponent";
import { changed } from "./Variants";
import { seconds as readSeconds, span } from "../../ui/time";

type Element = Schemas["Element"];

const unit = (u: string, n: number) =>
  u === "piece" ? (n === 1 ? "piece" : "pieces") : u === "spoon" ? (n === 1 ? "spoon" : "spoons") : u;

// where says the place as a cook would: by the clock face, or from the centre.
export function where(e: Element): string {
  const { hour = 0, from_centre_mm: out = 0, x_mm: x = 0, y_mm: y = 0 } = e.at;
  const on = e.on > 0 ? `, on ${e.on}` : "";
  if (hour > 0) {
    const h = Math.floor(hour);
    return `${hour === h ? `${h} o’clock` : `half past ${h}`}, ${Math.round(out)} mm${on}`;
  }
  if (Math.abs(x) < 1 && Math.abs(y) < 1)
    return `${(e.form.radius_mm ?? 0) > 0 && (e.form.count ?? 0) > 1 ? "around" : "centre"}${on}`;
  const side = Math.abs(x) < 1 ? "" : `${Math.abs(x)} ${x < 0 ? "left" : "right"}`;
  const depth = Math.abs(y) < 1 ? "" : `${Math.abs(y)} ${y < 0 ? "up" : "down"}`;
  return `${[side, depth].filter(Boolean).join(", ")} mm${on}`;
}

export function formOf(e: Element): string {
  const kind = e.form.kind.replace("-", " ");
  return e.form.count && e.form.count > 1 ? `${e.form.count} ${kind}` : kind;
}

// Clock shows on a small clock face where an element lies.
function Clock({ e }: { e: Element }) {
  const { hour = 0, from_centre_mm: out = 0, x_mm = 0, y_mm = 0 } = e.at;
  const x = hour > 0 ? out * Math.sin((hour * Math.PI) / 6) : x_mm;
  const y = hour > 0 ? -out * Math.cos((hour * Math.PI) / 6) : y_mm;
  return (
    <svg viewBox="-11 -11 22 22" width={22} height={22} aria-hidden="true">
      <circle r={9.5} fill="none" stroke="#b9b2a0" strokeWidth={1.2} />
      <circle
        cx={Math.max(-6.5, Math.min(6.5, x / 10))}
        cy={Math.max(-6.5, Math.min(6.5, y / 10))}
        r={3}
        fill="var(--enamel)"
      />
    </svg>
  );
}

interface Props {
  view: Schemas["DishView"];
  spec: Schemas["Specification"];
  sections: Schemas["Section"][];
  components: Schemas["ComponentLine"][];
  forms: string[];
  variant: string;
  chosen: number;
  onChoose: (n: number) => void;
  onChange: (spec: Schemas["Specification"]) => void;
  onArrange: (edit: { edit: "move" | "remove"; number: number; to?: number }) => void;
}

// Sequence lists what goes on the plate, in its order, one line each, edited in place.
export function Sequence({
  view,
  spec,
  sections,
  components,
  forms,
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
  const add = (c: Pick<Schemas["ComponentLine"], "id" | "unit">) => {
    setAdding(false);
    const made = { ...fresh, component: c.id, amount: c.unit === "piece" || c.unit === "spoon" ? 1 : 20 };
    onChange({ ...spec, elements: [...elements, made] });
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
                  {unit(c?.unit ?? "", e.amount)}
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
                    read={(t) => readSeconds(/^\d+$/.test(t.trim()) ? `${t} s` : t)}
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
            <button key={c.id} type="button" role="option" aria-selected={false} onClick={() => add(c)}>
              <Swatch section={sections.find((s) => s.id === c.section)} /> {c.name}
            </button>
          ))}
        </div>
      )}
      {adding && <NewComponent sections={sections} onMade={(c) => add(c)} />}
      {editable && chosen > 0 && elements[chosen - 1] && (
        <ElementEditor
          key={chosen}
          forms={forms}
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
          forms={forms}
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

// fresh is what a new element is until somebody says more.
const fresh: Element = {
  component: "",
  amount: 20,
  form: { kind: "heap" },
  at: { x_mm: 0, y_mm: 0 },
  turn_deg: 0,
  on: 0,
  temp: "ambient",
  textures: [],
  tastes: [],
  tool: "",
  seconds: 6,
  hands: 1,
  last_moment: false,
};

// Cell is a value in a line that is typed over; it is taken on Enter or on leaving.
function Cell<T>({
  label,
  value,
  editable,
  read,
  onChange,
}: {
  label: string;
  value: string;
  editable: boolean;
  read: (t: string) => T | null;
  onChange: (v: T) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  if (!editable) return <>{value}</>;
  const bad = draft !== null && read(draft) === null;
  const take = () => {
    if (draft === null) return;
    const v = read(draft);
    if (v === null) return;
    setDraft(null);
    if (draft !== value) onChange(v);
  };
  return (
    <input
      className="cell"
      aria-label={label}
      aria-invalid={bad}
      value={draft ?? value}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        // Leaving takes the value; Enter goes on to the next line.
        if (e.key === "Enter") {
          const all = [...document.querySelectorAll<HTMLInputElement>(".sequence .cell")];
          const next = all[all.indexOf(e.currentTarget) + 2];
          if (next) next.focus();
          else e.currentTarget.blur();
        } else if (e.key === "Escape") setDraft(null);
      }}
    />
  );
}

const textures = ["crisp", "soft", "creamy", "tender", "chewy", "liquid", "juicy", "crumbly"];
const tastes = ["sweet", "sour", "salty", "bitter", "savoury", "rich", "fresh", "hot"];
const temps = ["hot", "warm", "ambient", "chilled", "frozen"] as const;

// ElementEditor has what does not fit into the line: form and its sizes, exact place,
// rotation, what it stands on, temperature, tool.
function ElementEditor({
  forms,
  number,
  count,
  element: e,
  onChange,
  onMove,
  onRemove,
}: {
  forms: string[];
  number: number;
  count: number;
  element: Element;
  onChange: (e: Element) => void;
  onMove?: (by: number) => void;
  onRemove?: () => void;
}) {
  const num = (label: string, value: number, change: (v: number) => Element) => (
    <label>
      {label}
      <input
        key={value}
        className="form-control"
        inputMode="decimal"
        defaultValue={value || ""}
        onBlur={(ev) => {
          const v = Number(ev.target.value.replace(",", ".") || 0);
          if (!Number.isNaN(v) && v !== value) onChange(change(v));
        }}
        onKeyDown={(ev) => ev.key === "Enter" && ev.currentTarget.blur()}
      />
    </label>
  );
  const clock = (e.at.hour ?? 0) > 0;
  return (
    <div className="element-editor" aria-label={`${text.sequence.element} ${number}`}>
      <label>
        {text.sequence.formWord}
        <select
          className="form-select"
          value={e.form.kind}
          onChange={(ev) => onChange({ ...e, form: { ...e.form, kind: ev.target.value } })}
        >
          {forms.map((f) => (
            <option key={f} value={f}>
              {f.replace("-", " ")}
            </option>
          ))}
        </select>
      </label>
      {num(text.sequence.count, e.form.count ?? 0, (v) => ({
        ...e,
        form: { ...e.form, count: Math.round(v) },
      }))}
      {num(text.sequence.length, e.form.length_mm ?? 0, (v) => ({ ...e, form: { ...e.form, length_mm: v } }))}
      {num(text.sequence.width, e.form.width_mm ?? 0, (v) => ({ ...e, form: { ...e.form, width_mm: v } }))}
      {num(text.sequence.radius, e.form.radius_mm ?? 0, (v) => ({ ...e, form: { ...e.form, radius_mm: v } }))}
      {clock ? (
        <>
          {num(text.sequence.hour, e.at.hour ?? 0, (v) => ({ ...e, at: { ...e.at, hour: v } }))}
          {num(text.sequence.out, e.at.from_centre_mm ?? 0, (v) => ({
            ...e,
            at: { ...e.at, from_centre_mm: v },
          }))}
        </>
      ) : (
        <>
          {num(text.sequence.x, e.at.x_mm ?? 0, (v) => ({ ...e, at: { ...e.at, x_mm: v } }))}
          {num(text.sequence.y, e.at.y_mm ?? 0, (v) => ({ ...e, at: { ...e.at, y_mm: v } }))}
        </>
      )}
      {num(text.sequence.turn, e.turn_deg, (v) => ({ ...e, turn_deg: v }))}
      {num(text.sequence.on, e.on, (v) => ({ ...e, on: Math.round(v) }))}
      <label>
        {text.sequence.temp}
        <select
          className="form-select"
          value={e.temp}
          onChange={(ev) => onChange({ ...e, temp: ev.target.value as Element["temp"] })}
        >
          {temps.map((t) => (
            <option key={t}>{t}</option>
          ))}
        </select>
      </label>
      <label className="wide">
        {text.sequence.tool}
        <input
          key={e.tool}
          className="form-control"
          defaultValue={e.tool}
          onBlur={(ev) => ev.target.value !== e.tool && onChange({ ...e, tool: ev.target.value })}
        />
      </label>
      <label className="check">
        <input
          type="checkbox"
          className="form-check-input"
          checked={e.last_moment}
          onChange={(ev) => onChange({ ...e, last_moment: ev.target.checked })}
        />
        {text.sequence.last}
      </label>
      <label>
        {text.sequence.hands}
        <select
          className="form-select"
          value={e.hands}
          onChange={(ev) => onChange({ ...e, hands: Number(ev.target.value) })}
        >
          <option value={1}>{text.sequence.onePerson}</option>
          <option value={2}>{text.sequence.twoPeople}</option>
        </select>
      </label>
      <label className="look">
        {text.sequence.look}
        <input
          key={e.look}
          className="form-control"
          defaultValue={e.look}
          onBlur={(ev) =>
            ev.target.value !== (e.look ?? "") && onChange({ ...e, look: ev.target.value || undefined })
          }
        />
      </label>
      <Chips
        label={text.sequence.textures}
        all={textures}
        chosen={e.textures}
        onChange={(list) => onChange({ ...e, textures: list })}
      />
      <Chips
        label={text.sequence.tastes}
        all={tastes}
        chosen={e.tastes}
        onChange={(list) => onChange({ ...e, tastes: list })}
      />
      {onMove && onRemove && (
        <span className="actions">
          <Button disabled={number === 1} onClick={() => onMove(-1)}>
            {text.sequence.up}
          </Button>
          <Button disabled={number === count} onClick={() => onMove(1)}>
            {text.sequence.down}
          </Button>
          <Button look="outline-danger" onClick={onRemove}>
            {text.sequence.remove}
          </Button>
        </span>
      )}
    </div>
  );
}

// VariantElement says what a variant does with one element: as written, left out,
// changed, or another component instead.
function VariantElement({
  forms,
  number,
  element,
  change,
  components,
  onChange,
}: {
  forms: string[];
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
          forms={forms}
          number={number}
          count={number}
          element={change.with}
          onChange={(e) => onChange({ ...change, with: e })}
        />
      )}
    </>
  );
}
