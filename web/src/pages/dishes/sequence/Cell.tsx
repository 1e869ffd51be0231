import { useState } from "react";

// Cell is a value in a line that is typed over; it is taken on Enter or on leaving. What it means may have to be asked
// for; what means nothing stays as it was typed.
export function Cell<T>({
  label,
  value,
  editable,
  read,
  onChange,
}: {
  label: string;
  value: string;
  editable: boolean;
  read: (t: string) => T | null | Promise<T | null>;
  onChange: (v: T) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [bad, setBad] = useState(false);
  if (!editable) return <>{value}</>;
  const take = async () => {
    if (draft === null) return;
    if (draft === value) {
      setDraft(null);
      return;
    }
    const v = await read(draft);
    setBad(v === null);
    if (v === null) return;
    setDraft((d) => (d === draft ? null : d)); // what was typed meanwhile stays
    onChange(v);
  };
  return (
    <input
      className="cell"
      aria-label={label}
      aria-invalid={bad}
      value={draft ?? value}
      onFocus={(e) => e.target.select()}
      onChange={(e) => {
        setDraft(e.target.value);
        setBad(false);
      }}
      onBlur={() => void take()}
      onKeyDown={(e) => {
        // Leaving takes the value; Enter goes on to the next line.
        if (e.key === "Enter") {
          const all = [...document.querySelectorAll<HTMLInputElement>(".sequence .cell")];
          const next = all[all.indexOf(e.currentTarget) + 2];
          if (next) next.focus();
          else e.currentTarget.blur();
        } else if (e.key === "Escape") setDraft(null);
      }}
    />
  );
}
