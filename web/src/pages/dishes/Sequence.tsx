import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Swatch } from "../../ui/Swatch";
import { span } from "../../ui/time";

type Element = Schemas["Element"];

const unit = (u: string, n: number) =>
  u === "piece" ? (n === 1 ? "piece" : "pieces") : u === "spoon" ? (n === 1 ? "spoon" : "spoons") : u;

// where says the place as a cook would: by the clock face, or from the centre.
export function where(e: Element): string {
  const { hour = 0, from_centre_mm: out = 0, x_mm: x = 0, y_mm: y = 0 } = e.at;
  const on = e.on > 0 ? `, on ${e.on}` : "";
  if (hour > 0) {
    const h = Math.floor(hour);
    return `${hour === h ? h : `half past ${h}`}${hour === h ? " o’clock" : ""}, ${Math.round(out)} mm out${on}`;
  }
  if (x === 0 && y === 0) return `${e.form.count ? "around" : "centre"}${on}`;
  return `${Math.abs(x)} mm ${x < 0 ? "left" : "right"}, ${Math.abs(y)} mm ${y < 0 ? "up" : "down"}${on}`;
}

export function formOf(e: Element): string {
  const kind = e.form.kind.replace("-", " ");
  return e.form.count && e.form.count > 1 ? `${e.form.count} ${kind}` : kind;
}

// Sequence lists what goes on the plate, in its order, one line each.
export function Sequence({
  view,
  sections,
  variant,
}: {
  view: Schemas["DishView"];
  sections: Schemas["Section"][];
  variant: string;
}) {
  const v = view.dish.specification.variants.find((x) => x.name === variant);
  const gone = new Set(v?.changes.filter((c) => c.kind === "leave-out").map((c) => c.element));
  const total = view.dish.specification.elements.reduce(
    (sum, e, i) => (gone.has(i + 1) ? sum : sum + e.seconds),
    0,
  );
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
          {view.dish.specification.elements.map((e, i) => {
            const c = view.components[i];
            const out = gone.has(i + 1);
            const other = v?.changes.find((x) => x.element === i + 1 && x.kind !== "leave-out");
            return (
              <tr key={i} style={out ? { opacity: 0.55 } : undefined}>
                <td className="num">
                  <span className="bead">{i + 1}</span>
                </td>
                <td>
                  <Swatch section={sections.find((s) => s.id === c?.section)} />{" "}
                  <b style={out ? { textDecoration: "line-through" } : undefined}>{c?.name}</b>
                  {out && <span className="quiet"> {text.sequence.leftOut}</span>}
                  {other && <span className="quiet"> {text.sequence.changed}</span>}
                  {e.last_moment && <span className="quiet"> · {text.sequence.last}</span>}
                </td>
                <td className="right">
                  {e.amount} {unit(c?.unit ?? "", e.amount)}
                </td>
                <td>
                  {formOf(e)}, {where(e)}
                </td>
                <td className="narrow-off quiet">{e.tool}</td>
                <td className="right">{span(e.seconds)}</td>
              </tr>
            );
          })}
        </tbody>
        <tfoot>
          <tr>
            <td />
            <td colSpan={2}>{text.sequence.one}</td>
            <td />
            <td className="narrow-off" />
            <td className="right">
              <b>{span(total)}</b>
            </td>
          </tr>
        </tfoot>
      </table>
    </div>
  );
}
