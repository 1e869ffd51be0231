import { useEffect, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Schemas } from "../api/client";
import { useDay } from "../api/queries";
import { text } from "../text";
import { clock, hoursApart, usualJoin } from "../ui/time";
import { hueOf } from "../ui/Swatch";
import { useWidth } from "../ui/useWidth";

// minuteOf is the minute of the service day at which an instant lies.
const minuteOf = (from: string, instant: string) => (Date.parse(instant) - Date.parse(from)) / 60_000;

// clockAt writes the clock at a minute of the day, five minutes to a mark.
export function clockAt(from: string, minute: number): string {
  const base = Number(from.slice(11, 13)) * 60 + Number(from.slice(14, 16));
  const m = (((Math.round((base + minute) / 5) * 5) % 1440) + 1440) % 1440;
  return `${String(Math.floor(m / 60)).padStart(2, "0")}:${String(m % 60).padStart(2, "0")}`;
}

// DayLine is the service day as a ribbon: now as a bead, joins as ticks with a notch where
// something does not fit, prep as faint marks by section. Pressing it anywhere goes there: a
// dish's join moves to that time, the evening is shown around it.
export function DayLine({ house }: { house: Schemas["House"] }) {
  const { day } = house;
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const [params] = useSearchParams();
  const go = useNavigate();
  const [now, setNow] = useState(() => Date.now());
  const skew = Date.parse(day.now) - now;
  useEffect(() => {
    const t = window.setInterval(() => setNow(Date.now()), 10_000);
    return () => window.clearInterval(t);
  }, []);
  const length = minuteOf(day.from, day.to);
  const x = (minute: number) => 24 + (minute / length) * (width - 48);
  const nowMinute = (now + (Math.abs(skew) > 60_000 ? skew : 0) - Date.parse(day.from)) / 60_000;
  const first = Number(day.from.slice(14, 16)) === 0 ? 0 : 60 - Number(day.from.slice(14, 16));
  const every = 60 * hoursApart((width - 48) / (length / 60));
  const hours = [];
  for (let m = first; m <= length; m += every) hours.push(m);
  const join = params.get("at") ?? usualJoin;
  const joinMinute =
    ((Number(join.slice(0, 2)) - Number(day.from.slice(11, 13)) + 24) % 24) * 60 +
    Number(join.slice(3, 5)) -
    Number(day.from.slice(14, 16));
  const press = (clientX: number) => {
    const left = box.current?.getBoundingClientRect().left ?? 0;
    const minute = Math.min(length, Math.max(0, ((clientX - left - 24) / (width - 48)) * length));
    const next = new URLSearchParams(params);
    next.set("at", clockAt(day.from, minute));
    void go({ search: next.toString() });
  };
  const marks = useDay();
  const joins =
    marks.data && marks.data.joins.length > 0 && params.get("at") === null ? marks.data.joins : null;
  const rowOf = (section: string) =>
    Math.max(
      0,
      house.sections.findIndex((s) => s.id === section),
    ) % 6;
  const spoken = [
    `${text.day.label} ${clock(day.now)}`,
    ...(joins
      ? [`${joins.length} ${text.fire.joins}, ${joins.filter((j) => j.trouble).length} ${text.day.trouble}`]
      : [`${text.day.join} ${join}`]),
  ];
  return (
    <>
      <div className="line" ref={box}>
        <svg
          width={width}
          height={53}
          role="img"
          aria-label={spoken.join(", ")}
          onClick={(e) => press(e.clientX)}
          style={{ display: "block", cursor: "pointer" }}
        >
          {marks.data?.prep.map((w, i) => (
            <rect
              key={i}
              x={x(minuteOf(day.from, w.from))}
              width={Math.max(1.5, x(minuteOf(day.from, w.to)) - x(minuteOf(day.from, w.from)))}
              y={8 + rowOf(w.section) * 3}
              height={2.4}
              fill={hueOf(house.sections.find((s) => s.id === w.section))}
              opacity={0.75}
            />
          ))}
          <rect
            x={x(minuteOf(day.from, day.service_from))}
            width={Math.max(
              0,
              x(minuteOf(day.from, day.service_to)) - x(minuteOf(day.from, day.service_from)),
            )}
            y={19}
            height={7}
            rx={3.5}
            fill="var(--enamel)"
            opacity={0.18}
          />
          {joins === null && (
            <text x={x(minuteOf(day.from, day.service_from)) + 3} y={15} fontSize={12.5} fill="var(--quiet)">
              {text.day.service}
            </text>
          )}
          <line x1={x(0)} x2={x(length)} y1={28} y2={28} stroke="var(--enamel)" strokeWidth={2} />
          {hours.map((m) => (
            <g key={m}>
              <line x1={x(m)} x2={x(m)} y1={25} y2={31} stroke="var(--enamel)" strokeWidth={1.5} />
              <text x={x(m)} y={46} textAnchor="middle" fontSize={14} fill="var(--quiet)">
                {clockAt(day.from, m)}
              </text>
            </g>
          ))}
          {marks.data?.joins.map((j, i) => {
            const at = x(minuteOf(day.from, j.at));
            return (
              <g key={i}>
                <line
                  x1={at}
                  x2={at}
                  y1={16}
                  y2={27}
                  stroke={j.trouble ? "var(--vermilion)" : "var(--leaf)"}
                />
                {j.trouble && <path d={`M${at - 3.5} 7 L${at + 3.5} 7 L${at} 14Z`} fill="var(--vermilion)" />}
              </g>
            );
          })}
          {joins === null && joinMinute >= 0 && joinMinute <= length && (
            <line
              x1={x(joinMinute)}
              x2={x(joinMinute)}
              y1={8}
              y2={27}
              stroke="var(--enamel)"
              strokeWidth={2.5}
            />
          )}
          {nowMinute >= 0 && nowMinute <= length && (
            <circle cx={x(nowMinute)} cy={28} r={7} fill="#fff" stroke="var(--enamel)" strokeWidth={3} />
          )}
        </svg>
      </div>
      <div className="clock figure">
        <b>{clock(day.now)}</b>
        <span>{house.empty ? text.day.none : house.kitchen.name}</span>
      </div>
    </>
  );
}
