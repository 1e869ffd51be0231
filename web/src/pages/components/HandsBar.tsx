import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import { moveEnd, stepOf, touchesIn, type Edge } from "../../charts/ends";
import { text } from "../../text";
import { span } from "../../ui/time";

type Step = Schemas["Step"];

const width = 340;
const pad = 16;
const height = 46;

// HandsBar is a step as its hands see it: filled where both hands are on it, half as high for an eye, a line for nobody. The
// two ends are dragged, or nudged by the arrow keys.
export function HandsBar({
  step: s,
  eyes,
  onSave,
}: {
  step: Step;
  eyes: number;
  onSave: (e: Step["ends"]) => void;
}) {
  const box = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ edge: Edge; ends: Step["ends"] } | null>(null);
  const total = Math.max(s.time.fixed.likely + s.time.per_portion.likely, s.ends.in_s + s.ends.out_s, 1);
  const now = held?.ends ?? s.ends;
  const x = (t: number) => pad + (t / total) * (width - 2 * pad);
  const at = (e: PointerEvent) => {
    const r = box.current?.getBoundingClientRect();
    return r ? ((((e.clientX - r.left) / r.width) * width - pad) / (width - 2 * pad)) * total : 0;
  };
  const drag = (edge: Edge, e: PointerEvent) =>
    moveEnd(now, edge, edge === "in" ? at(e) : total - at(e), total);
  const key = (edge: Edge, e: KeyboardEvent) => {
    const out = edge === "in" ? 1 : -1;
    const by = { ArrowRight: out, ArrowUp: 1, ArrowLeft: -out, ArrowDown: -1 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    const was = edge === "in" ? now.in_s : now.out_s;
    onSave(moveEnd(now, edge, was + by * stepOf(total) * (e.shiftKey ? 5 : 1), total));
  };
  const between = s.hands === "tend" ? 11 : 4;
  const middle = height / 2;
  const words = s.hands === "none" ? text.work.nobody : eyes > 1 ? text.work.eyes : text.work.eye;
  return (
    <div className="hands-bar" role="group" aria-label={text.work.hands}>
      <svg ref={box} viewBox={`0 0 ${width} ${height}`} width={width} height={height}>
        <rect
          x={x(0)}
          width={x(total) - x(0)}
          y={middle - between / 2}
          height={between}
          fill="var(--enamel)"
          opacity={0.45}
        />
        {touchesIn(s.touches ?? [], total).map((t, i) => (
          <rect
            key={i}
            x={x(t.at)}
            width={Math.max(3, x(t.seconds) - x(0))}
            y={middle - 11}
            height={22}
            fill="var(--enamel)"
          >
            <title>{t.say}</title>
          </rect>
        ))}
        <rect x={x(0)} width={x(now.in_s) - x(0)} y={middle - 11} height={22} fill="var(--enamel)" />
        <rect
          x={x(total - now.out_s)}
          width={x(total) - x(total - now.out_s)}
          y={middle - 11}
          height={22}
          fill="var(--enamel)"
        />
        {(["in", "out"] as const).map((edge) => {
          const v = edge === "in" ? now.in_s : now.out_s;
          return (
            <g
              key={edge}
              className="hands-end"
              role="slider"
              tabIndex={0}
              data-edge={edge}
              aria-label={edge === "in" ? text.work.layIn : text.work.takeOut}
              aria-valuemin={0}
              aria-valuemax={total}
              aria-valuenow={v}
              aria-valuetext={span(v)}
              transform={`translate(${x(edge === "in" ? v : total - v)} ${middle})`}
              onKeyDown={(e) => key(edge, e)}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                setHeld({ edge, ends: now });
              }}
              onPointerMove={(e) => {
                if (held?.edge === edge) setHeld({ edge, ends: drag(edge, e) });
              }}
              onPointerUp={(e) => {
                // Where it was let go, which may be further than was drawn.
                if (held?.edge === edge) onSave(drag(edge, e));
                setHeld(null);
              }}
              onPointerCancel={() => setHeld(null)}
            >
              <rect x={-14} y={-middle} width={28} height={height} fill="transparent" />
              <line y1={-15} y2={15} stroke="var(--enamel)" strokeWidth={3} />
              <circle r={5} fill="#fff" stroke="var(--enamel)" strokeWidth={2.5} />
            </g>
          );
        })}
      </svg>
      <span className="quiet">
        <b className="figure">{span(now.in_s)}</b> · {words} · <b className="figure">{span(now.out_s)}</b>
      </span>
    </div>
  );
}
