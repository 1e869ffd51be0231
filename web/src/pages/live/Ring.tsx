import type { JoinDue } from "../../api/live";
import { arcs, type Arc } from "../../charts/JoinRing";
import { text } from "../../text";

// short is what stands within a ring: a table's number, or the first letters of its name.
export function short(name: string): string {
  const digits = /\d+/.exec(name);
  return digits ? digits[0] : name.slice(0, 3);
}

// leastShare is how much of the ring the smallest component has: less could not be seen.
const leastShare = 0.06;

// Ring is a join as it comes together: an arc for each component, as long as its share of the work, that fills as it is done. What the
// others wait for is notched; what was not called yet is dotted around.
export function Ring({ join: j, size, named = true }: { join: JoinDue; size: number; named?: boolean }) {
  const least = leastShare * j.parts.reduce((sum, p) => sum + p.share_s, 0);
  const list: Arc[] = j.parts.map((p) => ({ share: Math.max(least, p.share_s), state: "waiting" }));
  const drawn = arcs(list, 18, Math.min(9, 120 / Math.max(1, list.length)));
  const filled = (i: number, share: number) => {
    const a = drawn[i];
    return a ? `${share * a.long} ${2 * Math.PI * 18}` : undefined;
  };
  const waits = j.parts.filter((p) => p.state === "over").map((p) => p.what);
  const label = `${j.name}, ${text.courses[j.course]}: ${text.live.ring(j.done, j.of)}${waits.length ? `, ${text.live.waits} ${waits.join(", ")}` : ""}`;
  return (
    <svg className="ring" viewBox="-24 -24 48 48" width={size} height={size} role="img" aria-label={label}>
      {j.standing === "held" && <circle r={23} className="held" />}
      {drawn.map((a, i) => {
        const p = j.parts[i];
        if (!p) return null;
        return (
          <g key={p.component} data-state={p.state}>
            <path d={a.path} className="bed" />
            {p.done > 0 && (
              <path
                d={a.path}
                className={p.state === "ready" || p.done >= 1 ? "full" : "filling"}
                strokeDasharray={p.done >= 1 ? undefined : filled(i, p.done)}
              />
            )}
            {p.state === "over" && <path d={a.path} className="over" />}
          </g>
        );
      })}
      {named && (
        <text className="named" textAnchor="middle" dominantBaseline="central">
          {short(j.name)}
        </text>
      )}
    </svg>
  );
}
