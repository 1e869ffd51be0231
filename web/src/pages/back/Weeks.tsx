import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { text } from "../../text";

type Week = Schemas["WeekLine"];

// Weeks are the record by the week, as many as a season has: each evening by how many of its courses were late.
export function Weeks({ list }: { list: readonly Week[] }) {
  const words = text.back;
  const most = Math.max(0.1, ...list.flatMap((w) => w.nights.map((n) => n.share)));
  return (
    <ol className="nights weeks">
      {list.map((w) => (
        <li key={w.from}>
          <div className="card-enamel">
            <b>{words.week(w.from)}</b>
            <span className="figure">
              {words.covers(w.covers)} · {words.late(w.late, w.courses)}
            </span>
            <WeekBars w={w} most={most} />
            <small className="quiet">
              {[words.mean(w.late_s), words.againBack(w.again, w.back)].filter(Boolean).join(" · ")}
            </small>
          </div>
        </li>
      ))}
    </ol>
  );
}

function WeekBars({ w, most }: { w: Week; most: number }) {
  const [width, height, base] = [252, 84, 62];
  const x = (day: number) => (day - 1) * 36 + 4;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width="100%" role="group" aria-label={text.back.week(w.from)}>
      <line x1={0} x2={width} y1={base} y2={base} className="base" />
      {text.back.days.map((d, i) => (
        <text key={d} x={x(i + 1) + 14} y={height - 6} textAnchor="middle">
          {d.slice(0, 2)}
        </text>
      ))}
      {w.nights.map((n) => {
        const h = Math.max(2, (n.share / most) * 54);
        return (
          <Link key={n.service} to={`/back/${n.service}`} aria-label={text.back.evening(n.name, n.share)}>
            <rect x={x(n.day)} y={0} width={28} height={height} fill="transparent" />
            <rect
              x={x(n.day)}
              y={base - h}
              width={28}
              height={h}
              className={n.share > 0.1 ? "bar late" : "bar"}
            />
            <title>{text.back.evening(n.name, n.share)}</title>
          </Link>
        );
      })}
    </svg>
  );
}
