import { useState, type ReactNode } from "react";
import { text } from "../../text";
import { Button, Drop } from "../../ui/Button";

// pairs are words to choose from, as options.
export const pairs = <T extends string>(list: readonly T[]) =>
  list.map((x) => [x, x.replace("-", " ")] as const);

// PartsList is one of the kitchen's lists: each part in a line, what it is unfolds.
export function PartsList({
  title,
  add,
  items,
  onAdd,
}: {
  title: string;
  add: string;
  items: { id: string; title: ReactNode; body: ReactNode; onRemove: () => void }[];
  onAdd: () => void;
}) {
  const [open, setOpen] = useState("");
  return (
    <section className="card-enamel parts" aria-label={title}>
      <header>
        <h2>{title}</h2>
        <Button onClick={onAdd}>{add}</Button>
      </header>
      <ul>
        {items.map((x) => (
          <li key={x.id} data-part={x.id}>
            <button
              type="button"
              className="opens"
              aria-expanded={open === x.id}
              onClick={() => setOpen(open === x.id ? "" : x.id)}
            >
              <span>{x.title}</span>
              <span className="quiet">{open === x.id ? text.editor.close : text.house.change}</span>
            </button>
            {open === x.id && (
              <div className="inside">
                {x.body}
                <Drop onClick={x.onRemove} />
              </div>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
