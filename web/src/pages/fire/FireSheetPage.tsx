import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { api, settle } from "../../api/client";
import { useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Swatch } from "../../ui/Swatch";
import { clock, span } from "../../ui/time";

// FireSheetPage is a section's firing by the clock, for the tablet and for print.
export function FireSheetPage() {
  const house = useHouse();
  const [params, setParams] = useSearchParams();
  const id = params.get("service") ?? "";
  const plan = useQuery({
    queryKey: ["fire", id, ""],
    queryFn: () => settle(api.GET("/api/fire/{id}", { params: { path: { id } } })),
  });
  if (plan.error) return <Failed error={plan.error} retry={() => void plan.refetch()} />;
  if (!house.data || !plan.data) return null;
  const p = plan.data;
  const sections = house.data.sections.filter((s) => p.fires.some((f) => f.section === s.id));
  const chosen = params.get("section") ?? sections[0]?.id ?? "";
  return (
    <article className="sheet">
      <header>
        <h1>
          {text.fire.sheet}, {p.name}
        </h1>
        <div className="variants">
          {sections.map((s) => (
            <Button
              key={s.id}
              look={s.id === chosen ? "primary" : "outline-primary"}
              aria-pressed={s.id === chosen}
              onClick={() => setParams({ service: id, section: s.id }, { replace: true })}
            >
              <Swatch section={s} /> {s.name}
            </Button>
          ))}
          <Button onClick={() => window.print()}>{text.prep.print}</Button>
          <Link className="btn btn-outline-primary" to={`/fire?service=${id}`}>
            {text.screens.fire}
          </Link>
        </div>
      </header>
      <section className="card-enamel">
        {p.fires
          .filter((f) => f.section === chosen)
          .map((f, i) => (
            <div className="sheet-line" key={i}>
              <span className="when figure">{clock(f.at)}</span>
              <span className="what">
                <b>
                  {f.count} × {f.what}
                </b>
                <span>
                  {f.table}, {text.courses[f.course as keyof typeof text.courses]}
                </span>
              </span>
              <span className="quiet">{f.people.join(", ")}</span>
              <span className="quiet">
                {f.may_s > 0 ? `${text.fire.may} ${span(f.may_s)}` : text.fire.onTheDot}
              </span>
            </div>
          ))}
      </section>
    </article>
  );
}
