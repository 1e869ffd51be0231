import type { Schemas } from "../../api/client";
import { text } from "../../text";

const marks = { good: "●", mind: "◌", fault: "▲" } as const;
const looks = { good: "mark-good", mind: "mark-wait", fault: "mark-late" } as const;

// Findings are what the computation noticed, each pointing at its element.
export function Findings({
  list,
  chosen,
  onChoose,
}: {
  list: Schemas["Finding"][];
  chosen: number;
  onChoose: (n: number) => void;
}) {
  const good = list.filter((f) => f.state === "good");
  return (
    <ul className="findings" aria-label={text.plate.findings}>
      {list
        .filter((f) => f.state !== "good")
        .map((f, i) => (
          <li key={i}>
            <span className={looks[f.state]} aria-label={text.plate.states[f.state]}>
              {marks[f.state]}
            </span>
            {f.element > 0 ? (
              <button
                type="button"
                aria-pressed={chosen === f.element}
                onClick={() => onChoose(chosen === f.element ? 0 : f.element)}
              >
                {f.said.text}
              </button>
            ) : (
              <span>{f.said.text}</span>
            )}
          </li>
        ))}
      {good.length > 0 && (
        <li>
          <span className={looks.good} aria-label={text.plate.states.good}>
            {marks.good}
          </span>
          <span>{good.map((f) => f.said.text).join(" ")}</span>
        </li>
      )}
    </ul>
  );
}
