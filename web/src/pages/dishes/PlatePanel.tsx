import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import { PlateDrawing } from "../../charts/PlateDrawing";
import { text } from "../../text";

type Element = Schemas["Element"];

// placed gives an element a new middle, in the way in which it is placed already: by
// the clock face or in millimetres.
export function placed(e: Element, x: number, y: number): Element {
  if ((e.at.hour ?? 0) > 0) {
    const hour = (Math.atan2(x, -y) / (2 * Math.PI)) * 12;
    const half = Math.round(((hour + 12) % 12 || 12) * 2) / 2;
    return { ...e, at: { hour: half || 12, from_centre_mm: Math.round(Math.hypot(x, y)) } };
  }
  return { ...e, at: { x_mm: Math.round(x), y_mm: Math.round(y) } };
}

// PlatePanel is the plate with its elements to drag, to nudge by the arrow keys and
// to turn by , and . keys.
export function PlatePanel(props: {
  plate: Schemas["Plate"];
  elements: Element[];
  editable: boolean;
  chosen: number;
  onChoose: (n: number) => void;
  onChange: (number: number, e: Element) => void;
}) {
  const { plate, elements, editable, chosen, onChoose, onChange } = props;
  // A dropped element stays where it was dropped until the new plate has come.
  const [held, setDrag] = useState<{
    number: number;
    dx: number;
    dy: number;
    plate: Schemas["Plate"];
  } | null>(null);
  const drag = held?.plate === plate ? held : null;
  const grab = useRef<{ number: number; x: number; y: number; scale: number } | null>(null);
  const nudge = (e: KeyboardEvent) => {
    const i = chosen - 1;
    const el = elements[i];
    const drawn = plate.elements[i];
    if (!editable || !el || !drawn) return;
    const by = e.shiftKey ? 10 : 2;
    const step: Record<string, [number, number]> = {
      ArrowLeft: [-by, 0],
      ArrowRight: [by, 0],
      ArrowUp: [0, -by],
      ArrowDown: [0, by],
    };
    const d = step[e.key];
    if (d) {
      e.preventDefault();
      // Nudged by millimetres: it is placed by millimetres from then on.
      onChange(chosen, {
        ...el,
        at: { x_mm: Math.round(drawn.at.x + d[0]), y_mm: Math.round(drawn.at.y + d[1]) },
      });
    } else if (e.key === "," || e.key === ".") {
      e.preventDefault();
      onChange(chosen, { ...el, turn_deg: ((el.turn_deg + (e.key === "." ? 5 : -5) + 540) % 360) - 180 });
    } else if (e.key === "Escape") onChoose(0);
  };
  return (
    <div className="card-enamel plate-panel" onKeyDown={nudge}>
      <PlateDrawing
        plate={plate}
        chosen={chosen}
        onChoose={onChoose}
        drag={drag}
        onGrab={(ev: PointerEvent<SVGGElement>, number, scale) => {
          if (!editable) return;
          ev.currentTarget.setPointerCapture(ev.pointerId);
          const box = ev.currentTarget.ownerSVGElement?.getBoundingClientRect();
          grab.current = { number, x: ev.clientX, y: ev.clientY, scale: box ? box.width / (312 / scale) : 1 };
        }}
        onMove={(ev) => {
          const g = grab.current;
          if (!g) return;
          const dx = (ev.clientX - g.x) / g.scale;
          const dy = (ev.clientY - g.y) / g.scale;
          if (drag || Math.hypot(dx, dy) > 2) setDrag({ number: g.number, dx, dy, plate });
        }}
        onDrop={() => {
          const grabbed = grab.current;
          grab.current = null;
          if (!drag || !grabbed) return;
          const el = elements[drag.number - 1];
          const at = plate.elements[drag.number - 1]?.at;
          if (el && at) onChange(drag.number, placed(el, at.x + drag.dx, at.y + drag.dy));
        }}
      />
      {editable && <p className="quiet hint">{chosen > 0 ? text.plate.keys : text.plate.hint}</p>}
    </div>
  );
}
