import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button, Drop } from "../../ui/Button";
import { Chips, Fold, NumberField, Select, TextField } from "../../ui/fields";
import { MaybeClockField } from "../../ui/understood";
import { TimeField } from "../../ui/understood";
import { WorkOut } from "./WorkOut";

type Component = Schemas["Component"];

const units = [
  ["g", "g"],
  ["ml", "ml"],
  ["piece", "piece"],
  ["spoon", "spoon"],
] as const;
const stores = ["", "bench", "hot", "chilled", "frozen", "dry"] as const;

// Makings is what a component is made of, how it is counted, and how long it keeps.
export function Makings({
  component: c,
  house,
  all,
  onSave,
}: {
  component: Component;
  house: Schemas["House"];
  all: Schemas["ComponentLine"][];
  onSave: (c: Component) => void;
}) {
  const other = all.filter((x) => x.id !== c.id && !x.archived).map((x) => [x.id, x.name] as const);
  const set = <K extends keyof Component>(key: K, value: Component[K]) => onSave({ ...c, [key]: value });
  return (
    <>
      <Fold title={<b>{text.makings.counted}</b>}>
        <div className="fields">
          <Select label={text.newDish.unit} value={c.unit} options={units} onSave={(v) => set("unit", v)} />
          <NumberField
            label={text.makings.grams}
            value={c.grams_per_unit}
            onSave={(v) => set("grams_per_unit", v)}
          />
          <NumberField
            label={text.makings.density}
            value={c.density_g_per_ml}
            onSave={(v) => set("density_g_per_ml", v)}
          />
          <NumberField
            optional
            label={text.makings.yield}
            value={c.batch_yield}
            onSave={(v) => set("batch_yield", v)}
          />
          <TimeField
            label={text.makings.keeps}
            value={c.shelf_life_h > 0 ? c.shelf_life_h * 3600 : undefined}
            onSave={(v) => set("shelf_life_h", (v ?? 0) / 3600)}
          />
          <Select
            label={text.makings.store}
            value={(c.store ?? "") as (typeof stores)[number]}
            options={stores.map((p) => [p, p ? (text.where[p] ?? p) : text.chain.unsaid] as const)}
            onSave={(v) => set("store", (v || undefined) as Component["store"])}
          />
          <label className="field">
            {text.newDish.colour}
            <input
              type="color"
              className="form-control"
              value={c.colour || "#c9b48a"}
              onChange={(e) => set("colour", e.target.value)}
            />
          </label>
        </div>
      </Fold>
      <Fold
        title={
          <>
            <b>{text.makings.ingredients}</b>{" "}
            <span className="quiet">
              {[
                ...c.ingredients.map((g) => g.name),
                ...c.uses.map((u) => all.find((x) => x.id === u.component)?.name),
              ].join(", ") || text.dish.nothing}
            </span>
          </>
        }
      >
        {c.ingredients.map((g, i) => {
          const put = (n: typeof g) =>
            set(
              "ingredients",
              c.ingredients.map((x, k) => (k === i ? n : x)),
            );
          return (
            <div className="ingredient" key={i}>
              <div className="fields">
                <TextField
                  wide
                  label={text.makings.name}
                  value={g.name}
                  onSave={(name) => put({ ...g, name })}
                />
                <NumberField
                  label={text.makings.perBatch}
                  value={g.amount}
                  onSave={(amount) => put({ ...g, amount })}
                />
                <TextField label={text.newDish.unit} value={g.unit} onSave={(unit) => put({ ...g, unit })} />
                <NumberField
                  label={text.makings.trim}
                  value={g.trim_percent}
                  onSave={(trim_percent) => put({ ...g, trim_percent })}
                />
                <MaybeClockField
                  label={text.work.inAt}
                  value={g.in_at}
                  onSave={(in_at) => put({ ...g, in_at, thaw_h: in_at ? g.thaw_h : undefined })}
                />
                {(g.in_at ?? 0) > 0 && (
                  <NumberField
                    optional
                    label={text.work.thaw}
                    value={g.thaw_h}
                    onSave={(v) => put({ ...g, thaw_h: v > 0 ? v : undefined })}
                  />
                )}
                <Drop
                  onClick={() =>
                    set(
                      "ingredients",
                      c.ingredients.filter((_, k) => k !== i),
                    )
                  }
                />
              </div>
              <Chips
                label={text.makings.allergens}
                all={house.choices.allergens}
                chosen={g.allergens}
                onChange={(allergens) => put({ ...g, allergens })}
              />
              <Chips
                label={text.diets.matters}
                all={house.choices.matters}
                chosen={g.matters ?? []}
                onChange={(matters) => put({ ...g, matters })}
              />
              {(g.matters ?? []).includes("meat") && (
                <Chips
                  label={text.diets.certified}
                  all={house.choices.house_diets}
                  chosen={(g.certified ?? []).filter((d) => house.choices.house_diets.includes(d))}
                  onChange={(certified) => put({ ...g, certified })}
                />
              )}
            </div>
          );
        })}
        <div className="fields">
          <Button
            onClick={() =>
              set("ingredients", [
                ...c.ingredients,
                { name: text.makings.newIngredient, amount: 100, unit: "g", trim_percent: 0, allergens: [] },
              ])
            }
          >
            {text.makings.addIngredient}
          </Button>
          {other.length > 0 && (
            <Select
              label={text.makings.addUse}
              value=""
              options={[["", text.makings.choose] as const, ...other]}
              onSave={(id) => id && set("uses", [...c.uses, { component: id, amount: 100 }])}
            />
          )}
        </div>
        {c.uses.map((u, i) => (
          <div className="fields" key={i}>
            <Select
              label={text.makings.uses}
              value={u.component}
              options={other}
              onSave={(id) =>
                set(
                  "uses",
                  c.uses.map((x, k) => (k === i ? { ...x, component: id } : x)),
                )
              }
            />
            <NumberField
              label={`${text.makings.perBatch}, ${all.find((x) => x.id === u.component)?.unit ?? ""}`}
              value={u.amount}
              onSave={(amount) =>
                set(
                  "uses",
                  c.uses.map((x, k) => (k === i ? { ...x, amount } : x)),
                )
              }
            />
            <Drop
              onClick={() =>
                set(
                  "uses",
                  c.uses.filter((_, k) => k !== i),
                )
              }
            />
          </div>
        ))}
        {c.by_products.map((b, i) => (
          <div className="fields" key={i}>
            <Select
              label={text.makings.byProduct}
              value={b.component}
              options={other}
              onSave={(id) =>
                set(
                  "by_products",
                  c.by_products.map((x, k) => (k === i ? { ...x, component: id } : x)),
                )
              }
            />
            <NumberField
              label={text.makings.byGrams}
              value={b.grams}
              onSave={(grams) =>
                set(
                  "by_products",
                  c.by_products.map((x, k) => (k === i ? { ...x, grams } : x)),
                )
              }
            />
            <Drop
              onClick={() =>
                set(
                  "by_products",
                  c.by_products.filter((_, k) => k !== i),
                )
              }
            />
          </div>
        ))}
        {other.length > 0 && (
          <div className="fields">
            <Select
              label={text.makings.addByProduct}
              value=""
              options={[["", text.makings.choose] as const, ...other]}
              onSave={(id) => id && set("by_products", [...c.by_products, { component: id, grams: 100 }])}
            />
          </div>
        )}
        <Chips
          label={text.makings.ownAllergens}
          all={house.choices.allergens}
          chosen={c.allergens}
          onChange={(v) => set("allergens", v)}
        />
      </Fold>
      <Fold title={<b>{text.workOut.title}</b>}>
        <WorkOut component={c.id} density={c.density_g_per_ml} house={house} />
      </Fold>
    </>
  );
}
