import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { useComponents } from "../../../api/queries";
import { text } from "../../../text";
import { Drop } from "../../../ui/Button";
import { Select } from "../../../ui/fields";
import { MaybeClockField } from "../../../ui/understood";

type Service = Schemas["Service"];

const wayOf = (w: Schemas["Way"], person: string) => {
  if (w.heat_c !== undefined) return text.services.wayHeat(w.step ?? "", w.heat_c);
  if (person) return text.services.wayPerson(w.step ?? "", person);
  if (w.ahead) return text.services.wayAhead(w.step ?? "");
  return text.services.wayStretch;
};

// Agreed is what was agreed for this service alone: who helps where, and which tables have
// a batch together.
export function Agreed({
  s,
  house,
  onSave,
}: {
  s: Service;
  house: Schemas["House"];
  onSave: (s: Service) => void;
}) {
  const [person, setPerson] = useState("");
  const components = useComponents();
  const helpers = s.helpers ?? [];
  const shared = s.shared ?? [];
  const ways = s.ways ?? [];
  const set = (i: number, h: Schemas["Helper"]) =>
    onSave({ ...s, helpers: helpers.map((x, k) => (k === i ? h : x)) });
  return (
    <>
      <h3>{text.services.agreed}</h3>
      <div className="fields agreed">
        {helpers.map((h, i) => (
          <span className="menu-line" key={`${h.person} ${h.section}`}>
            <span>
              <b>{house.people.find((p) => p.id === h.person)?.name ?? h.person}</b> {text.services.helpsAt}{" "}
              <b>{house.sections.find((x) => x.id === h.section)?.name ?? h.section}</b>
            </span>
            <MaybeClockField
              label={text.work.from}
              value={h.from}
              onSave={(from) => set(i, { ...h, from })}
            />
            <MaybeClockField label={text.work.to} value={h.to} onSave={(to) => set(i, { ...h, to })} />
            <Drop onClick={() => onSave({ ...s, helpers: helpers.filter((_, k) => k !== i) })} />
          </span>
        ))}
        {shared.map((x, i) => (
          <span className="menu-line" key={`${x.component} ${x.tables.join()}`}>
            <span>
              <b>{components.data?.find((c) => c.id === x.component)?.name ?? x.component}</b>{" "}
              {text.services.inOneBatch}{" "}
              {x.tables.map((id) => s.tables.find((t) => t.id === id)?.name ?? id).join(", ")}
            </span>
            <Drop onClick={() => onSave({ ...s, shared: shared.filter((_, k) => k !== i) })} />
          </span>
        ))}
        {ways.map((w, i) => (
          <span className="menu-line" key={`${w.component} ${w.step} ${w.person} ${w.heat_c}`}>
            <span>
              <b>{components.data?.find((c) => c.id === w.component)?.name ?? w.component}</b>{" "}
              {wayOf(w, house.people.find((p) => p.id === w.person)?.name ?? w.person ?? "")}
            </span>
            <Drop onClick={() => onSave({ ...s, ways: ways.filter((_, k) => k !== i) })} />
          </span>
        ))}
        <Select
          label={text.services.helper}
          value={person}
          options={[["", text.makings.choose] as const, ...house.people.map((p) => [p.id, p.name] as const)]}
          onSave={setPerson}
        />
        {person !== "" && (
          <Select
            label={text.services.helpsAt}
            value=""
            options={[
              ["", text.makings.choose] as const,
              ...house.sections
                .filter((x) => !house.people.find((p) => p.id === person)?.sections.includes(x.id))
                .map((x) => [x.id, x.name] as const),
            ]}
            onSave={(section) => {
              if (!section) return;
              setPerson("");
              onSave({ ...s, helpers: [...helpers, { person, section }] });
            }}
          />
        )}
      </div>
    </>
  );
}
