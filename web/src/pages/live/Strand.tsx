import type { Line } from "./goOn";

// The strand of a run beside the others of its section: from now to the right, as thick as it takes hands; the wedge at its end is how long
// it may wait. What is on already begins left of now.
export const strandMinutes = 10;

const thick: Record<Line["how"]["hands"], number> = { both: 20, tend: 10, none: 3 };

export function Strand({ line: l, now, width }: { line: Line; now: number; width: number }) {
  const x = (ms: number) => ((ms - now) / (strandMinutes * 60_000)) * width;
  const from = x(Date.parse(l.fire_at));
  const to = x(Date.parse(l.done_at));
  const left = Math.max(from, 0);
  const right = Math.min(to, width);
  const h = thick[l.how.hands];
  const second = width / (strandMinutes * 60);
  const inTo = Math.min(right, from + (l.how.in_s ?? 0) * second);
  const outFrom = Math.max(left, to - (l.how.out_s ?? 0) * second);
  const may = l.may_until ? Math.min(width + 20, x(Date.parse(l.may_until))) : to;
  const over = l.standing === "overdue" || l.standing === "asks" || to < 0;
  if (left > width)
    return <svg className="strand" width={width} height={28} viewBox={`0 0 ${width} 28`} aria-hidden />;
  return (
    <svg className="strand" width={width} height={28} viewBox={`0 0 ${width} 28`} aria-hidden>
      {may > to && to < width && (
        <path className="wedge" d={`M${Math.max(0, to)} 5L${Math.max(0, to)} 23L${Math.max(0, may)} 14Z`} />
      )}
      {over ? (
        <path className="late" d={`M0 14H${Math.max(14, right)}M${Math.max(14, right)} 3V25`} />
      ) : (
        <>
          <rect
            className="body"
            x={left}
            y={14 - h / 2}
            width={Math.max(2, right - left)}
            height={h}
            rx={1.5}
          />
          {inTo > left && <rect className="body" x={left} y={4} width={inTo - left} height={20} rx={2} />}
          {outFrom < right && (
            <rect className="body" x={outFrom} y={4} width={right - outFrom} height={20} rx={2} />
          )}
        </>
      )}
    </svg>
  );
}
