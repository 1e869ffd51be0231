import type { Schemas } from "../../api/client";
import { text } from "../../text";

// LineReadings stands beside typed lines: what each was understood as, what was taken for granted since it does not say (a press says
// otherwise), and what was not understood.
export function LineReadings({
  readings,
  typed,
  onType,
}: {
  readings: Schemas["Reading"][];
  typed: string;
  onType: (typed: string) => void;
}) {
  const add = (line: number, words: string) =>
    onType(
      typed
        .split("\n")
        .map((l, i) => (i === line ? `${l.trimEnd()}, ${words}` : l))
        .join("\n"),
    );
  return (
    <ul aria-label={text.component.understood}>
      {readings.map((r, i) => (
        <li key={i}>
          <div className="reading" tabIndex={r.assumed.length > 0 || r.unsure ? 0 : undefined}>
            {r.unsure && <span className="mark-wait">◌ {r.unsure.text} </span>}
            {r.understood.length > 0 && (
              <span className="mark-good">{r.understood.map((u) => u.text).join(" · ")}</span>
            )}
            {r.assumed.map((a, k) => (
              <span key={a.said.text} className="assumed">
                {" "}
                {k === 0 ? text.component.taken : "·"} {a.said.text}
                {(a.instead ?? []).map((words) => (
                  <button key={words} type="button" onClick={() => add(i, words)}>
                    {words}
                  </button>
                ))}
              </span>
            ))}
          </div>
        </li>
      ))}
    </ul>
  );
}
