import { useState } from "react";
import type { Schemas } from "../api/client";
import { text } from "../text";
import { person, setPerson } from "../ui/who";

// Who asks who works at this screen; changes and ticks carry the name.
export function Who({ people }: { people: Schemas["Person"][] }) {
  const [id, setId] = useState(person);
  return (
    <label className="who">
      <span className="visually-hidden">{text.who.label}</span>
      <select
        className="form-select"
        name="who"
        value={people.some((p) => p.id === id) ? id : ""}
        onChange={(e) => {
          setPerson(e.target.value);
          setId(e.target.value);
        }}
      >
        <option value="">{text.who.nobody}</option>
        {people.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
    </label>
  );
}
