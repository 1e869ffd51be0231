import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";

const courses = ["first", "second", "main", "dessert"] as const;

// NewDish asks for a name and a course, and opens the empty plate.
export function NewDish() {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [course, setCourse] = useState<Schemas["NewDish"]["course"]>("main");
  const [fault, setFault] = useState("");
  const queries = useQueryClient();
  const go = useNavigate();
  const create = async () => {
    try {
      const made = await settle(api.POST("/api/dishes", { body: { name, course } }));
      setOpen(false);
      setName("");
      await queries.invalidateQueries({ queryKey: ["dishes"] });
      await go(`/dishes/${made.dish.id}`);
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setFault(e.faults.map((f) => f.message).join(". ") || e.message);
    }
  };
  if (!open)
    return (
      <div className="new-dish">
        <Button onClick={() => setOpen(true)}>{text.newDish.open}</Button>
      </div>
    );
  return (
    <form
      className="new-dish"
      onSubmit={(e) => {
        e.preventDefault();
        void create();
      }}
    >
      <label>
        {text.newDish.name}
        <input
          className="form-control"
          name="dish-name"
          autoFocus
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <select
        className="form-select"
        aria-label={text.newDish.course}
        value={course}
        onChange={(e) => setCourse(e.target.value as typeof course)}
      >
        {courses.map((c) => (
          <option key={c} value={c}>
            {text.courses[c]}
          </option>
        ))}
      </select>
      {fault && <span className="mark-late">{fault}</span>}
      <Button look="primary" type="submit">
        {text.newDish.create}
      </Button>
    </form>
  );
}
