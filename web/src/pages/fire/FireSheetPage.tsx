import { useQuery } from "@tanstack/react-query";
import { Link, Navigate, useSearchParams } from "react-router";
import { api, settle } from "../../api/client";
import { keys } from "../../api/keys";
import { useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { clock } from "../../ui/time";
import { useServices } from "../prep/usePrep";
import { linesOf, SheetLine } from "./SheetLine";
import { usePrinted } from "./PlanLine";
import { Slip } from "./Slip";

// FireSheetPage is what a section, or a person, does by the clock, for the tablet and for print.
export function FireSheetPage() {
  const house = useHouse();
  const [params, setParams] = useSearchParams();
  const services = useServices();
  const id = params.get("service") ?? services.data?.find((x) => !x.over)?.service.id ?? "";
  const person = params.get("person") ?? "";
  const plan = useQuery({
    queryKey: keys.fire(id, ""),
    queryFn: () => settle(api.GET("/api/fire/{id}", { params: { path: { id } } })),
    enabled: id !== "",
  });
  usePrinted(id, plan.data?.number);
  const p = plan.data;
  const sections = (house.data?.sections ?? []).filter((s) => p?.fires.some((f) => f.section === s.id));
  const chosen = params.get("section") ?? sections[0]?.id ?? "";
  const sheet = useQuery({
    queryKey: keys.sheet(id, p?.number ?? 0, chosen, person),
    queryFn: () =>
      settle(
        api.GET("/api/fire/{id}/sheet", {
          params: { path: { id }, query: person ? { person } : { section: chosen } },
        }),
      ),
    enabled: p !== undefined,
    placeholderData: (old) => old,
  });
  // Without a service there is no sheet; the page of the evening says what is to be done about that.
  if (services.data && !id) return <Navigate to="/fire" replace />;
  const error = services.error ?? plan.error ?? sheet.error;
  if (error && !sheet.data)
    return (
      <Failed
        error={error}
        retry={() =>
          void services
            .refetch()
            .then(() => plan.refetch())
            .then(() => sheet.refetch())
        }
      />
    );
  if (!house.data || !p || !sheet.data) return null;
  const people = [...new Set(p.hands.flatMap((h) => h.people))];
  const lines = linesOf(sheet.data);
  return (
    <article className="sheet">
      <header>
        <h1>
          {person || sections.find((s) => s.id === chosen)?.name}, {p.name}
          <small className="quiet">
            {" "}
            {text.fire.sheet}, {text.fire.plan} {p.number}, {text.fire.since} {clock(p.made_at)}
          </small>
        </h1>
        <div className="variants">
          {sections.map((s) => (
            <Button
              key={s.id}
              look={s.id === chosen && !person ? "primary" : "outline-primary"}
              aria-pressed={s.id === chosen && !person}
              onClick={() => setParams({ service: id, section: s.id }, { replace: true })}
            >
              <Swatch section={s} /> {s.name}
            </Button>
          ))}
          <Select
            label={text.work.sheetOf}
            value={person}
            options={[["", text.work.everybody] as const, ...people.map((n) => [n, n] as const)]}
            onSave={(who) =>
              setParams(who ? { service: id, person: who } : { service: id, section: chosen }, {
                replace: true,
              })
            }
          />
          <Button onClick={() => window.print()}>{text.prep.print}</Button>
          {!person && <Slip service={id} section={chosen} />}
          <Link className="btn btn-outline-primary" to={`/fire?service=${id}`}>
            {text.screens.fire}
          </Link>
        </div>
      </header>
      <section className="card-enamel">
        {lines.length === 0 && <p className="quiet none">{text.work.nothingToDo}</p>}
        {lines.map((l, i) => (
          <SheetLine key={i} line={l} named={person !== ""} sections={house.data.sections} />
        ))}
      </section>
      {lines.some((l) => l.fire?.apart) && <p className="quiet">{text.fire.apartCaution}</p>}
    </article>
  );
}
