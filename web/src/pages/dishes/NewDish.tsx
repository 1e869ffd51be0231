import { useState } from "react";
import { useNavigate } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { whyOf } from "../../api/problem";
import { useSave } from "../../api/useSave";
import { text } from "../../text";
import { Button } from "../../ui/Button";

const courses = ["first", "second", "main", "dessert"] as const;

// NewDish asks for a name and a course, and opens the empty plate.
export function NewDish() {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [course, setCourse] = useState<Schemas["NewDish"]["course"]>("main");
  const { save, problem } = useSave([keys.dishes]);
  const go = useNavigate();
  const create = async () => {
    const made = await save(() => settle(api.POST("/api/dishes", { body: { name, course } })));
    if (!made) return;
    setOpen(false);
    setName("");
    await go(`/dishes/${made.dish.id}`);
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
      {problem && <span className="mark-late">{whyOf(problem)}</span>}
      <Button look="primary" type="submit">
        {text.newDish.create}
      </Button>
    </form>
  );
}
