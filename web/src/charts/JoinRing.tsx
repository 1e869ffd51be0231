// The join ring: one arc for each component, clockwise in plating order. It closes
// when the plate is complete.
export type ArcState = "waiting" | "firing" | "ready" | "holding" | "over";

export interface Arc {
  share: number;
  state: ArcState;
}

export interface ArcPath extends Arc {
  path: string;
  long: number; // of the path
}

// arcs lays the ring out: shares of the circle with a small gap between.
export function arcs(list: Arc[], radius: number, gapDeg = 9): ArcPath[] {
  const total = list.reduce((sum, a) => sum + a.share, 0) || 1;
  let at = 0;
  return list.map((a) => {
    const from = at + gapDeg / 2;
    at += (a.share / total) * 360;
    const to = Math.max(from + 0.1, at - gapDeg / 2);
    const point = (deg: number) => {
      const r = ((deg - 90) * Math.PI) / 180;
      return `${(radius * Math.cos(r)).toFixed(2)} ${(radius * Math.sin(r)).toFixed(2)}`;
    };
    const long = ((to - from) / 180) * Math.PI * radius;
    return {
      ...a,
      long,
      path: `M${point(from)}A${radius} ${radius} 0 ${to - from > 180 ? 1 : 0} 1 ${point(to)}`,
    };
  });
}

const stroke: Record<ArcState, { opacity: number; dash?: string; colour: string }> = {
  waiting: { opacity: 0.28, colour: "var(--enamel)" },
  firing: { opacity: 0.6, colour: "var(--enamel)" },
  ready: { opacity: 1, colour: "var(--enamel)" },
  holding: { opacity: 1, dash: "3 3", colour: "var(--ochre)" },
  over: { opacity: 1, dash: "9 2", colour: "var(--vermilion)" },
};

export function JoinRing({ list, size, label }: { list: Arc[]; size: number; label?: string }) {
  return (
    <svg
      viewBox="-24 -24 48 48"
      width={size}
      height={size}
      role={label ? "img" : "presentation"}
      aria-label={label}
    >
      {arcs(list, 18).map((a, i) => {
        const s = stroke[a.state];
        return (
          <path
            key={i}
            d={a.path}
            fill="none"
            strokeWidth={6.5}
            stroke={s.colour}
            strokeOpacity={s.opacity}
            strokeDasharray={s.dash}
          />
        );
      })}
    </svg>
  );
}
