import { useRef } from "react";
import { joinKey } from "../../api/live";
import { text } from "../../text";
import { useWidth } from "../../ui/useWidth";
import { wallClock } from "../fire/wallClock";
import { seconds, shown, standing, type Join, type Night } from "./night";

const courses = ["first", "second", "main", "dessert"] as const;

// Along is every course along the clock, wanted and real, a lane for each course of the menu.
export function Along({
  n,
  chosen,
  choose,
  span,
}: {
  n: Night;
  chosen: string;
  choose: (key: string) => void;
  span?: [number, number]; // seconds of the evening that are shown, where another stands beside it
}) {
  const box = useRef<HTMLDivElement>(null);
  const width = Math.max(320, useWidth(box));
  const lanes = courses.filter((c) => n.joins.some((j) => j.course === c));
  const [left, lane] = [84, 52];
  const height = lanes.length * lane + 26;
  const [from, to] = span ?? shown([n]);
  const x = (s: number) => left + ((s - from) / (to - from)) * (width - left - 16);
  const hours = Array.from({ length: (to - from) / 1800 + 1 }, (_, i) => from + i * 1800);
  // Rings that would cover each other stand in two rows.
  const row = (j: Join, i: number) =>
    n.joins
      .slice(0, i)
      .filter(
        (o) =>
          o.course === j.course &&
          Math.abs(seconds(n, o.wanted_at) - seconds(n, j.wanted_at)) < ((to - from) / width) * 26,
      ).length % 2;
  return (
    <div ref={box}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        height={height}
        role="group"
        aria-label={text.back.along}
      >
        {hours.map((s) => (
          <g key={s}>
            <line x1={x(s)} x2={x(s)} y1={0} y2={height - 22} className="hair" />
            <text x={x(s)} y={height - 6} textAnchor="middle">
              {wallClock(n.origin, s)}
            </text>
          </g>
        ))}
        {lanes.map((c, i) => (
          <text key={c} x={left - 14} y={i * lane + lane / 2 + 4} textAnchor="end" className="name">
            {text.courses[c]}
          </text>
        ))}
        {n.joins.map((j, i) => {
          const y = lanes.indexOf(j.course) * lane + lane / 2 - 9 + 18 * row(j, i);
          const late = j.late_s > n.grace_s;
          const key = joinKey(j);
          return (
            <g
              key={key}
              role="button"
              tabIndex={0}
              aria-pressed={key === chosen}
              aria-label={`${text.back.join(j.name, text.courses[j.course])}: ${standing(j)}`}
              className={["join", late ? "late" : "", key === chosen ? "chosen" : ""].join(" ")}
              onClick={() => choose(key)}
              onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && choose(key)}
            >
              <rect
                x={x(seconds(n, j.wanted_at)) - 12}
                y={y - 12}
                width={24}
                height={24}
                fill="transparent"
              />
              {j.sent_at && (
                <line
                  x1={x(seconds(n, j.wanted_at))}
                  x2={x(seconds(n, j.sent_at))}
                  y1={y}
                  y2={y}
                  className="off"
                />
              )}
              <circle cx={x(seconds(n, j.wanted_at))} cy={y} r={key === chosen ? 8 : 6} />
              <title>{`${text.back.join(j.name, text.courses[j.course])}: ${standing(j)}`}</title>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
