import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import {
  endFor,
  fromShare,
  moveMark,
  snap,
  stepAt,
  toShare,
  type Mark,
  type Marks,
} from "../../charts/waits";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/fields";
import { TimeField } from "../../ui/understood";
import { span } from "../../ui/time";
import { WaitMore } from "./WaitMore";

type Wait = Schemas["Wait"];

const width = 300;
const pad = 16;
const marks = ["shortest", "best", "longest"] as const;
const places = ["", "bench", "hot", "chilled", "frozen", "dry"] as const;

// WaitSlider is a wait with its three marks: dragged, nudged by the arrow keys, or typed.
// The wedge is full up to the best and narrows to nothing at the longest.
export function WaitSlider({
  label,
  wait,
  planned,
  house,
  onSave,
}: {
  label: string;
  wait: Wait;
  planned: Schemas["Planned"] | undefined; // as it is planned, where something is assumed
  house: Schemas["House"];
  onSave: (w: Wait) => void;
}) {
  const [more, setMore] = useState(false);
  const box = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ mark: Mark; marks: Marks } | null>(null);
  const now: Marks = held?.marks ?? { shortest: wait.shortest, best: wait.best, longest: wait.longest };
  // The axis stays while a mark is held.
  const assumed = planned?.assumed ? planned.longest : undefined;
  const end = endFor(Math.max(wait.longest ?? assumed ?? 0, wait.best ?? 0, wait.shortest));
  const x = (s: number) => pad + toShare(s, end) * (width - 2 * pad);
  const save = (m: Marks) =>
    onSave({
      ...wait,
      shortest: m.shortest,
      best: m.best,
      longest: m.longest,
      no_limit: m.longest === undefined ? wait.no_limit : undefined,
    });
  const at = (e: PointerEvent) => {
    const r = box.current?.getBoundingClientRect();
    const share = r ? (((e.clientX - r.left) / r.width) * width - pad) / (width - 2 * pad) : 0;
    return snap(fromShare(share, end));
  };
  const key = (e: KeyboardEvent, mark: Mark) => {
    const v = now[mark] ?? now.shortest;
    const by = stepAt(v) * (e.shiftKey ? 5 : 1);
    if (e.key === "ArrowRight" || e.key === "ArrowUp") save(moveMark(now, mark, v + by));
    else if (e.key === "ArrowLeft" || e.key === "ArrowDown") save(moveMark(now, mark, v - by));
    else return;
    e.preventDefault();
  };
  const best = now.best ?? now.shortest;
  return (
    <div className="wait" role="group" aria-label={label}>
      <span className="quiet says">{label}</span>
      <svg ref={box} viewBox={`0 0 ${width} 44`} width={width} height={44}>
        <line x1={pad} x2={width - pad} y1={22} y2={22} stroke="var(--hair)" strokeWidth={2} />
        {now.longest === undefined && assumed !== undefined ? (
          <>
            <path
              d={`M${x(0)} 15 L${x(planned?.best ?? best)} 15 L${x(assumed)} 22 L${x(planned?.best ?? best)} 29 L${x(0)} 29Z`}
              fill="none"
              stroke="var(--ochre)"
              strokeDasharray="3 4"
            />
            <path
              transform={`translate(${x(assumed)} 22)`}
              d="M-8 -11 L8 0 L-8 11Z"
              fill="none"
              stroke="var(--ochre)"
              strokeWidth={2}
              strokeDasharray="3 3"
            />
          </>
        ) : now.longest === undefined ? (
          <rect x={x(0)} width={width - pad - x(0)} y={16} height={12} fill="var(--ochre)" opacity={0.16} />
        ) : (
          <path
            d={`M${x(0)} 15 L${x(best)} 15 L${x(now.longest)} 22 L${x(best)} 29 L${x(0)} 29Z`}
            fill="var(--ochre)"
            opacity={0.22}
          />
        )}
        {marks.map((mark) => {
          const v = now[mark];
          if (v === undefined) return null;
          return (
            <g
              key={mark}
              className="wait-mark"
              role="slider"
              tabIndex={0}
              data-mark={mark}
              aria-label={`${label}: ${text.editor[mark]}`}
              aria-valuemin={0}
              aria-valuemax={end}
              aria-valuenow={v}
              aria-valuetext={span(v)}
              transform={`translate(${x(v)} 22)`}
              onKeyDown={(e) => key(e, mark)}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                setHeld({ mark, marks: now });
              }}
              onPointerMove={(e) => {
                if (held?.mark === mark) setHeld({ mark, marks: moveMark(held.marks, mark, at(e)) });
              }}
              onPointerUp={(e) => {
                // Where it was let go, which may be further than was drawn.
                if (held?.mark === mark) save(moveMark(held.marks, mark, at(e)));
                setHeld(null);
              }}
              onPointerCancel={() => setHeld(null)}
            >
              <rect x={-14} y={-22} width={28} height={44} fill="transparent" />
              {mark === "shortest" && <line y1={-14} y2={14} stroke="var(--enamel)" strokeWidth={4} />}
              {mark === "best" && <circle r={8} fill="var(--enamel)" stroke="#fff" strokeWidth={1.5} />}
              {mark === "longest" && (
                <path d="M-8 -11 L8 0 L-8 11Z" fill="#fff" stroke="var(--vermilion)" strokeWidth={2.5} />
              )}
            </g>
          );
        })}
      </svg>
      {marks.map((mark) => (
        <TimeField
          key={mark}
          label={text.editor[mark]}
          value={mark === "shortest" ? now.shortest || undefined : now[mark]}
          onSave={(v) =>
            save(
              v === undefined
                ? { ...now, [mark]: mark === "shortest" ? 0 : undefined }
                : moveMark(now, mark, v),
            )
          }
        />
      ))}
      <Select
        label={text.chain.where}
        value={wait.place ?? ""}
        options={places.map((p) => [p, p ? (text.where[p] ?? p) : text.chain.unsaid] as const)}
        onSave={(p) => onSave({ ...wait, place: p || undefined })}
      />
      <Button aria-expanded={more} onClick={() => setMore(!more)}>
        {more ? text.work.less : text.work.more}
      </Button>
      {assumed !== undefined && (
        <p className="assumed">
          <span className="mark-wait">
            ◌ {text.work.usual}: {usualOf(planned)}
          </span>
          <Button onClick={() => save({ ...now, best: planned?.best, longest: assumed })}>
            {text.work.take}
          </Button>
          <Button onClick={() => onSave({ ...wait, no_limit: true })}>{text.work.noLimit}</Button>
        </p>
      )}
      {wait.no_limit && (
        <p className="assumed">
          <span className="quiet">{text.work.limitless}</span>
          <Button onClick={() => onSave({ ...wait, no_limit: undefined })}>{text.work.limit}</Button>
        </p>
      )}
      {(wait.kept || wait.until || wait.in || wait.care) && !more && (
        <p className="quiet says">{keptOf(wait)}</p>
      )}
      {more && <WaitMore wait={wait} house={house} onSave={onSave} />}
    </div>
  );
}

// usualOf says what is assumed of a wait, and what it is usual for.
const usualOf = (p: Schemas["Planned"] | undefined) =>
  p?.by === "pan"
    ? text.work.usualPan
    : [
        p?.best ? `${text.work.best} ${span(p.best)},` : "",
        `${text.work.atMost} ${span(p?.longest ?? 0)},`,
        p?.by === "kind"
          ? `${text.work.usualKind} ${p.kind}`
          : p?.by === "cooling"
            ? text.work.usualCooling
            : p?.by === "cooked"
              ? text.work.usualCooked
              : text.work.usualPlace,
      ]
        .filter(Boolean)
        .join(" ");

const keptOf = (w: Wait) =>
  [
    w.until ? `${text.work.until.toLowerCase()} ${w.until}` : "",
    w.in
      ? `${text.work.takes.toLowerCase()}: ${w.in.kind}${w.in.setpoint_c === undefined ? "" : ` ${w.in.setpoint_c}°`}`
      : "",
    w.kept ? `${text.work.kept.toLowerCase()} ${w.kept}` : "",
    w.care ? `${w.care.say} ${span(w.care.seconds)} ${text.work.every} ${span(w.care.every_s)}` : "",
  ]
    .filter(Boolean)
    .join(" · ");
