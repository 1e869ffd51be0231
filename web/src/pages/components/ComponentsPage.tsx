import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useComponents, useHouse } from "../../api/queries";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { NewComponent } from "../dishes/NewComponent";

// ComponentsPage lists all components by section, and finds one by name or by dish.
export function ComponentsPage() {
  const components = useComponents();
  const house = useHouse();
  const go = useNavigate();
  const [sought, setSought] = useState("");
  const [archived, setArchived] = useState(false);
  const [making, setMaking] = useState(false);
  if (components.error && !components.data)
    return <Failed error={components.error} retry={() => void components.refetch()} />;
  if (!components.data || !house.data) return null;
  if (house.data.empty) return <Empty />;
  const word = sought.trim().toLowerCase();
  const list = components.data.filter(
    (c) =>
      c.archived === archived &&
      (c.name.toLowerCase().includes(word) || c.dishes.some((d) => d.toLowerCase().includes(word))),
  );
  return (
    <article className="component-page">
      <header>
        <h1>{text.component.all}</h1>
        <div className="variants">
          <input
            className="form-control"
            type="search"
            autoFocus
            style={{ width: 240 }}
            placeholder={text.component.seek}
            aria-label={text.component.seek}
            value={sought}
            onChange={(e) => setSought(e.target.value)}
          />
          <Check label={text.component.archivedOnes} on={archived} onChange={setArchived} />
          <Link className="btn btn-outline-primary" to="/components/read">
            {text.recipe.read}
          </Link>
          <Button onClick={() => setMaking(!making)}>{text.newDish.componentName}</Button>
        </div>
      </header>
      {making && (
        <NewComponent
          sections={house.data.sections}
          onMade={(c) => void go(`/components/${c.id}`)}
          word={text.newDish.create}
        />
      )}
      {list.length === 0 && <p className="quiet">{text.component.noneFound}</p>}
      <div className="by-section">
        {house.data.sections.map((s) => {
          const own = list.filter((c) => c.section === s.id);
          return own.length === 0 ? null : (
            <section key={s.id} className="card-enamel">
              <h2>
                <Swatch section={s} /> {s.name}
              </h2>
              {own.map((c) => (
                <Link key={c.id} to={`/components/${c.id}`}>
                  {c.name}
                  <span className="quiet">
                    {c.steps} {c.steps === 1 ? text.component.step : text.component.steps}
                  </span>
                </Link>
              ))}
            </section>
          );
        })}
      </div>
    </article>
  );
}
