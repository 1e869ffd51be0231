import { useState } from "react";
import { api, settle, type Problem, type Schemas } from "../api/client";
import { text } from "../text";
import { NotSaved, useKept } from "./kept";
import { span, wall } from "./time";

type Meant = Schemas["Understood"];
type As = Schemas["Typed"]["as"];

// understand asks the server what was typed: 1½ h, 90 s, 350F, gas 4, 19.30, 17–23.
export const understand = (as: As, typed: string): Promise<Meant> =>
  settle(api.POST("/api/understand", { body: { as, text: typed } }));

// Understood is a field whose text the server understands. Empty means none, where that may be.
function Understood({
  as,
  label,
  name,
  shown,
  say,
  onSave,
  bare,
}: {
  as: As;
  label: string;
  name?: string;
  shown: string;
  say: string;
  onSave: (meant: Meant | undefined) => void;
  bare?: boolean; // nothing typed is understood too
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
    if (draft.trim() === "" && !bare) {
      keep(draft, () => onSave(undefined));
      return;
    }
    setDeaf(null);
    try {
      const u = await understand(as, draft);
      setFault(u.ok ? "" : say);
      if (u.ok) keep(draft, () => onSave(u));
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
        placeholder={bare ? text.house.off : text.editor.unsaid}
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

interface Field<T> {
  label: string;
  value: T;
  name?: string;
  onSave: (v: T) => void;
}

export function TimeField({ label, value, name, onSave }: Field<number | undefined>) {
  return (
    <Understood
      as="time"
      label={label}
      name={name}
      shown={value === undefined ? "" : span(value)}
      say={text.errors.duration}
      onSave={(u) => onSave(u?.value)}
    />
  );
}

// SecondsField is a short time: a bare number is seconds.
export function SecondsField({ label, value, name, onSave }: Field<number | undefined>) {
  return (
    <Understood
      as="seconds"
      label={label}
      name={name}
      shown={value === undefined ? "" : span(value)}
      say={text.errors.duration}
      onSave={(u) => onSave(u?.value)}
    />
  );
}

export function DegreesField({ label, value, name, onSave }: Field<number | undefined>) {
  return (
    <Understood
      as="degrees"
      label={label}
      name={name}
      shown={value === undefined ? "" : `${value} °C`}
      say={text.errors.degrees}
      onSave={(u) => onSave(u?.value)}
    />
  );
}

// ClockField is a time on the wall, minutes after midnight.
export function ClockField({ label, value, name, onSave }: Field<number>) {
  return (
    <Understood
      as="clock"
      label={label}
      name={name}
      shown={wall(value)}
      say={text.errors.clock}
      onSave={(u) => onSave(u?.value ?? value)}
    />
  );
}

// MaybeClockField is one that need not be said.
export function MaybeClockField({ label, value, name, onSave }: Field<number | undefined>) {
  return (
    <Understood
      as="clock"
      label={label}
      name={name}
      shown={value === undefined ? "" : wall(value)}
      say={text.errors.clock}
      onSave={(u) => onSave(u?.value)}
    />
  );
}

// HoursField is the stretches of one day; nothing typed is a day off.
export function HoursField({ label, value, name, onSave }: Field<Schemas["Stretch"][]>) {
  return (
    <Understood
      bare
      as="hours"
      label={label}
      name={name}
      shown={value.map((h) => `${wall(h.from)}–${wall(h.to % 1440)}`).join(", ")}
      say={text.errors.hours}
      onSave={(u) => onSave(u?.stretches ?? [])}
    />
  );
}
