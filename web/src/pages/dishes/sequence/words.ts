import type { Schemas } from "../../../api/client";

import { text } from "../../../text";

type Element = Schemas["Element"];

// where says the place as a cook would: by the clock face, or from the centre.
export function where(e: Element): string {
  const { hour = 0, from_centre_mm: out = 0, x_mm: x = 0, y_mm: y = 0 } = e.at;
  const on = e.on > 0 ? `, ${text.place.on} ${e.on}` : "";
  if (hour > 0) {
    const h = Math.floor(hour);
    return `${hour === h ? `${h} ${text.place.clock}` : `${text.place.half} ${h}`}, ${Math.round(out)} mm${on}`;
  }
  if (Math.abs(x) < 1 && Math.abs(y) < 1)
    return `${(e.form.radius_mm ?? 0) > 0 && (e.form.count ?? 0) > 1 ? text.place.around : text.place.centre}${on}`;
  const side = Math.abs(x) < 1 ? "" : `${Math.abs(x)} mm ${x < 0 ? text.place.left : text.place.right}`;
  const depth = Math.abs(y) < 1 ? "" : `${Math.abs(y)} mm ${y < 0 ? text.place.up : text.place.down}`;
  return `${[side, depth].filter(Boolean).join(", ")}${on}`;
}

export function formOf(e: Element): string {
  const kind = e.form.kind.replace("-", " ");
  return e.form.count && e.form.count > 1 ? `${e.form.count} ${kind}` : kind;
}
