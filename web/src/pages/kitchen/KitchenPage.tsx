import { useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { useHouse } from "../../api/queries";
import { savesOf } from "../../api/saves";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Check, DegreesField, Faulty, NumberField, Select, TextField } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { Hours } from "./Hours";
import { clockField } from "./clockField";

type House = Schemas["House"];
type Save = (call: () => Promise<House>) => Promise<boolean>;

const hues = ["blue", "rust", "green", "violet", "gold", "teal", "slate"] as const;
const patterns = ["plain", "rising", "falling", "cross", "dots", "bars", "grid"] as const;
const vesselKinds = ["round", "coupe", "bowl", "oval", "slate", "cup"] as const;
const pairs = <T extends string>(list: readonly T[]) => list.map((x) => [x, x.replace("-", " ")] as const);

// KitchenPage is who and what there is to cook with; everything is edited in place and
// saved at once.
export function KitchenPage() {
  const house = useHouse();
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  if (house.error && !house.data) return <Failed error={house.error} retry={() => void house.refetch()} />;
  if (!house.data) return null;
  if (house.data.empty) return <Empty />;
  const save: Save = async (call) => {
    try {
      queries.setQueryData(["house"], await call());
      setProblem(null);
      return true;
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setProblem(e);
      await queries.invalidateQueries({ queryKey: ["house"] });
      return false;
    } finally {
      await queries.invalidateQueries({
        predicate: (q) => q.queryKey[0] !== "house",
      });
    }
  };
  const h = house.data;
  return (
    <article className="kitchen-page">
      <h1>{h.kitchen.name}</h1>
      <Faulty problem={problem} />
      <Settings h={h} save={save} />
      <Parts h={h} save={save} />
    </article>
  );
}

function Settings({ h, save }: { h: House; save: Save }) {
  const k = h.kitchen;
  const put = (value: Schemas["Kitchen"]) =>
    void save(async () => {
      let house = h;
      await savesOf<Schemas["Kitchen"]>("kitchen/kitchen").save(
        { version: h.versions["kitchen/kitchen"] ?? 0, value: k },
        value,
        async (version, mine) => {
          house = await settle(api.PUT("/api/kitchen", { body: { version, value: mine } }));
          return { version: house.versions["kitchen/kitchen"] ?? 0, value: house.kitchen };
        },
      );
      return house;
    });
  const { shown, read } = clockField;
  return (
    <section className="card-enamel p-3">
      <div className="fields">
        <TextField wide label={text.empty.name} value={k.name} onSave={(name) => put({ ...k, name })} />
        <TextField
          wide
          label={text.house.zone}
          value={k.time_zone}
          onSave={(v) => put({ ...k, time_zone: v })}
        />
        <Select
          label={text.house.code}
          value={k.safety_code}
          options={
            [
              ["uk-eu", text.house.codes["uk-eu"] ?? ""],
              ["us-fda", text.house.codes["us-fda"] ?? ""],
            ] as const
          }
          onSave={(v) => put({ ...k, safety_code: v })}
        />
        {(
          [
            ["day_from", text.house.dayFrom],
            ["service_from", text.house.serviceFrom],
            ["service_to", text.house.serviceTo],
          ] as const
        ).map(([key, label]) => (
          <TextField
            key={key}
            label={label}
            value={shown(k[key])}
            check={(v) => (read(v) === null ? text.errors.clock : "")}
            onSave={(v) => put({ ...k, [key]: read(v) ?? 0 })}
          />
        ))}
        <NumberField
          label={text.house.platers}
          value={k.plating_hands}
          onSave={(v) => put({ ...k, plating_hands: Math.round(v) })}
        />
      </div>
      <p className="quiet mb-0">{text.house.caution}</p>
    </section>
  );
}

// Parts are the four lists: sections, people, equipment, vessels.
function Parts({ h, save }: { h: House; save: Save }) {
  const version = (kind: string, id: string) => h.versions[`${kind}/${id}`] ?? 0;
  // part saves one of a list: a new one at once, a changed one after the saves before it.
  const part =
    <T extends { id: string }>(
      kind: string,
      listOf: (house: House) => T[],
      send: (id: string, version: number, value: T) => Promise<House>,
    ) =>
    (value: T) =>
      void save(async () => {
        const old = listOf(h).find((x) => x.id === value.id);
        if (!old) return send("new", 0, value);
        let house = h;
        await savesOf<T>(`${kind}/${value.id}`).save(
          { version: version(kind, value.id), value: old },
          value,
          async (v, mine) => {
            house = await send(value.id, v, mine);
            return {
              version: house.versions[`${kind}/${value.id}`] ?? 0,
              value: listOf(house).find((x) => x.id === value.id) ?? mine,
            };
          },
        );
        return house;
      });
  const section = part<Schemas["Section"]>(
    "section",
    (x) => x.sections,
    (id, v, value) =>
      settle(api.PUT("/api/sections/{id}", { params: { path: { id } }, body: { version: v, value } })),
  );
  const person = part<Schemas["Person"]>(
    "person",
    (x) => x.people,
    (id, v, value) =>
      settle(api.PUT("/api/people/{id}", { params: { path: { id } }, body: { version: v, value } })),
  );
  const equipment = part<Schemas["Equipment"]>(
    "equipment",
    (x) => x.equipment,
    (id, v, value) =>
      settle(api.PUT("/api/equipment/{id}", { params: { path: { id } }, body: { version: v, value } })),
  );
  const vessel = part<Schemas["Vessel"]>(
    "vessel",
    (x) => x.vessels,
    (id, v, value) =>
      settle(api.PUT("/api/vessels/{id}", { params: { path: { id } }, body: { version: v, value } })),
  );
  const query = (kind: string, id: string) => ({
    params: { path: { id }, query: { version: version(kind, id) } },
  });
  return (
    <>
      <List
        title={text.house.people}
        add={text.house.addPerson}
        onAdd={() =>
          person({
            id: "",
            name: text.house.newPerson,
            sections: [h.sections[0]?.id ?? ""],
            hours: [1, 2, 3, 4, 5, 6, 0].map((day) => ({ day, from: 600, to: 1380 })),
          })
        }
        items={h.people.map((p) => ({
          id: p.id,
          title: (
            <>
              <b>{p.name}</b> <span className="quiet">{p.role}</span>{" "}
              {p.sections.map((s) => (
                <Swatch key={s} section={h.sections.find((x) => x.id === s)} />
              ))}
            </>
          ),
          body: (
            <>
              <div className="fields">
                <TextField
                  wide
                  label={text.makings.name}
                  value={p.name}
                  onSave={(name) => person({ ...p, name })}
                />
                <TextField
                  wide
                  label={text.house.role}
                  value={p.role ?? ""}
                  onSave={(role) => person({ ...p, role })}
                />
                <span className="fields">
                  {h.sections.map((s) => (
                    <Check
                      key={s.id}
                      label={s.name}
                      on={p.sections.includes(s.id)}
                      onChange={(on) =>
                        person({
                          ...p,
                          sections: on ? [...p.sections, s.id] : p.sections.filter((x) => x !== s.id),
                        })
                      }
                    />
                  ))}
                </span>
              </div>
              <TextField
                wide
                name="absent"
                label={text.house.absent}
                value={(p.absent ?? []).join(", ")}
                check={(v) =>
                  v.split(",").every((d) => d.trim() === "" || /^\d{4}-\d{2}-\d{2}$/.test(d.trim()))
                    ? ""
                    : text.services.dateLike
                }
                onSave={(v) =>
                  person({
                    ...p,
                    absent: v
                      .split(",")
                      .map((d) => d.trim())
                      .filter(Boolean),
                  })
                }
              />
              <Hours hours={p.hours} onSave={(hours) => person({ ...p, hours })} />
            </>
          ),
          onRemove: () => void save(() => settle(api.DELETE("/api/people/{id}", query("person", p.id)))),
        }))}
      />
      <List
        title={text.house.sections}
        add={text.house.addSection}
        onAdd={() => {
          const hue = hues.find((x) => !h.sections.some((s) => s.hue === x)) ?? "teal";
          const pattern = patterns.find((x) => !h.sections.some((s) => s.pattern === x)) ?? "plain";
          section({ id: "", name: text.house.newSection, hue, pattern, pass: false });
        }}
        items={h.sections.map((s) => ({
          id: s.id,
          title: (
            <>
              <Swatch section={s} /> <b>{s.name}</b>{" "}
              {s.pass && <span className="quiet">{text.house.isPass}</span>}
            </>
          ),
          body: (
            <div className="fields">
              <TextField
                wide
                label={text.makings.name}
                value={s.name}
                onSave={(name) => section({ ...s, name })}
              />
              <Select
                label={text.house.hue}
                value={s.hue}
                options={pairs(hues)}
                onSave={(hue) => section({ ...s, hue })}
              />
              <Select
                label={text.house.pattern}
                value={s.pattern}
                options={pairs(patterns)}
                onSave={(pattern) => section({ ...s, pattern })}
              />
              <Check label={text.house.pass} on={s.pass} onChange={(pass) => section({ ...s, pass })} />
            </div>
          ),
          onRemove: () => void save(() => settle(api.DELETE("/api/sections/{id}", query("section", s.id)))),
        }))}
      />
      <List
        title={text.house.equipment}
        add={text.house.addEquipment}
        onAdd={() =>
          equipment({ id: "", name: text.house.newEquipment, kind: "burner", capacity: 1, unit: "burner" })
        }
        items={h.equipment.map((e) => ({
          id: e.id,
          title: (
            <>
              <b>{e.name}</b>{" "}
              <span className="quiet">
                {e.kind.replace("-", " ")}, {e.capacity} {e.unit}
                {e.thermostat && `, ${e.thermostat.low_c}–${e.thermostat.high_c} °C`}
              </span>
            </>
          ),
          body: (
            <div className="fields">
              <TextField
                wide
                label={text.makings.name}
                value={e.name}
                onSave={(name) => equipment({ ...e, name })}
              />
              <Select
                label={text.house.kind}
                value={e.kind}
                options={pairs(h.kinds)}
                onSave={(kind) => equipment({ ...e, kind })}
              />
              <NumberField
                label={text.house.room}
                value={e.capacity}
                onSave={(v) => equipment({ ...e, capacity: Math.round(v) })}
              />
              <TextField
                label={text.house.countedIn}
                value={e.unit}
                onSave={(unit) => equipment({ ...e, unit })}
              />
              <Check
                label={text.house.thermostat}
                on={e.thermostat !== undefined}
                onChange={(on) =>
                  equipment({
                    ...e,
                    thermostat: on
                      ? {
                          low_c: 50,
                          high_c: 250,
                          standby_c: 180,
                          heat_c_per_min: 12,
                          cool_c_per_min: 4,
                          tolerance_c: 5,
                        }
                      : undefined,
                  })
                }
              />
              {e.thermostat && (
                <>
                  {(
                    [
                      ["low_c", text.house.low],
                      ["high_c", text.house.high],
                      ["standby_c", text.house.standby],
                    ] as const
                  ).map(([key, label]) => (
                    <DegreesField
                      key={key}
                      label={label}
                      value={e.thermostat?.[key]}
                      onSave={(v) => equipment({ ...e, thermostat: { ...e.thermostat!, [key]: v ?? 0 } })}
                    />
                  ))}
                  {(
                    [
                      ["heat_c_per_min", text.house.heats],
                      ["cool_c_per_min", text.house.cools],
                      ["tolerance_c", text.house.tolerance],
                    ] as const
                  ).map(([key, label]) => (
                    <NumberField
                      key={key}
                      label={label}
                      value={e.thermostat?.[key]}
                      onSave={(v) => equipment({ ...e, thermostat: { ...e.thermostat!, [key]: v } })}
                    />
                  ))}
                </>
              )}
            </div>
          ),
          onRemove: () =>
            void save(() => settle(api.DELETE("/api/equipment/{id}", query("equipment", e.id)))),
        }))}
      />
      <List
        title={text.house.vessels}
        add={text.house.addVessel}
        onAdd={() =>
          vessel({
            id: "",
            name: text.house.newVessel,
            kind: "round",
            width_mm: 270,
            rim_mm: 30,
            height_mm: 18,
          })
        }
        items={h.vessels.map((v) => ({
          id: v.id,
          title: (
            <>
              <b>{v.name}</b>{" "}
              <span className="quiet">
                {v.kind}, {v.width_mm}
                {v.depth_mm ? ` × ${v.depth_mm}` : ""} mm
              </span>
            </>
          ),
          body: (
            <div className="fields">
              <TextField
                wide
                label={text.makings.name}
                value={v.name}
                onSave={(name) => vessel({ ...v, name })}
              />
              <Select
                label={text.house.kind}
                value={v.kind as (typeof vesselKinds)[number]}
                options={pairs(vesselKinds)}
                onSave={(kind) => vessel({ ...v, kind })}
              />
              {(
                [
                  ["width_mm", text.house.width],
                  ["depth_mm", text.house.depth],
                  ["rim_mm", text.house.rim],
                  ["height_mm", text.house.height],
                ] as const
              ).map(([key, label]) => (
                <NumberField
                  key={key}
                  optional={key === "depth_mm"}
                  label={label}
                  value={v[key]}
                  onSave={(n) => vessel({ ...v, [key]: n })}
                />
              ))}
            </div>
          ),
          onRemove: () => void save(() => settle(api.DELETE("/api/vessels/{id}", query("vessel", v.id)))),
        }))}
      />
    </>
  );
}

function List({
  title,
  add,
  items,
  onAdd,
}: {
  title: string;
  add: string;
  items: { id: string; title: ReactNode; body: ReactNode; onRemove: () => void }[];
  onAdd: () => void;
}) {
  const [open, setOpen] = useState("");
  return (
    <section className="card-enamel parts" aria-label={title}>
      <header>
        <h2>{title}</h2>
        <Button onClick={onAdd}>{add}</Button>
      </header>
      <ul>
        {items.map((x) => (
          <li key={x.id} data-part={x.id}>
            <button
              type="button"
              className="opens"
              aria-expanded={open === x.id}
              onClick={() => setOpen(open === x.id ? "" : x.id)}
            >
              <span>{x.title}</span>
              <span className="quiet">{open === x.id ? text.editor.close : text.house.change}</span>
            </button>
            {open === x.id && (
              <div className="inside">
                {x.body}
                <Button look="outline-danger" onClick={x.onRemove}>
                  {text.chain.drop}
                </Button>
              </div>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
