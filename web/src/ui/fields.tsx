import { useId, useState, type ReactNode } from "react";
import { api, settle, type Problem } from "../api/client";
import { collect } from "../api/outcome";
import { text } from "../text";
import { span } from "./time";

// useKept holds what was typed until it is saved: after a save that failed it stays, with why
// beside it and a press to try again.
function useKept() {
  const [draft, setDraft] = useState<string | null>(null);
  const [failed, setFailed] = useState<Problem | null>(null);
  const [saving, setSaving] = useState(false);
  const keep = (typed: string, begin: () => void) => {
    setSaving(true);
    setFailed(null);
    void collect(begin).then((problem) => {
      setSaving(false);
      if (problem) setFailed(problem);
      else setDraft((d) => (d === typed ? null : d)); // what was typed meanwhile stays
    });
  };
  const drop = () => {
    setDraft(null);
    setFailed(null);
  };
  const type = (v: string) => {
    setDraft(v);
    setFailed(null);
  };
  return { draft, type, keep, drop, failed, saving };
}

// NotSaved stands beside a field whose save failed.
function NotSaved({ problem, onAgain }: { problem: Problem | null; onAgain: () => void }) {
  if (!problem) return null;
  const why =
    problem.status === 409
      ? text.errors.changedMeanwhile
      : problem.message === "offline"
        ? text.errors.offline
        : problem.faults.map((f) => f.message).join(". ") || problem.message;
  return (
    <span className="not-saved" role="alert">
      {text.errors.notSaved} {why}
      <button type="button" onMouseDown={(e) => e.preventDefault()} onClick={onAgain}>
        {text.errors.onceMore}
      </button>
    </span>
  );
}

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
  const { draft, type, keep, drop, failed, saving } = useKept();
  const [fault, setFault] = useState("");
  const [deaf, setDeaf] = useState<Problem | null>(null); // nobody could be asked what it means
  const take = async (again = false) => {
    if (draft === null || saving || (failed && !again)) return;
    if (draft.trim() === shown) {
      drop();
      return;
    }
    if (draft.trim() === "") {
      keep(draft, () => onSave(undefined));
      return;
    }
    setDeaf(null);
    try {
      const u = await settle(api.POST("/api/understand", { body: { as, text: draft } }));
      setFault(u.ok ? "" : say);
      if (u.ok) keep(draft, () => onSave(u.value));
    } catch (e) {
      setDeaf(e as Problem);
    }
  };
  return (
    <label className="field">
      {label}
      <input
        className="form-control"
        name={name}
        value={draft ?? shown}
        placeholder={text.editor.unsaid}
        aria-invalid={fault !== "" || failed !== null || deaf !== null}
        aria-busy={saving}
        onFocus={(e) => e.target.select()}
        onChange={(e) => {
          type(e.target.value);
          setFault("");
          setDeaf(null);
        }}
        onBlur={() => void take()}
        onKeyDown={(e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            void take(true);
          } else if (e.key === "Escape") {
            drop();
            setFault("");
            setDeaf(null);
          }
        }}
      />
      {fault && <span className="mark-late">{fault}</span>}
      <NotSaved problem={failed ?? deaf} onAgain={() => void take(true)} />
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
