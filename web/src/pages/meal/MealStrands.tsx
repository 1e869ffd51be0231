import { useRef } from "react";
import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { span } from "../../ui/time";
import { useWidth } from "../../ui/useWidth";
import { ticks, zero, zeroSeconds } from "./zero";

type Plan = Schemas["MealPlan"];

const names = 230;
const rowHeight = 30;

// laid gives every strand its row, and every course the height of its ring under them.
function laid(plan: Plan) {
  let y = 30;
  const groups = plan.courses.map((course) => {
    const rows = plan.strands
      .filter((s) => s.course === course.id)
      .map((strand, i) => ({ strand, y: y + (i + 0.5) * rowHeight }));
    y += rows.length * rowHeight + 26;
    return { course, rows, ring: y - 18 };
  });
  return { groups, height: y + 6 };
}

// MealStrands is the whole meal on one page: a row for each component of each course, its steps along the clock from zero, and
// the ring of every course at its deadline.
export function MealStrands({ plan, sections }: { plan: Plan; sections: Schemas["House"]["sections"] }) {
  const box = useRef<HTMLDivElement>(null);
  const width = Math.max(420, useWidth(box));
  const end = Math.max(...plan.courses.map((c) => Math.max(c.at_s, c.due_s)), 600) * 1.04;
  const x = (s: number) => names + (s / end) * (width - names - 26);
  const hue = (id: string) => `var(--hue-${sections.find((s) => s.id === id)?.hue ?? "slate"})`;
  const { groups, height } = laid(plan);
  return (
    <div ref={box} className="meal-strands">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width={width}
        height={height}
        role="img"
        aria-label={text.meal.strands}
      >
        {ticks(end, width - names).map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={24} y2={height} stroke="var(--hair)" />
            <text className="tick" x={x(t)} y={17} textAnchor="middle">
              {zero(t)}
            </text>
          </g>
        ))}
        {groups.map(({ course: c, rows, ring }) => (
          <g key={c.id} data-course={c.id}>
            <line
              x1={x(c.due_s)}
              x2={x(c.due_s)}
              y1={24}
              y2={ring}
              stroke="var(--enamel)"
              strokeDasharray="5 4"
            />
            {rows.map(({ strand: s, y: at }) => (
              <g key={s.name} data-strand={s.name}>
                <text x={names - 10} y={at + 5} textAnchor="end" className="row-name">
                  {s.name.length > 30 ? `${s.name.slice(0, 29)}…` : s.name}
                </text>
                <line
                  x1={x(s.bars[0]?.from_s ?? 0)}
                  x2={x(c.plate_s)}
                  y1={at}
                  y2={at}
                  stroke={hue(s.section)}
                  strokeOpacity={0.35}
                  strokeWidth={2}
                />
                <path
                  d={`M${x(c.plate_s)} ${at}L${x(c.at_s)} ${ring}`}
                  stroke={hue(s.section)}
                  strokeOpacity={0.5}
                  fill="none"
                />
                {s.bars.map((b, i) => (
                  <rect
                    key={`under ${i}`}
                    x={x(b.from_s)}
                    y={at - 4}
                    width={Math.max(2, x(b.to_s) - x(b.from_s))}
                    height={8}
                    fill="#fff"
                  />
                ))}
                {s.bars.map((b, i) => (
                  <rect
                    key={i}
                    x={x(b.from_s)}
                    y={at - (b.hands === "both" ? 10 : b.hands === "tend" ? 7 : 4)}
                    width={Math.max(2, x(b.to_s) - x(b.from_s))}
                    height={b.hands === "both" ? 20 : b.hands === "tend" ? 14 : 8}
                    rx={3}
                    fill={hue(s.section)}
                    fillOpacity={b.hands === "none" ? 0.45 : b.hands === "tend" ? 0.7 : 1}
                    stroke="#fff"
                  >
                    <title>
                      {`${zeroSeconds(b.from_s)}–${zeroSeconds(b.to_s)} ${b.step}, ${b.count} × ${s.name}${b.c === undefined ? "" : `, ${b.c}°`}`}
                    </title>
                  </rect>
                ))}
              </g>
            ))}
            <circle
              cx={x(c.at_s)}
              cy={ring}
              r={9}
              fill="#fff"
              stroke={c.late_s > 0 ? "var(--vermilion)" : "var(--enamel)"}
              strokeWidth={4}
            />
            <text x={x(c.at_s) - 16} y={ring + 5} textAnchor="end" className="row-name strong">
              {c.name} {zeroSeconds(c.at_s)}
              {c.late_s > 0 && ` ▲ ${span(c.late_s)} ${text.meal.late}`}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}
