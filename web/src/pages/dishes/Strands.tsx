import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import { begin, move, nudge, type Drag } from "../../charts/drag";
import { headHeight, layout, rowHeight, type BarShape, type Row } from "../../charts/strands";
import { text } from "../../text";
import { hueOf } from "../../ui/Swatch";
import { clock, span, toJoin } from "../../ui/time";
import { useWidth } from "../../ui/useWidth";

type Bar = Schemas["Bar"];

interface Props {
  plan: Schemas["Plan"];
  sections: Schemas["Section"][];
  chosen: string | null;
  onChoose: (component: string, bar: Bar) => void;
  onStretch: (component: string, bar: Bar, seconds: number) => void;
}

const handsWord = (h: Bar["hands"]) => text.editor[h];

// spoken says a step in words, for those who hear the chart.
const spoken = (b: Bar) =>
  `${b.name}, ${b.portions} ${text.strands.portions}, ${clock(b.start_at)}, ${span(b.finish_s - b.start_s)}, ${handsWord(b.hands)}` +
  b.touches.map((t) => `, ${t.say} ${span(t.to_s - t.from_s)} ${t.who}`).join("") +
  (b.setpoint_c === undefined ? "" : `, ${b.setpoint_c} °C`);

// Strands draws every component's way to the plate. Thickness is attention; a wait
// is a wedge that is full up to its best and narrows to nothing at its longest.
export function Strands({ plan, sections, chosen, onChoose, onStretch }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const l = useMemo(() => layout(plan, width), [plan, width]);
  const [drag, setDrag] = useState<Drag | null>(null);
  const hue = (id: string) => hueOf(sections.find((s) => s.id === id));

  const onKey = (e: KeyboardEvent, row: Row, b: Bar) => {
    if (e.key === "Enter" || e.key === " ") {
      e.preventDefault();
      onChoose(row.strand.component, b);
      return;
    }
    const next = nudge(b.finish_s - b.start_s, e.key, e.shiftKey);
    if (next === null || b.preheat) return;
    e.preventDefault();
    onStretch(row.strand.component, b, next);
  };
  const grip = (row: Row, shape: BarShape, edge: Drag["edge"]) => ({
    onPointerDown: (e: PointerEvent<SVGRectElement>) => {
      e.stopPropagation();
      e.currentTarget.setPointerCapture(e.pointerId);
      setDrag(begin(shape.bar.task, edge, e.clientX, shape.bar.finish_s - shape.bar.start_s));
    },
    onPointerMove: (e: PointerEvent) => {
      if (drag?.task === shape.bar.task) setDrag(move(drag, e.clientX, l.secondsPerPixel));
    },
    onPointerUp: () => {
      if (drag?.task === shape.bar.task && drag.seconds !== drag.original)
        onStretch(row.strand.component, shape.bar, drag.seconds);
      setDrag(null);
    },
    onPointerCancel: () => setDrag(null),
  });

  return (
    <div ref={box} style={{ minWidth: 0 }}>
      <svg
        width={width}
        height={l.height}
        viewBox={`0 0 ${width} ${l.height}`}
        role="group"
        aria-label={text.strands.label}
      >
        {l.ticks.map((t) => (
          <g key={t.seconds}>
            <line
              x1={t.x}
              x2={t.x}
              y1={headHeight - 4}
              y2={l.height}
              stroke={t.seconds === 0 ? "var(--enamel)" : "var(--line)"}
              strokeWidth={t.seconds === 0 ? 1.5 : 1}
            />
            <text className="tick" x={t.x} y={19} textAnchor="middle">
              {t.seconds === 0 ? clock(plan.join_at) : toJoin(t.seconds)}
            </text>
          </g>
        ))}
        {l.rows.map((row, i) => (
          <g
            key={`${row.strand.component} ${row.strand.apart}`}
            className={drag && !row.bars.some((b) => b.bar.task === drag.task) ? "faded" : undefined}
          >
            {i > 0 && (
              <line
                x1={0}
                x2={width}
                y1={headHeight + i * rowHeight}
                y2={headHeight + i * rowHeight}
                stroke="var(--line)"
              />
            )}
            <path d={row.curve} fill="none" stroke={hue(row.strand.section)} strokeWidth={2} opacity={0.75} />
            {row.gateX !== null && (
              <Gate
                x={row.gateX}
                y={row.y}
                colour={hue(row.strand.section)}
                title={`${text.strands.ahead}: ${span(row.strand.ahead_s)}`}
              />
            )}
            {!row.strand.fired && (
              <text x={(row.gateX ?? row.needX) - 8} y={row.y + 5} textAnchor="end" className="tick">
                {row.strand.ahead_steps > 0
                  ? `${text.strands.ahead}, ${span(row.strand.ahead_s)}`
                  : text.strands.ready}
              </text>
            )}
            {row.waits.map((w) => (
              <g key={w.wait.after_task + String(w.wait.to_s)}>
                <path
                  d={w.path}
                  fill={w.wait.state === "over" ? "var(--vermilion)" : hue(row.strand.section)}
                  fillOpacity={w.wait.state === "over" ? 0.35 : 0.2}
                  stroke={w.wait.state === "waiting" ? "var(--ochre)" : "none"}
                  strokeDasharray="2 3"
                  strokeWidth={1.5}
                >
                  <title>
                    {`${text.strands.wait} ${span(w.wait.to_s - w.wait.from_s)}` +
                      (w.wait.best === undefined ? "" : `, ${text.editor.best} ${span(w.wait.best)}`) +
                      (w.wait.longest === undefined
                        ? ""
                        : `, ${text.editor.longest} ${span(w.wait.longest)}`) +
                      (w.wait.assumed ? ` (${text.work.usual})` : "") +
                      (w.wait.kept ? `, ${w.wait.kept}` : "")}
                  </title>
                </path>
                {w.shortestX !== null && (
                  <line
                    x1={w.shortestX}
                    x2={w.shortestX}
                    y1={w.y - 11}
                    y2={w.y + 11}
                    stroke={hue(row.strand.section)}
                    strokeWidth={2}
                  />
                )}
                {w.label && (
                  <text x={w.label.x} y={w.y + 5} textAnchor="middle">
                    {text.where[w.label.text]}
                  </text>
                )}
              </g>
            ))}
            {row.bars.map((b) => {
              const dragged = drag?.task === b.bar.task ? drag : null;
              const extra = dragged ? (dragged.seconds - dragged.original) / l.secondsPerPixel : 0;
              const x = dragged?.edge === "start" ? b.x - extra : b.x;
              const w = Math.max(2, b.width + extra);
              return (
                <g
                  key={b.bar.task}
                  className={`step${chosen === b.bar.task ? " chosen" : ""}`}
                  tabIndex={0}
                  role="button"
                  aria-label={spoken(b.bar)}
                  data-task={b.bar.task}
                  onClick={() => onChoose(row.strand.component, b.bar)}
                  onKeyDown={(e) => onKey(e, row, b.bar)}
                >
                  <title>{spoken(b.bar)}</title>
                  <rect x={x} width={w} y={row.y - 20} height={40} fill="transparent" />
                  <rect
                    className="halo"
                    x={x}
                    width={w}
                    y={b.y}
                    height={b.height}
                    rx={3}
                    fill={hue(row.strand.section)}
                  />
                  {!dragged &&
                    b.hands.map((h, i) => (
                      <rect
                        key={i}
                        data-hands={h.touch.kind}
                        x={h.x}
                        width={h.width}
                        y={h.y}
                        height={h.height}
                        fill={hue(row.strand.section)}
                      >
                        <title>{`${h.touch.say} ${span(h.touch.to_s - h.touch.from_s)}, ${h.touch.who}`}</title>
                      </rect>
                    ))}
                  {b.label && (
                    <text
                      x={b.label.x}
                      y={b.label.y}
                      textAnchor="middle"
                      style={b.label.inside ? { fill: "#fff", fontWeight: 600 } : undefined}
                    >
                      {b.label.text}
                    </text>
                  )}
                  {!b.bar.preheat && (
                    <>
                      <rect
                        className="grip"
                        data-grip="start"
                        x={x - 9}
                        y={row.y - 20}
                        width={Math.min(18, 9 + w / 3)}
                        height={40}
                        fill="transparent"
                        {...grip(row, b, "start")}
                      />
                      <rect
                        className="grip"
                        data-grip="finish"
                        x={x + w - Math.min(9, w / 3)}
                        y={row.y - 20}
                        width={18}
                        height={40}
                        fill="transparent"
                        {...grip(row, b, "finish")}
                      />
                    </>
                  )}
                  {dragged && (
                    <text
                      x={dragged.edge === "start" ? x : x + w}
                      y={row.y - 14}
                      textAnchor="middle"
                      style={{ fontWeight: 700 }}
                    >
                      {span(dragged.seconds)}
                    </text>
                  )}
                </g>
              );
            })}
            <circle
              cx={row.needX}
              cy={row.y}
              r={4.5}
              fill="#fff"
              stroke={hue(row.strand.section)}
              strokeWidth={2}
            >
              <title>{`${text.strands.needed} ${toJoin(row.strand.needed_s)}`}</title>
            </circle>
          </g>
        ))}
        <circle cx={l.ring.x} cy={l.ring.y} r={20} fill="#fff" stroke="var(--enamel)" strokeWidth={2.5} />
        <circle cx={l.ring.x} cy={l.ring.y} r={12} fill="none" stroke="var(--hair)" />
        <text x={l.ring.x} y={l.ring.y + 5} textAnchor="middle" style={{ fontWeight: 700 }}>
          {plan.plates}
        </text>
      </svg>
    </div>
  );
}

// Gate is the make-ahead/pick-up cut.
function Gate({ x, y, colour, title }: { x: number; y: number; colour: string; title: string }) {
  return (
    <g stroke={colour} strokeWidth={2}>
      <title>{title}</title>
      <line x1={x} x2={x} y1={y - 11} y2={y + 11} />
      <line x1={x + 5} x2={x + 5} y1={y - 11} y2={y + 11} />
    </g>
  );
}
