import type { Schemas } from "../api/client";

// LimitLine is one finding: what the code says or what the work can do, what usually is done, and where that stands.
export function LimitLine({ of: l }: { of: Schemas["Limit"] }) {
  const fault = l.state === "fault";
  return (
    <span className={fault ? "limit-line mark-late" : "limit-line"} data-subject={l.subject}>
      {fault ? "▲" : "◌"} <b>{l.said.text.replace(/\.$/, "")}.</b> {l.usual.text}{" "}
      <i className="quiet">{[l.code, l.section].filter(Boolean).join(", ")}</i>
    </span>
  );
}
