import type { Schemas } from "../../../api/client";

// Clock shows on a small clock face where an element lies.
export function Clock({ e }: { e: Schemas["Element"] }) {
  const { hour = 0, from_centre_mm: out = 0, x_mm = 0, y_mm = 0 } = e.at;
  const x = hour > 0 ? out * Math.sin((hour * Math.PI) / 6) : x_mm;
  const y = hour > 0 ? -out * Math.cos((hour * Math.PI) / 6) : y_mm;
  return (
    <svg viewBox="-11 -11 22 22" width={22} height={22} aria-hidden="true">
      <circle r={9.5} fill="none" stroke="var(--rule)" strokeWidth={1.2} />
      <circle
        cx={Math.max(-6.5, Math.min(6.5, x / 10))}
        cy={Math.max(-6.5, Math.min(6.5, y / 10))}
        r={3}
        fill="var(--enamel)"
      />
    </svg>
  );
}
