import { Link, useSearchParams } from "react-router";
import { useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Swatch } from "../../ui/Swatch";
import { amountOf, dateOf, dayName } from "./days";
import { usePrep } from "./usePrep";

// LabelsPage is a print sheet with a label for every batch.
export function LabelsPage() {
  const [params] = useSearchParams();
  const only = params.get("section");
  const house = useHouse();
  const prep = usePrep();
  if (prep.error && !prep.data) return <Failed error={prep.error} retry={() => void prep.refetch()} />;
  if (!house.data || !prep.data) return null;
  const say = (t: string) => `${dayName(dateOf(t))}, ${t.slice(11, 16)}`;
  return (
    <article className="labels-page">
      <header>
        <h1>{text.prep.labels}</h1>
        <div className="variants">
          <Button look="primary" onClick={() => window.print()}>
            {text.prep.print}
          </Button>
          <Link className="btn btn-outline-primary" to="/prep">
            {text.screens.prep}
          </Link>
        </div>
      </header>
      <ul className="labels">
        {prep.data.jobs
          .filter((j) => !only || j.section === only)
          .map((j) => {
            const section = house.data.sections.find((s) => s.id === j.section);
            return (
              <li key={j.id}>
                <b>{j.name}</b>
                <span>
                  {amountOf(j.amount, j.unit)} · {j.container}
                </span>
                <span>
                  {text.prep.madeOn} {say(j.ready_at)}
                </span>
                <span>
                  <strong>
                    {text.prep.useBy} {j.use_by ? say(j.use_by) : text.prep.notSaid}
                  </strong>
                </span>
                {j.kept && (
                  <span>
                    {text.work.kept} {j.kept}
                  </span>
                )}
                <span>
                  {j.allergens.join(", ")}
                  {j.unknown_recipes.length > 0 && (
                    <strong>
                      {" "}
                      ▲ {text.dish.notKnown} ({j.unknown_recipes.join("; ")})
                    </strong>
                  )}
                  {j.allergens.length + j.unknown_recipes.length === 0 && text.dish.noAllergens}
                </span>
                <span>
                  <Swatch section={section} /> {section?.name}
                </span>
              </li>
            );
          })}
      </ul>
    </article>
  );
}
