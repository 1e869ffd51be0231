import { useState } from "react";
import type { Schemas } from "../../api/client";
import { text } from "../../text";

// Diets says which diets a plate suits by its recipes; pressed, what speaks against the others, or is not known.
export function Diets({ lines }: { lines: Schemas["DietLine"][] }) {
  const [open, setOpen] = useState(false);
  const of = (state: string) => lines.filter((l) => l.state === state).map((l) => l.diet);
  const yes = of("yes");
  const doubt = of("not-known");
  return (
    <>
      <button type="button" className="link allergens" aria-expanded={open} onClick={() => setOpen(!open)}>
        {yes.length > 0
          ? `${yes.join(", ")} ${text.diets.yes}`
          : doubt.length > 0
            ? text.diets.notKnown
            : text.diets.none}
      </button>
      {open && (
        <ul className="sources diet-lines">
          {lines.map((l) => (
            <li key={l.diet} data-diet={l.diet}>
              <span
                className={l.state === "yes" ? "mark-good" : l.state === "no" ? "mark-late" : "mark-wait"}
              >
                {l.state === "yes" ? "●" : l.state === "no" ? "▲" : "◌"}{" "}
                <b>{l.state === "no" ? `${text.diets.not} ${l.diet}` : l.diet}</b>
              </span>{" "}
              {l.said.map((m) => m.text).join("; ")}
            </li>
          ))}
          <li className="quiet">{text.diets.caution}</li>
        </ul>
      )}
    </>
  );
}
