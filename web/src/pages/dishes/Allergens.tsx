import { useState } from "react";
import type { Schemas } from "../../api/client";
import { text } from "../../text";

// Allergens names them under the kitchen's code; pressed, it says where each comes from.
export function Allergens({
  lines,
  unknown,
  code,
}: {
  lines: Schemas["AllergenLine"][];
  unknown: string[]; // components whose recipe was not entered: what is not known is not none
  code: string;
}) {
  const [open, setOpen] = useState(false);
  const notKnown = unknown.length > 0 && (
    <b className="mark-late">
      ▲ {text.dish.notKnown} ({unknown.join("; ")})
    </b>
  );
  if (lines.length === 0) return notKnown || <span>{text.dish.noAllergens}</span>;
  return (
    <>
      {notKnown}{" "}
      <button type="button" className="link allergens" aria-expanded={open} onClick={() => setOpen(!open)}>
        {lines
          .filter((l) => l.named)
          .map((l) => l.name)
          .join(", ") || (unknown.length === 0 ? text.dish.noneNamed : text.dish.others)}
      </button>
      {open && (
        <ul className="sources">
          {lines.map((l) => (
            <li key={l.allergen}>
              <b>{l.name}</b> {!l.named && <span className="quiet">({text.dish.otherCode})</span>}{" "}
              {l.from.join("; ")}
            </li>
          ))}
          <li className="quiet">
            {text.house.codes[code]}. {text.dish.allergenCaution}
          </li>
        </ul>
      )}
    </>
  );
}
