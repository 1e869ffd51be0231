import type { Schemas } from "../api/client";

type Section = Schemas["Section"];

export const hueOf = (s: Section | undefined) => `var(--hue-${s?.hue ?? "slate"})`;

const lines: Record<string, string> = {
  plain: "",
  rising: "M-2 8 8 -2M2 14 14 2",
  falling: "M-2 4 8 14M4 -2 14 8",
  cross: "M-2 8 8 -2M2 14 14 2M-2 4 8 14M4 -2 14 8",
  bars: "M4 0V12M9 0V12",
  grid: "M4 0V12M9 0V12M0 4H12M0 9H12",
};

// Swatch shows a section by hue and hatch, for every kind of eye.
export function Swatch({ section }: { section: Section | undefined }) {
  const pattern = section?.pattern ?? "plain";
  return (
    <svg className="swatch" viewBox="0 0 12 12" aria-label={section?.name} role="img">
      <rect width="12" height="12" rx="2" fill={hueOf(section)} />
      {pattern === "dots" ? (
        <g fill="#fff">
          <circle cx="3.5" cy="3.5" r="1.5" />
          <circle cx="8.5" cy="8.5" r="1.5" />
        </g>
      ) : (
        <path d={lines[pattern]} stroke="#fff" strokeWidth="1.2" fill="none" />
      )}
    </svg>
  );
}
