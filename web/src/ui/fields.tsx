import { useId, useState, type ReactNode } from "react";
import { api, settle } from "../api/client";
import { text } from "../text";
import { span } from "./time";

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
  const [draft, setDraft] = useState<string | null>(null);
  const fault = draft === null ? "" : check(draft);
  const take = () => {
    if (draft === null || fault) return;
    if (draft.trim() !== value) onSave(draft.trim());
    setDraft(null);
  };
  return (
    <label className={`field${wide ? " wide" : ""}`}>
      {label}
      <input
        className="form-control"
        name={name}
        placeholder={placeholder}
        value={draft ?? value}
        aria-invalid={fault !== ""}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            take();
          } else if (e.key === "Escape") setDraft(null);
        }}
      />
      {fault && <span className="mark-late">{fault}</span>}
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

// TimeField and DegreesField let the server understand what is typed: 1½ h, 90 s,
// 350F, gas 4. Empty means none.
function Understood({
  as,
  label,
  name,
  shown,
  say,
  onSave,
}: {
  as: "time" | "degrees";
  label: string;
  name?: string;
  shown: string;
  say: string;
  onSave: (v: number | undefined) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState("");
  const take = async () => {
    if (draft === null) return;
    if (draft.trim() === shown) {
      setDraft(null);
      return;
    }
    if (draft.trim() === "") {
      setDraft(null);
      onSave(undefined);
      return;
    }
    const u = await settle(api.POST("/api/understand", { body: { as, text: draft } }));
    setFault(u.ok ? "" : say);
    if (!u.ok) return;
    setDraft(null);
    onSave(u.value);
  };
  return (
    <label className="field">
      {label}
      <input
        className="form-control"
        name={name}
        value={draft ?? shown}
        placeholder={text.editor.unsaid}
        aria-invalid={fault !== ""}
        onFocus={(e) => e.target.select()}
        onChange={(e) => {
          setDraft(e.target.value);
          setFault("");
        }}
        onBlur={() => void take()}
        onKeyDown={(e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            void take();
          } else if (e.key === "Escape") {
            setDraft(null);
            setFault("");
          }
        }}
      />
      {fault && <span className="mark-late">{fault}</span>}
    </label>
  );
}

export function TimeField({
  label,
  value,
  name,
  onSave,
}: {
  label: string;
  value: number | undefined;
  name?: string;
  onSave: (seconds: number | undefined) => void;
}) {
  const shown = value === undefined ? "" : span(value);
  return (
    <Understood
      as="time"
      label={label}
      name={name}
      shown={shown}
      say={text.errors.duration}
      onSave={onSave}
    />
  );
}

export function DegreesField({
  label,
  value,
  name,
  onSave,
}: {
  label: string;
  value: number | undefined;
  name?: string;
  onSave: (celsius: number | undefined) => void;
}) {
  const shown = value === undefined ? "" : `${value} °C`;
  return (
    <Understood
      as="degrees"
      label={label}
      name={name}
      shown={shown}
      say={text.errors.degrees}
      onSave={onSave}
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
export function Faulty({
  problem,
}: {
  problem: { message: string; faults: { message: string }[]; status: number } | null;
}) {
  if (!problem) return null;
  return (
    <div className="trouble" role="alert">
      {problem.status === 409 && problem.faults.length === 0
        ? problem.message
        : problem.faults.map((f) => f.message).join(". ") ||
          (problem.message === "offline" ? text.errors.offline : problem.message)}
    </div>
  );
}
