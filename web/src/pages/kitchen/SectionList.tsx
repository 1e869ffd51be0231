import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Check, Select, TextField } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { pairs, PartsList } from "./PartsList";
import type { House, Part } from "./useParts";

// SectionList is how the kitchen is divided.
export function SectionList({ h, part }: { h: House; part: Part<Schemas["Section"]> }) {
  return (
    <PartsList
      title={text.house.sections}
      add={text.house.addSection}
      onAdd={() => part.add(text.house.newSection)}
      items={h.sections.map((s) => ({
        id: s.id,
        title: (
          <>
            <Swatch section={s} /> <b>{s.name}</b>{" "}
            {s.pass && <span className="quiet">{text.house.isPass}</span>}
          </>
        ),
        body: (
          <div className="fields">
            <TextField
              wide
              label={text.makings.name}
              value={s.name}
              onSave={(name) => part.change({ ...s, name })}
            />
            <Select
              label={text.house.hue}
              value={s.hue}
              options={pairs(h.choices.hues as Schemas["Section"]["hue"][])}
              onSave={(hue) => part.change({ ...s, hue })}
            />
            <Select
              label={text.house.pattern}
              value={s.pattern}
              options={pairs(h.choices.patterns as Schemas["Section"]["pattern"][])}
              onSave={(pattern) => part.change({ ...s, pattern })}
            />
            <Check label={text.house.pass} on={s.pass} onChange={(pass) => part.change({ ...s, pass })} />
          </div>
        ),
        onRemove: () => part.remove(s.id),
      }))}
    />
  );
}
