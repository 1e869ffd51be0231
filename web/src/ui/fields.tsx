import { useId, type ReactNode } from "react";
import { whyOf, type Problem } from "../api/problem";
import { text } from "../text";
import { NotSaved, useKept } from "./kept";

// TextField takes its value on Enter or on leaving; Escape gives the old one back.
export function TextField({
  label,
  value,
  onSave,
  wide,
  name,
  placeholder,
  check = () => "",
}: {
  label: string;
  value: string;
  onSave: (v: string) => void;
  wide?: boolean;
  name?: string;
  placeholder?: string;
  check?: (v: string) => string;
}) {
  const { draft, type, keep, drop, failed, saving } = useKept();
  const fault = draft === null ? "" : check(draft);
  const take = (again = false) => {
    if (draft === null || fault || saving || (failed && !again)) return;
    if (draft.trim() === value) drop();
    else keep(draft, () => onSave(draft.trim()));
  };
  return (
    <label className={`field${wide ? " wide" : ""}`}>
      {label}
      <input
        className="form-control"
        name={name}
        placeholder={placeholder}
        value={draft ?? value}
        aria-invalid={fault !== "" || failed !== null}
        aria-busy={saving}
        onFocus={(e) => e.target.select()}
        onChange={(e) => type(e.target.value)}
        onBlur={() => take()}
        onKeyDown={(e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            take(true);
          } else if (e.key === "Escape") drop();
        }}
      />
      {fault && <span className="mark-late">{fault}</span>}
      <NotSaved problem={failed} onAgain={() => take(true)} />
    </label>
  );
}

const numeral = (v: string) => Number(v.replace(",", "."));

export function NumberField({
  label,
  value,
  onSave,
  name,
  optional,
}: {
  label: string;
  value: number | undefined;
  onSave: (v: number) => void;
  name?: string;
  optional?: boolean;
}) {
  return (
    <TextField
      label={label}
      name={name}
      value={value === undefined || (optional && value === 0) ? "" : String(value)}
      check={(v) =>
        (optional && v.trim() === "") || /^-?\d*[.,]?\d+$/.test(v.trim()) ? "" : text.errors.number
      }
      onSave={(v) => onSave(v === "" ? 0 : numeral(v))}
    />
  );
}

export function Select<T extends string>({
  label,
  value,
  options,
  onSave,
  name,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onSave: (v: T) => void;
  name?: string;
}) {
  return (
    <label className="field">
      {label}
      <select className="form-select" name={name} value={value} onChange={(e) => onSave(e.target.value as T)}>
        {options.map(([v, said]) => (
          <option key={v} value={v}>
            {said}
          </option>
        ))}
      </select>
    </label>
  );
}

// Chips are words to switch on and off.
export function Chips<T extends string>({
  label,
  all,
  chosen,
  onChange,
}: {
  label: string;
  all: readonly T[];
  chosen: readonly T[];
  onChange: (list: T[]) => void;
}) {
  const id = useId();
  return (
    <div className="chips" role="group" aria-labelledby={id}>
      <span id={id} className="quiet">
        {label}
      </span>
      {all.map((w) => {
        const on = chosen.includes(w);
        return (
          <button
            key={w}
            type="button"
            aria-pressed={on}
            onClick={() =>
              onChange(on ? chosen.filter((x) => x !== w) : all.filter((x) => x === w || chosen.includes(x)))
            }
          >
            {on ? "✓ " : ""}
            {w.replaceAll("-", " ")}
          </button>
        );
      })}
    </div>
  );
}

export function Check({
  label,
  on,
  onChange,
}: {
  label: string;
  on: boolean;
  onChange: (v: boolean) => void;
}) {
  return (
    <label className="check">
      <input
        type="checkbox"
        className="form-check-input"
        checked={on}
        onChange={(e) => onChange(e.target.checked)}
      />
      {label}
    </label>
  );
}

// Fold is a part of a page that opens on demand.
export function Fold({ title, children, open }: { title: ReactNode; children: ReactNode; open?: boolean }) {
  return (
    <details className="fold card-enamel" open={open}>
      <summary>{title}</summary>
      <div className="inside">{children}</div>
    </details>
  );
}

// Faulty says what the server refused.
export function Faulty({ problem }: { problem: Problem | null }) {
  if (!problem) return null;
  return (
    <div className="trouble" role="alert">
      {whyOf(problem)}
    </div>
  );
}
