import { useEffect, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Schemas } from "../api/client";
import { text } from "../text";
import { clock, usualJoin } from "../ui/time";
import { useWidth } from "../ui/useWidth";

// minuteOf is the minute of the service day at which an instant lies.
const minuteOf = (from: string, instant: string) => (Date.parse(instant) - Date.parse(from)) / 60_000;

// clockAt writes the clock at a minute of the day, five minutes to a mark.
export function clockAt(from: string, minute: number): string {
  const base = Number(from.slice(11, 13)) * 60 + Number(from.slice(14, 16));
  const m = (((Math.round((base + minute) / 5) * 5) % 1440) + 1440) % 1440;
  return `${String(Math.floor(m / 60)).padStart(2, "0")}:${String(m % 60).padStart(2, "0")}`;
}

// DayLine is the service day as a ribbon: now as a bead, the join as a tick.
// Pressing it anywhere moves the join there.
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
  const every = width / (length / 60) < 52 ? 120 : 60;
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
  return (
    <>
      <div className="line" ref={box}>
        <svg
          width={width}
          height={53}
          role="img"
          aria-label={`${text.day.label} ${clock(day.now)}, ${text.day.join} ${join}`}
          onClick={(e) => press(e.clientX)}
          style={{ display: "block", cursor: "pointer" }}
        >
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
          <text x={x(minuteOf(day.from, day.service_from)) + 3} y={15} fontSize={12.5} fill="var(--quiet)">
            {text.day.service}
          </text>
          <line x1={x(0)} x2={x(length)} y1={28} y2={28} stroke="var(--enamel)" strokeWidth={2} />
          {hours.map((m) => (
            <g key={m}>
              <line x1={x(m)} x2={x(m)} y1={25} y2={31} stroke="var(--enamel)" strokeWidth={1.5} />
              <text x={x(m)} y={46} textAnchor="middle" fontSize={14} fill="var(--quiet)">
                {clockAt(day.from, m)}
              </text>
            </g>
          ))}
          {joinMinute >= 0 && joinMinute <= length && (
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
