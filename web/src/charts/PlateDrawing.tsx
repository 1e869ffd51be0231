import type { PointerEvent } from "react";
import type { Schemas } from "../api/client";
import { text } from "../text";

type Plate = Schemas["Plate"];
type Drawn = Schemas["Drawn"];
type Point = Schemas["Point"];

const path = (ps: Point[]) =>
  ps.map((p, i) => `${i ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("");

// shade darkens or lightens a colour: the outline and the lines belong to the food.
export function shade(colour: string, by: number): string {
  const n = parseInt((colour || "#c9c2b2").slice(1), 16);
  const part = (shift: number) => {
    const c = (n >> shift) & 255;
    return Math.round(by < 0 ? c * (1 + by) : c + (255 - c) * by);
  };
  return `rgb(${part(16)} ${part(8)} ${part(0)})`;
}

const rich = new Set(["pool", "drizzle", "dots", "swipe"]);

function Food({ e, faded }: { e: Drawn; faded: boolean }) {
  const dark = shade(e.colour, -0.38);
  const tall = e.top_mm - e.base_mm > 6;
  return (
    <g opacity={faded ? 0.4 : 1}>
      {tall &&
        e.pieces.map((p, i) => (
          <path
            key={i}
            d={`${path(p.outline)}Z`}
            transform="translate(1.6 2.2)"
            fill="#20303a"
            opacity={0.13}
          />
        ))}
      {e.pieces.map((p, i) => (
        <g key={i}>
          <path
            d={`${path(p.outline)}Z`}
            fill={e.colour || "#c9c2b2"}
            fillOpacity={rich.has(e.form) ? 0.92 : 1}
            stroke={dark}
            strokeWidth={0.9}
            strokeLinejoin="round"
          />
          {p.lines.map((l, k) => (
            <path
              key={k}
              d={path(l ?? [])}
              fill={e.form === "leaf-heap" ? shade(e.colour, k % 2 ? 0.14 : -0.1) : "none"}
              stroke={dark}
              strokeOpacity={0.55}
              strokeWidth={0.7}
              strokeLinecap="round"
            />
          ))}
        </g>
      ))}
    </g>
  );
}

// numberPlaces moves the numbers apart where elements lie on each other.
export function numberPlaces(elements: Drawn[], apart: number): Point[] {
  const out: Point[] = [];
  for (const e of elements) {
    const ps = e.pieces.flatMap((p) => p.outline);
    let best = { x: e.at.x, y: e.at.y };
    let far = -1;
    // Its middle, or the point of its outline that lies furthest from the others.
    const candidates = [
      best,
      ...ps
        .filter((_, i) => i % 5 === 0)
        .map((p) => ({ x: p.x * 0.7 + e.at.x * 0.3, y: p.y * 0.7 + e.at.y * 0.3 })),
      ...ps.filter((_, i) => i % 9 === 0),
    ];
    for (const c of candidates) {
      const d = Math.min(apart, ...out.map((o) => Math.hypot(o.x - c.x, o.y - c.y)));
      if (d > far + 0.5) {
        far = d;
        best = c;
      }
    }
    out.push(best);
  }
  return out;
}

interface Props {
  plate: Plate;
  chosen: number;
  // Without these the plate is only looked at.
  onChoose?: (n: number) => void;
  drag?: { number: number; dx: number; dy: number } | null;
  onGrab?: (e: PointerEvent<SVGGElement>, number: number, scale: number) => void;
  onMove?: (e: PointerEvent<SVGGElement>) => void;
  onDrop?: () => void;
}

// seen puts what is poured under what stands in it, though it may have been poured
// later: seen from above, the higher thing covers the lower.
export const seen = (elements: Drawn[]): Drawn[] => [
  ...elements.filter((e) => e.form === "pool" && e.base_mm < 1),
  ...elements.filter((e) => !(e.form === "pool" && e.base_mm < 1)),
];

const size = 312;

// PlateDrawing is the plate from above inside the clock ring, and from the side below
// it; both from the computed outlines, to scale.
export function PlateDrawing({ plate, chosen, onChoose, drag, onGrab, onMove, onDrop }: Props) {
  const r = plate.width_mm / 2;
  const view = r + 24;
  const scale = size / (2 * view);
  const hours = Array.from({ length: 12 }, (_, i) => i + 1);
  const numbers = numberPlaces(plate.elements, 22);
  const ringY = Math.max(r, plate.depth_mm / 2);
  return (
    <div className="plate-drawing">
      <svg viewBox={`${-view} ${-view} ${2 * view} ${2 * view}`} role="group" aria-label={text.plate.top}>
        {hours.map((h) => {
          const a = (h * Math.PI) / 6;
          return (
            <text
              key={h}
              x={(ringY + 14) * Math.sin(a)}
              y={-(ringY + 14) * Math.cos(a) + 4}
              textAnchor="middle"
              fontSize={11}
              fill="var(--quiet)"
            >
              {h}
            </text>
          );
        })}
        <path d={`${path(plate.outer)}Z`} fill="#fff" stroke="var(--enamel)" strokeWidth={2.4} />
        <path d={`${path(plate.well)}Z`} fill="#fdfcf8" stroke="#d9d3c3" strokeWidth={1} />
        {seen(plate.elements).map((e) => (
          <g
            key={e.number}
            className="element"
            data-element={e.number}
            tabIndex={onChoose ? 0 : undefined}
            role={onChoose ? "button" : undefined}
            aria-label={`${e.number} ${e.name}`}
            aria-pressed={onChoose ? chosen === e.number : undefined}
            transform={drag?.number === e.number ? `translate(${drag.dx} ${drag.dy})` : undefined}
            onClick={() => onChoose?.(e.number)}
            onPointerDown={(ev) => onGrab?.(ev, e.number, scale)}
            onPointerMove={onMove}
            onPointerUp={onDrop}
            onPointerCancel={onDrop}
          >
            <Food e={e} faded={chosen > 0 && chosen !== e.number} />
          </g>
        ))}
        {plate.elements.map((e, i) => (
          <g
            key={e.number}
            pointerEvents="none"
            transform={drag?.number === e.number ? `translate(${drag.dx} ${drag.dy})` : undefined}
          >
            <circle
              cx={numbers[i]?.x}
              cy={numbers[i]?.y}
              r={8.2}
              fill="#fff"
              stroke="var(--enamel)"
              strokeWidth={1.2}
            />
            <text
              x={numbers[i]?.x}
              y={(numbers[i]?.y ?? 0) + 3.9}
              textAnchor="middle"
              fontSize={11}
              fontWeight={700}
              fill="var(--ink)"
            >
              {e.number}
            </text>
          </g>
        ))}
      </svg>
      <SideView plate={plate} view={view} chosen={chosen} />
    </div>
  );
}

function SideView({ plate, view, chosen }: { plate: Plate; view: number; chosen: number }) {
  const high = Math.max(plate.high_mm, ...plate.section.map((p) => p.y)) + 8;
  const up = (ps: Point[]) => ps.map((p) => ({ x: p.x, y: -p.y }));
  // From the back of the plate to the front, so that what is nearer covers what is behind.
  const order = [...plate.elements].sort((a, b) => a.base_mm - b.base_mm || a.at.y - b.at.y);
  return (
    <svg
      viewBox={`${-view} ${-high} ${2 * view} ${high + 9}`}
      role="img"
      aria-label={`${text.plate.side} ${Math.round(plate.high_mm)} mm`}
    >
      {order.map((e) => (
        <path
          key={e.number}
          d={`${path(up(e.side))}Z`}
          fill={e.colour || "#c9c2b2"}
          stroke={shade(e.colour, -0.38)}
          strokeWidth={0.9}
          opacity={chosen > 0 && chosen !== e.number ? 0.4 : 1}
          strokeLinejoin="round"
        />
      ))}
      <path
        d={path(up(plate.section))}
        fill="none"
        stroke="var(--enamel)"
        strokeWidth={2.4}
        strokeLinejoin="round"
        strokeLinecap="round"
      />
      <g stroke="var(--quiet)" strokeWidth={0.8}>
        <line x1={view - 24} x2={view - 24} y1={0} y2={-plate.high_mm} />
        <line x1={view - 27} x2={view - 21} y1={0} y2={0} />
        <line x1={view - 27} x2={view - 21} y1={-plate.high_mm} y2={-plate.high_mm} />
      </g>
      <text x={view - 18} y={-plate.high_mm / 2 + 4} fontSize={11} fill="var(--quiet)">
        {Math.round(plate.high_mm)}
      </text>
      <text x={-view + 2} y={7} fontSize={10.5} fill="var(--quiet)">
        {Math.round(plate.width_mm)} mm
      </text>
    </svg>
  );
}
