import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { useComponents, useDishes, useHouse } from "../../api/queries";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Chips, Faulty, NumberField, Select, TextField } from "../../ui/fields";
import { clockField } from "../kitchen/clockField";
import { dayName } from "./days";
import { saveService, usePrep, useServices } from "./usePrep";

type Service = Schemas["Service"];
type Table = Schemas["ServiceTable"];

const nextDay = (date: string, days: number) =>
  new Date(Date.parse(`${date}T12:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

// ServicesPage is what is going to be served: each service with its menu, shares, tables
// and guests' needs.
export function ServicesPage() {
  const services = useServices();
  const house = useHouse();
  const dishes = useDishes();
  const prep = usePrep();
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [params, setParams] = useSearchParams();
  const open = params.get("open") ?? "";
  const setOpen = (id: string) => setParams(id ? { open: id } : {}, { replace: true });
  if (services.error && !services.data)
    return <Failed error={services.error} retry={() => void services.refetch()} />;
  if (!services.data || !house.data || !dishes.data) return null;
  if (house.data.empty) return <Empty />;
  const menu = dishes.data.filter((d) => d.state === "current");
  const run = async (call: () => Promise<unknown>) => {
    try {
      await call();
      setProblem(null);
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setProblem(e);
    }
    await Promise.all(
      ["services", "prep", "house", "fire"].map((k) => queries.invalidateQueries({ queryKey: [k] })),
    );
  };
  const save = (version: number, value: Service) =>
    void run(() => {
      const shown = services.data.find((x) => x.service.id === value.id);
      if (version > 0 && shown) return saveService(shown, value);
      return settle(
        api.PUT("/api/services/{id}", { params: { path: { id: "new" } }, body: { version: 0, value } }),
      );
    });
  const today = house.data.day.from.slice(0, 10);
  const fresh = (): Service => ({
    id: "",
    name: text.services.fresh,
    date: today,
    kind: "a-la-carte",
    pacing: "timed",
    first_after_min: 20,
    course_min: 25,
    reserve_percent: 5,
    margin: 30,
    menu: menu.map((d) => ({
      dish: d.id,
      share_percent: Math.floor(100 / menu.filter((x) => x.course === d.course).length),
    })),
    tables: [{ id: "table-1", name: "Table 1", covers: 2, seated_at: 18 * 60 + 30, needs: [], orders: [] }],
  });
  return (
    <article className="sheet">
      <header>
        <h1>{text.prep.services}</h1>
        <div className="variants">
          <Button onClick={() => save(0, fresh())}>{text.services.add}</Button>
          <Link className="btn btn-outline-primary" to="/prep">
            {text.screens.prep}
          </Link>
        </div>
      </header>
      <Faulty problem={problem} />
      {prep.data?.said && (
        <p className="said-line" aria-live="polite">
          {prep.data.said}
        </p>
      )}
      {services.data.length === 0 && <p className="quiet">{text.services.none}</p>}
      {services.data.map(({ service: s, version, covers, over }) => (
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
            <Editor
              s={s}
              dishes={menu}
              house={house.data}
              onSave={(v) => save(version, v)}
              onCopy={() =>
                save(0, { ...s, name: `${s.name} ${text.services.copied}`, date: nextDay(s.date, 7) })
              }
              onRemove={() =>
                void run(() =>
                  settle(
                    api.DELETE("/api/services/{id}", { params: { path: { id: s.id }, query: { version } } }),
                  ),
                )
              }
            />
          )}
        </section>
      ))}
    </article>
  );
}

function Editor({
  s,
  dishes,
  house,
  onSave,
  onCopy,
  onRemove,
}: {
  s: Service;
  dishes: Schemas["DishLine"][];
  house: Schemas["House"];
  onSave: (s: Service) => void;
  onCopy: () => void;
  onRemove: () => void;
}) {
  const [needs, setNeeds] = useState("");
  const setTable = (t: Table) => onSave({ ...s, tables: s.tables.map((x) => (x.id === t.id ? t : x)) });
  const free = dishes.filter((d) => !s.menu.some((m) => m.dish === d.id));
  const number = s.tables.length + 1;
  return (
    <div className="inside">
      <div className="fields">
        <TextField wide label={text.makings.name} value={s.name} onSave={(name) => onSave({ ...s, name })} />
        <TextField
          label={text.services.date}
          value={s.date}
          check={(v) => (/^\d{4}-\d{2}-\d{2}$/.test(v) ? "" : text.services.dateLike)}
          onSave={(date) => onSave({ ...s, date })}
        />
        <Select
          label={text.house.kind}
          value={s.kind}
          options={
            [
              ["a-la-carte", text.services.aLaCarte],
              ["banquet", text.services.banquet],
            ] as const
          }
          onSave={(kind) => onSave({ ...s, kind })}
        />
        <Select
          label={text.services.pacing}
          value={s.pacing}
          options={
            [
              ["timed", text.services.timed],
              ["called", text.services.called],
            ] as const
          }
          onSave={(pacing) => onSave({ ...s, pacing })}
        />
        <NumberField
          label={text.services.firstAfter}
          value={s.first_after_min}
          onSave={(v) => onSave({ ...s, first_after_min: Math.round(v) })}
        />
        <NumberField
          label={text.services.courseMin}
          value={s.course_min}
          onSave={(v) => onSave({ ...s, course_min: Math.round(v) })}
        />
        <NumberField
          label={text.services.reserve}
          value={s.reserve_percent}
          onSave={(v) => onSave({ ...s, reserve_percent: v })}
        />
        <NumberField
          label={text.services.platingHands}
          value={s.plating_hands ?? 0}
          onSave={(v) => onSave({ ...s, plating_hands: Math.round(v) })}
        />
      </div>
      <Agreed s={s} house={house} onSave={onSave} />
      <h3>{text.services.menu}</h3>
      <div className="fields">
        {s.menu.map((m) => (
          <span className="menu-line" key={m.dish}>
            <NumberField
              label={dishes.find((d) => d.id === m.dish)?.name ?? m.dish}
              value={m.share_percent}
              onSave={(v) =>
                onSave({
                  ...s,
                  menu: s.menu.map((x) => (x.dish === m.dish ? { ...x, share_percent: v } : x)),
                })
              }
            />
            <Button
              look="outline-danger"
              onClick={() => onSave({ ...s, menu: s.menu.filter((x) => x.dish !== m.dish) })}
            >
              {text.chain.drop}
            </Button>
          </span>
        ))}
        {free.length > 0 && (
          <Select
            label={text.services.addDish}
            value=""
            options={[["", text.makings.choose] as const, ...free.map((d) => [d.id, d.name] as const)]}
            onSave={(dish) => dish && onSave({ ...s, menu: [...s.menu, { dish, share_percent: 0 }] })}
          />
        )}
      </div>
      <h3>{text.services.tablesTitle}</h3>
      {s.tables.map((t) => (
        <div key={t.id} className="table-line" data-table={t.id}>
          <div className="fields">
            <TextField label={text.makings.name} value={t.name} onSave={(name) => setTable({ ...t, name })} />
            <NumberField
              label={text.services.covers}
              value={t.covers}
              onSave={(v) => setTable({ ...t, covers: Math.round(v) })}
            />
            <TextField
              label={text.services.seated}
              value={clockField.shown(t.seated_at)}
              check={(v) => (clockField.read(v) === null ? text.errors.clock : "")}
              onSave={(v) => setTable({ ...t, seated_at: clockField.read(v) ?? 0 })}
            />
            <Button aria-expanded={needs === t.id} onClick={() => setNeeds(needs === t.id ? "" : t.id)}>
              {t.needs.length > 0
                ? t.needs
                    .map(
                      (n) =>
                        `${n.guests} ${(n.without ?? []).map((a) => `${text.services.no} ${a}`).join(", ")}${n.doneness ? ` ${n.doneness}` : ""}`,
                    )
                    .join("; ")
                : text.services.needs}
            </Button>
            <Button
              look="outline-danger"
              onClick={() =>
                onSave({
                  ...s,
                  tables: s.tables.filter((x) => x.id !== t.id),
                  shared: s.shared
                    ?.map((x) => ({ ...x, tables: x.tables.filter((id) => id !== t.id) }))
                    .filter((x) => x.tables.length > 1),
                })
              }
            >
              {text.chain.drop}
            </Button>
          </div>
          {needs === t.id && (
            <div className="needs">
              {t.needs.map((n, i) => {
                const set = (v: typeof n) =>
                  setTable({ ...t, needs: t.needs.map((x, k) => (k === i ? v : x)) });
                return (
                  <div key={i} className="fields">
                    <NumberField
                      label={text.services.guests}
                      value={n.guests}
                      onSave={(v) => set({ ...n, guests: Math.round(v) })}
                    />
                    <TextField
                      label={text.services.doneness}
                      value={n.doneness ?? ""}
                      onSave={(v) => set({ ...n, doneness: v || undefined })}
                    />
                    <Chips
                      label={text.variants.without}
                      all={house.allergens}
                      chosen={n.without ?? []}
                      onChange={(without) => set({ ...n, without })}
                    />
                  </div>
                );
              })}
              <Button onClick={() => setTable({ ...t, needs: [...t.needs, { guests: 1, without: [] }] })}>
                {text.services.addNeed}
              </Button>
            </div>
          )}
        </div>
      ))}
      <div className="variants">
        <Button
          onClick={() =>
            onSave({
              ...s,
              tables: [
                ...s.tables,
                {
                  id: `table-${Date.now() % 1_000_000}`,
                  name: `Table ${number}`,
                  covers: 2,
                  seated_at: s.tables[s.tables.length - 1]?.seated_at ?? 18 * 60 + 30,
                  needs: [],
                  orders: [],
                },
              ],
            })
          }
        >
          {text.services.addTable}
        </Button>
        <Button onClick={onCopy}>{text.services.copy}</Button>
        <Button look="outline-danger" onClick={onRemove}>
          {text.services.remove}
        </Button>
      </div>
    </div>
  );
}

// Agreed is what was agreed for this service alone: who helps where, and which tables have
// a batch together.
function Agreed({ s, house, onSave }: { s: Service; house: Schemas["House"]; onSave: (s: Service) => void }) {
  const [person, setPerson] = useState("");
  const components = useComponents();
  const helpers = s.helpers ?? [];
  const shared = s.shared ?? [];
  return (
    <>
      <h3>{text.services.agreed}</h3>
      <div className="fields agreed">
        {helpers.map((h, i) => (
          <span className="menu-line" key={`${h.person} ${h.section}`}>
            <span>
              <b>{house.people.find((p) => p.id === h.person)?.name ?? h.person}</b> {text.services.helpsAt}{" "}
              <b>{house.sections.find((x) => x.id === h.section)?.name ?? h.section}</b>
            </span>
            <Button
              look="outline-danger"
              onClick={() => onSave({ ...s, helpers: helpers.filter((_, k) => k !== i) })}
            >
              {text.chain.drop}
            </Button>
          </span>
        ))}
        {shared.map((x, i) => (
          <span className="menu-line" key={`${x.component} ${x.tables.join()}`}>
            <span>
              <b>{components.data?.find((c) => c.id === x.component)?.name ?? x.component}</b>{" "}
              {text.services.inOneBatch}{" "}
              {x.tables.map((id) => s.tables.find((t) => t.id === id)?.name ?? id).join(", ")}
            </span>
            <Button
              look="outline-danger"
              onClick={() => onSave({ ...s, shared: shared.filter((_, k) => k !== i) })}
            >
              {text.chain.drop}
            </Button>
          </span>
        ))}
        <Select
          label={text.services.helper}
          value={person}
          options={[["", text.makings.choose] as const, ...house.people.map((p) => [p.id, p.name] as const)]}
          onSave={setPerson}
        />
        {person !== "" && (
          <Select
            label={text.services.helpsAt}
            value=""
            options={[
              ["", text.makings.choose] as const,
              ...house.sections
                .filter((x) => !house.people.find((p) => p.id === person)?.sections.includes(x.id))
                .map((x) => [x.id, x.name] as const),
            ]}
            onSave={(section) => {
              if (!section) return;
              setPerson("");
              onSave({ ...s, helpers: [...helpers, { person, section }] });
            }}
          />
        )}
      </div>
    </>
  );
}
