import { useContext } from "react";
import type { Schemas } from "../../api/client";
import { joinKey, LiveJoins } from "../../api/live";
import { short } from "../../charts/evening";
import { text } from "../../text";
import { clock, span } from "../../ui/time";

type Join = Schemas["EveningJoin"];

const courseMark = { first: "1", second: "2", main: "M", dessert: "D" } as const;

export const tones = { late: "var(--vermilion)", doubtful: "var(--ochre)", "in-time": "var(--leaf)" };

// JoinMark is one join: the course in it, its chance around it, a notch when it is late or
// a hold is passed, dotted as long as it is a forecast.
export function JoinMark({
  join: j,
  x,
  y,
  r,
  named = false,
  chosen,
  faded,
  onChoose,
}: {
  join: Join;
  x: number;
  y: number;
  r: number;
  named?: boolean; // the table's name stands beside it
  chosen: boolean;
  faded: boolean;
  onChoose: () => void;
}) {
  const live = useContext(LiveJoins).get(joinKey(j));
  const sent = live?.standing === "sent";
  const state =
    live && Date.parse(live.forecast) - Date.parse(live.wanted_at) > 180_000
      ? "late"
      : live
        ? "in-time"
        : j.standing;
  // Once the service goes on, the ring is what is done of it; before, the chance that it is in time.
  const chance = live ? (live.of > 0 ? live.done / live.of : 0) : Math.max(0, j.chance);
  const around = 2 * Math.PI * r;
  const words = [
    `${j.name}, ${text.courses[j.course]}${j.round > 0 ? ` ${text.fire.round} ${j.round}` : ""}`,
    clock(j.at),
    live
      ? live.standing === "planned"
        ? `${live.done} ${text.fire.running.of} ${live.of} ${text.fire.running.done}`
        : text.fire.running.standings[live.standing]
      : `${Math.round(chance * 100)} % ${text.fire.chance}`,
    ...(j.late ? [`${span(j.late_s)} ${text.strands.late}`] : []),
    ...(j.forecast ? [text.fire.forecast] : []),
  ];
  return (
    <g
      className="join"
      data-join={j.id}
      transform={`translate(${x} ${y})`}
      tabIndex={0}
      role="button"
      aria-pressed={chosen}
      aria-label={words.join(", ")}
      opacity={faded ? 0.35 : 1}
      onClick={onChoose}
      onKeyDown={(e) => {
        if (e.key === "Enter" || e.key === " ") {
          e.preventDefault();
          onChoose();
        }
      }}
    >
      <title>{`${words.join(", ")}: ${j.dishes.join("; ")}`}</title>
      <circle r={r + 6} fill="transparent" />
      <circle r={r + 2} fill="#fff" stroke={chosen ? "var(--ink)" : "none"} strokeWidth={2} />
      <circle r={r} fill={sent ? "var(--leaf)" : "#fff"} stroke="var(--hair)" strokeWidth={3.5} />
      <circle
        r={r}
        fill="none"
        stroke={tones[state]}
        strokeWidth={3.5}
        strokeDasharray={j.forecast && !live ? "3 3" : `${chance * around} ${around}`}
        transform="rotate(-90)"
      />
      {state === "late" && (
        <path d={`M-4.5 ${-r - 4} L4.5 ${-r - 4} L0 ${-r + 4}Z`} fill="var(--vermilion)" />
      )}
      {named && (
        <text x={r + 5} y={5} className="mark">
          {short(j.name)}
        </text>
      )}
      <text y={4.5} textAnchor="middle" className={sent ? "mark on-leaf" : "mark"}>
        {j.round > 0 ? j.round : courseMark[j.course]}
      </text>
    </g>
  );
}
