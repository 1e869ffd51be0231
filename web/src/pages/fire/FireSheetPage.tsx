import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { checkWords } from "../../ui/checks";
import { Swatch } from "../../ui/Swatch";
import { clock, span } from "../../ui/time";
import { usePrinted } from "./PlanLine";

// FireSheetPage is a section's firing by the clock, for the tablet and for print.
export function FireSheetPage() {
  const house = useHouse();
  const [params, setParams] = useSearchParams();
  const id = params.get("service") ?? "";
  const plan = useQuery({
    queryKey: keys.fire(id, ""),
    queryFn: () => settle(api.GET("/api/fire/{id}", { params: { path: { id } } })),
  });
  usePrinted(id, plan.data?.number);
  if (plan.error && !plan.data) return <Failed error={plan.error} retry={() => void plan.refetch()} />;
  if (!house.data || !plan.data) return null;
  const p = plan.data;
  const sections = house.data.sections.filter((s) => p.fires.some((f) => f.section === s.id));
  const chosen = params.get("section") ?? sections[0]?.id ?? "";
  return (
    <article className="sheet">
      <header>
        <h1>
          {text.fire.sheet}, {sections.find((s) => s.id === chosen)?.name}, {p.name}
          <small className="quiet">
            {" "}
            {text.fire.plan} {p.number}, {text.fire.since} {clock(p.made_at)}
          </small>
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
        {linesOf(p, chosen).map((l, i) =>
          l.set ? (
            <div className="sheet-line heat" key={i}>
              <span className="when figure">{clock(l.at)}</span>
              <span className="what">
                <b>
                  {l.set.name}: {l.set.from_c}° → {l.set.c}°
                </b>
                <span>
                  {text.fire.thereBy} {clock(l.set.by)}, {l.set.what}
                </span>
              </span>
              <span className="quiet" />
              <span className="quiet">{text.fire.turn}</span>
            </div>
          ) : (
            <div className="sheet-line" key={i}>
              <span className="when figure">{clock(l.at)}</span>
              <span className="what">
                <b>
                  {l.fire.act}: {l.fire.count} × {l.fire.what}
                  {l.fire.of > 1 && <span className="quiet">{` ${l.fire.batch}/${l.fire.of}`}</span>}
                </b>
                <span>
                  {l.fire.table}, {text.courses[l.fire.course as keyof typeof text.courses]}
                  {l.fire.preheat_s > 0 &&
                    `, ${text.fire.panOn} ${span(l.fire.preheat_s)} ${text.fire.before}`}
                  {l.fire.apart && <b className="mark-late">{` ▲ ${text.fire.ownPan}`}</b>}
                </span>
                <span className="quiet">{takesOf(l.fire)}</span>
              </span>
              <span className="hands">
                {l.fire.people.join(", ")}
                {l.fire.hands !== "none" && <small className="quiet">{text.editor[l.fire.hands]}</small>}
              </span>
              <span className="quiet">
                {l.fire.may_s > 0 ? `${text.fire.may} ${span(l.fire.may_s)}` : text.fire.onTheDot}
              </span>
            </div>
          ),
        )}
      </section>
      {p.fires.some((f) => f.section === chosen && f.apart) && (
        <p className="quiet">{text.fire.apartCaution}</p>
      )}
    </article>
  );
}

// takesOf is where it goes, how hot that is, when it comes off, and how one sees that.
const takesOf = (f: Schemas["Fire"]) =>
  [
    [
      ...f.on.map((on) => (f.c === undefined ? on : `${on} ${f.c}°`)),
      `${text.fire.until} ${clock(f.off_at)}`,
    ].join(", "),
    ...(f.checks.length > 0 ? [`${text.fire.doneWhen} ${f.checks.map(checkWords).join(", ")}`] : []),
  ].join(" · ");

type Line = { at: string } & (
  { set: Schemas["HeatSetting"]; fire?: undefined } | { fire: Schemas["Fire"]; set?: undefined }
);

// linesOf are a section's firings and the turns of its thermostats, by the clock.
function linesOf(plan: Schemas["FireView"], section: string): Line[] {
  const fires = plan.fires.filter((f) => f.section === section).map((fire): Line => ({ at: fire.at, fire }));
  const sets = plan.sets.filter((s) => s.section === section).map((set): Line => ({ at: set.at, set }));
  return [...fires, ...sets].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
}
