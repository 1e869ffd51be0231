import { useState } from "react";
import type { Schemas } from "../../api/client";
import { text } from "../../text";

// Allergens names them under the kitchen's code; pressed, it says where each comes from.
export function Allergens({ lines, code }: { lines: Schemas["AllergenLine"][]; code: string }) {
  const [open, setOpen] = useState(false);
  if (lines.length === 0) return <span>{text.dish.noAllergens}</span>;
  return (
    <>
      <button type="button" className="link allergens" aria-expanded={open} onClick={() => setOpen(!open)}>
        {lines
          .filter((l) => l.named)
          .map((l) => l.name)
          .join(", ") || text.dish.noneNamed}
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
