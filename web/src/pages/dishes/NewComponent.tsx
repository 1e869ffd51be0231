import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { whyOf } from "../../api/problem";
import { useSave } from "../../api/useSave";
import { text } from "../../text";
import { LineReadings } from "../components/LineReadings";
import { Button } from "../../ui/Button";

const units = ["g", "ml", "piece", "spoon"] as const;

// NewComponent makes a component from a name and kitchen lines, and puts it on the
// plate.
export function NewComponent({
  sections,
  onMade,
  word = text.newDish.make,
}: {
  sections: Schemas["Section"][];
  word?: string;
  onMade: (c: Schemas["Component"]) => void;
}) {
  const [name, setName] = useState("");
  const [section, setSection] = useState(sections.find((s) => !s.pass)?.id ?? "");
  const [unit, setUnit] = useState<(typeof units)[number]>("g");
  const [lines, setLines] = useState("");
  const [colour, setColour] = useState("#c9b48a");
  const { save, problem } = useSave([keys.components]);
  const asked = useDeferredValue(lines);
  const read = useQuery({
    queryKey: keys.newLines(asked),
    queryFn: () => settle(api.POST("/api/lines", { body: { name, text: asked } })),
    enabled: asked.trim() !== "",
    placeholderData: (old) => old,
    staleTime: Infinity,
  });
  const create = async () => {
    const made = await save(() =>
      settle(api.POST("/api/components", { body: { name, section, unit, text: lines, colour } })),
    );
    if (made) onMade(made.component);
  };
  return (
    <form
      className="new-component"
      onSubmit={(e) => {
        e.preventDefault();
        void create();
      }}
    >
      <input
        className="form-control"
        name="component-name"
        placeholder={text.newDish.componentName}
        aria-label={text.newDish.componentName}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <select
        className="form-select"
        aria-label={text.newDish.section}
        value={section}
        onChange={(e) => setSection(e.target.value)}
      >
        {sections
          .filter((s) => !s.pass)
          .map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
      </select>
      <select
        className="form-select"
        aria-label={text.newDish.unit}
        value={unit}
        onChange={(e) => setUnit(e.target.value as typeof unit)}
      >
        {units.map((u) => (
          <option key={u}>{u}</option>
        ))}
      </select>
      <input
        type="color"
        className="form-control"
        aria-label={text.newDish.colour}
        value={colour}
        onChange={(e) => setColour(e.target.value)}
      />
      <textarea
        className="form-control"
        name="component-lines"
        rows={Math.max(3, lines.split("\n").length + 1)}
        placeholder={text.newDish.lines}
        aria-label={text.component.lines}
        value={lines}
        onChange={(e) => setLines(e.target.value)}
      />
      {read.data && lines.trim() !== "" && (
        <div className="new-readings">
          <LineReadings readings={read.data.readings} typed={lines} onType={setLines} />
        </div>
      )}
      <Button look="primary" type="submit">
        {word}
      </Button>
      {problem && <span className="mark-late">{whyOf(problem)}</span>}
    </form>
  );
}
