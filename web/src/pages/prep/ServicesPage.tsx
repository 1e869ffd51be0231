import { Link, useSearchParams } from "react-router";
import { api, settle } from "../../api/client";
import { keys } from "../../api/keys";
import { useDishes, useHouse } from "../../api/queries";
import { useSave } from "../../api/useSave";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { dayName } from "./days";
import { ServiceEditor } from "./services/ServiceEditor";
import { editTables, saveService, usePrep, useServices } from "./usePrep";

// ServicesPage is what is going to be served: each service with its menu, shares, tables
// and guests' needs.
export function ServicesPage() {
  const services = useServices();
  const house = useHouse();
  const dishes = useDishes();
  const prep = usePrep();
  const { save: send, problem } = useSave([keys.services, keys.prep, keys.house, keys.fire(), keys.day]);
  const [params, setParams] = useSearchParams();
  const open = params.get("open") ?? "";
  const setOpen = (id: string) => setParams(id ? { open: id } : {}, { replace: true });
  if (services.error && !services.data)
    return <Failed error={services.error} retry={() => void services.refetch()} />;
  if (!services.data || !house.data || !dishes.data) return null;
  if (house.data.empty) return <Empty />;
  const menu = dishes.data.filter((d) => d.state === "current");
  const add = (copy?: string, of = "") =>
    void send(() =>
      settle(
        api.POST("/api/services", {
          body: { name: copy ? `${of} ${text.services.copied}` : text.services.fresh, copy },
        }),
      ),
    );
  return (
    <article className="sheet">
      <header>
        <h1>{text.prep.services}</h1>
        <div className="variants">
          <Button onClick={() => add()}>{text.services.add}</Button>
          <Link className="btn btn-outline-primary" to="/meal">
            {text.meal.title}
          </Link>
          <Link className="btn btn-outline-primary" to="/prep">
            {text.screens.prep}
          </Link>
        </div>
      </header>
      <Faulty problem={problem} />
      {prep.data?.said.key && (
        <p className="said-line" aria-live="polite">
          {prep.data.said.text}
        </p>
      )}
      {services.data.length === 0 && <p className="quiet">{text.services.none}</p>}
      {services.data.map((line) => {
        const { service: s, version, covers, over } = line;
        return (
          <section key={s.id} className="card-enamel service" data-service={s.id}>
            <button
              type="button"
              className="opens"
              aria-expanded={open === s.id}
              onClick={() => setOpen(open === s.id ? "" : s.id)}
            >
              <span>
                <b>{s.name}</b>{" "}
                <span className="quiet">
                  {dayName(s.date)}, {covers} {text.services.coversOf}, {s.tables.length}{" "}
                  {s.tables.length === 1 ? text.services.table : text.services.tables}
                  {over && `, ${text.services.over}`}
                </span>
              </span>
              <span className="quiet">{open === s.id ? text.editor.close : text.house.change}</span>
            </button>
            {open === s.id && (
              <ServiceEditor
                s={s}
                dishes={menu}
                house={house.data}
                onSave={(v) => void send(() => saveService(line, v))}
                onTables={(edit) => void send(() => editTables(line, edit))}
                onCopy={() => add(s.id, s.name)}
                onRemove={() =>
                  void send(() =>
                    settle(
                      api.DELETE("/api/services/{id}", {
                        params: { path: { id: s.id }, query: { version } },
                      }),
                    ),
                  )
                }
              />
            )}
          </section>
        );
      })}
    </article>
  );
}
