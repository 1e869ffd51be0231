import { Link } from "react-router";
import { useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Swatch } from "../../ui/Swatch";
import { amountOf } from "./days";
import { OnHand } from "./OnHand";
import { usePrep } from "./usePrep";

// IngredientsPage lists what is needed from the store by section, before trim, and what
// is on hand.
export function IngredientsPage() {
  const house = useHouse();
  const prep = usePrep();
  if (prep.error && !prep.data) return <Failed error={prep.error} retry={() => void prep.refetch()} />;
  if (!house.data || !prep.data) return null;
  const p = prep.data;
  return (
    <article className="sheet">
      <header>
        <h1>{text.prep.ingredients}</h1>
        <div className="variants">
          <a className="btn btn-outline-primary" href="/api/prep/ingredients.csv">
            {text.prep.csv}
          </a>
          <a className="btn btn-outline-primary" href="/api/prep/ingredients.xlsx">
            {text.prep.xlsx}
          </a>
          <Link className="btn btn-outline-primary" to="/prep">
            {text.screens.prep}
          </Link>
        </div>
      </header>
      <OnHand plan={p} />
      <p className="quiet">{text.prep.beforeTrim}</p>
      {house.data.sections.map((s) => {
        const own = p.ingredients.filter((g) => g.section === s.id);
        if (own.length === 0) return null;
        return (
          <section key={s.id} className="card-enamel p-3">
            <h2>
              <Swatch section={s} /> {s.name}
            </h2>
            <table className="plain wide">
              <tbody>
                {own.map((g) => (
                  <tr key={`${g.name} ${g.unit}`}>
                    <td>
                      <b>{g.name}</b>
                    </td>
                    <td className="figure">{amountOf(g.amount, g.unit)}</td>
                    <td className="quiet">
                      {g.trim > 0 && `${text.prep.trimmed} ${amountOf(g.trim, g.unit)}`}
                    </td>
                    <td className="quiet">{g.for.join(", ")}</td>
                    <td>{g.allergens.join(", ")}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
    </article>
  );
}
