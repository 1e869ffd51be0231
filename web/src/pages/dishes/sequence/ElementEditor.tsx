import type { Schemas } from "../../../api/client";
import { text } from "../../../text";
import { Button } from "../../../ui/Button";
import { Chips } from "../../../ui/fields";
import { SecondsField } from "../../../ui/understood";

type Element = Schemas["Element"];

// ElementEditor has what does not fit into the line: form and its sizes, exact place,
// rotation, what it stands on, temperature, tool.
export function ElementEditor({
  choices,
  number,
  count,
  element: e,
  onChange,
  onMove,
  onRemove,
}: {
  choices: Schemas["Choices"];
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
          {choices.forms.map((f) => (
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
          {choices.temperatures.map((t) => (
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
      <SecondsField
        label={text.sequence.onPlate}
        value={e.on_plate_s}
        onSave={(v) => onChange({ ...e, on_plate_s: v || undefined })}
      />
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
        all={choices.textures}
        chosen={e.textures}
        onChange={(list) => onChange({ ...e, textures: list })}
      />
      <Chips
        label={text.sequence.tastes}
        all={choices.tastes}
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
