import { useRef } from "react";
import { useWidth } from "./useWidth";

export type StepBar = {
  key: string;
  name: string;
  said: string;
  paper?: [number, number]; // seconds: as it was to be
  stove?: [number, number]; // as it was
  off?: boolean; // it is what one looks for: longer, later
  quiet?: boolean; // it is somebody else's
};

// StepBars are the steps of a course, one below the other: as they were to be over as they were. wanted and sent are when the course was
// to leave, and when it did; clock says a second as a clock does.
export function StepBars({
  list,
  wanted,
  sent,
  wantedWord,
  clock,
}: {
  list: readonly StepBar[];
  wanted: number;
  sent?: number;
  wantedWord: string;
  clock?: (s: number) => string;
}) {
  const box = useRef<HTMLDivElement>(null);
  const width = Math.max(320, useWidth(box));
  const [left, step] = [Math.min(300, width * 0.4), 30];
  const height = list.length * step + (clock ? 44 : 24);
  const all = list.flatMap((s) => [...(s.paper ?? []), ...(s.stove ?? [])]);
  const from = Math.min(wanted, ...all) - 30;
  const to = Math.max(wanted, sent ?? wanted, ...all) + 30;
  const x = (s: number) => left + ((s - from) / (to - from)) * (width - left - 24);
  const bottom = list.length * step + 4;
  const every = [60, 120, 300, 600, 1800, 3600].find((s) => ((to - from) / s) * 70 < width - left) ?? 3600;
  const first = Math.ceil(from / every) * every;
  const ticks = clock
    ? Array.from({ length: Math.floor((to - first) / every) + 1 }, (_, i) => first + every * i)
    : [];
  const bar = (at: [number, number], y: number, as: string) => (
    <rect x={x(at[0])} y={y} width={Math.max(2, x(at[1]) - x(at[0]))} height={9} className={as} />
  );
  return (
    <div ref={box} className="step-bars">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        height={height}
        role="img"
        aria-label={list.map((s) => `${s.name}: ${s.said}`).join("; ")}
      >
        {ticks.map((s) => (
          <g key={s}>
            <line x1={x(s)} x2={x(s)} y1={0} y2={bottom} className="hair" />
            <text x={x(s)} y={bottom + 14} textAnchor="middle">
              {clock?.(s)}
            </text>
          </g>
        ))}
        <line x1={x(wanted)} x2={x(wanted)} y1={0} y2={bottom} className="wanted" />
        <text x={x(wanted)} y={height - 5} textAnchor={x(wanted) > width - 50 ? "end" : "middle"}>
          {wantedWord}
        </text>
        {sent !== undefined && Math.abs(x(sent) - x(wanted)) > 2 && (
          <line x1={x(sent)} x2={x(sent)} y1={0} y2={bottom} className="sent" />
        )}
        {list.map((s, i) => {
          const most = Math.floor(left / 7.2);
          return (
            <g key={s.key} className={s.quiet ? "others" : undefined}>
              <text x={left - 10} y={i * step + 19} textAnchor="end" className="name">
                {s.name.length > most ? `${s.name.slice(0, most - 1)}…` : s.name}
              </text>
              {s.paper && bar(s.paper, i * step + 5, "paper")}
              {s.stove && bar(s.stove, i * step + 14, s.off ? "stove longer" : "stove")}
              <title>{`${s.name}: ${s.said}`}</title>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
