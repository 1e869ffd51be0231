import { useState } from "react";
import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Select, TextField } from "../../ui/fields";
import { usePerson } from "../../api/session";
import { degrees, keys, newId, pressed } from "./keypad";

type Reading = Schemas["LogReading"];
export type Wanted = Pick<Reading, "kind" | "what" | "ref" | "subject" | "run" | "corrects">;

// ReadingPanel takes one temperature with wet hands: what, the keypad, one press.
export function ReadingPanel({
  wanted,
  log,
  onWrite,
  onClose,
}: {
  wanted: Wanted;
  log: Schemas["SafetyLog"];
  onWrite: (r: Reading) => Promise<boolean>;
  onClose: () => void;
}) {
  const [shown, setShown] = useState("");
  const [note, setNote] = useState("");
  const [of, setOf] = useState({ ref: wanted.ref ?? "", what: wanted.what });
  const [id] = useState(newId);
  const { kind } = wanted;
  const c = degrees(shown);
  const open = wanted.what === "" && kind !== "probe";
  const choices =
    kind === "core" || kind === "cooling"
      ? log.foods
      : log.equipment.filter((e) => (e.kind === "holding") === (kind === "holding"));
  const who = usePerson() !== "";
  const named = kind === "probe" || of.what !== "";
  const write = (reading?: number) =>
    void onWrite({
      ...wanted,
      ...of,
      ref: of.ref || undefined,
      id,
      c: reading,
      note: note || undefined,
    }).then((kept) => kept && onClose());
  return (
    <section className="card-enamel reading-panel" aria-label={of.what || text.safety.kinds[kind]}>
      <header>
        <h2>
          {of.what || text.safety.kinds[kind]}
          {of.what && <small className="quiet"> {text.safety.kinds[kind]}</small>}
        </h2>
        <Button onClick={onClose}>{text.safety.stop}</Button>
      </header>
      {wanted.corrects !== undefined && <p className="quiet">{text.safety.corrects(wanted.corrects)}</p>}
      {open &&
        (kind === "delivery" ? (
          <TextField
            wide
            label={text.safety.what}
            value={of.what}
            onSave={(what) => setOf({ ref: what, what })}
          />
        ) : (
          <Select
            label={text.safety.what}
            value={of.ref}
            options={[["", text.safety.choose] as const, ...choices.map((x) => [x.id, x.name] as const)]}
            onSave={(ref) => setOf({ ref, what: choices.find((x) => x.id === ref)?.name ?? "" })}
          />
        ))}
      <output className="degrees" aria-live="polite">
        {shown || "–"} <small>°C</small>
      </output>
      <div className="keypad">
        {keys.map((k) => (
          <button
            key={k}
            type="button"
            aria-label={k === "−" ? text.safety.minus : k === "." ? text.safety.point : k}
            onClick={() => setShown(pressed(shown, k))}
          >
            {k}
          </button>
        ))}
        <button type="button" aria-label={text.safety.back} onClick={() => setShown(pressed(shown, "⌫"))}>
          ⌫
        </button>
        <Button look="primary" disabled={c === null || !who || !named} onClick={() => write(c ?? undefined)}>
          {text.safety.write}
        </Button>
      </div>
      {kind === "probe" && (
        <Button disabled={!who} onClick={() => write()}>
          {text.safety.cleanedOnly}
        </Button>
      )}
      <TextField wide label={text.safety.note} value={note} onSave={setNote} />
      {!who && <p className="mark-late">▲ {text.safety.whoFirst}</p>}
    </section>
  );
}
