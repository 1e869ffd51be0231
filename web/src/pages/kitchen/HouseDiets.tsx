import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Chips, TextField } from "../../ui/fields";

type Kitchen = Schemas["Kitchen"];
type Rule = Schemas["DietRule"];

// HouseDiets are the diets that a house defines for itself, each with what is kept out of its plates.
export function HouseDiets({ house, put }: { house: Schemas["House"]; put: (k: Kitchen) => void }) {
  const k = house.kitchen;
  const rules = k.diets ?? [];
  const set = (diet: string, to: Rule | null) =>
    put({ ...k, diets: [...rules.filter((r) => r.diet !== diet), ...(to ? [to] : [])] });
  return (
    <section className="card-enamel p-3 house-diets">
      <h2>{text.diets.house}</h2>
      <p className="quiet">{text.diets.houseWhat}</p>
      {house.choices.house_diets.map((diet) => {
        const rule = rules.find((r) => r.diet === diet);
        if (!rule)
          return (
            <p key={diet}>
              <Button onClick={() => set(diet, { diet, matters: [], allergens: [] })}>
                {text.diets.define(diet)}
              </Button>
            </p>
          );
        const change = (part: Partial<Rule>) => set(diet, { ...rule, ...part });
        const both = {
          [text.diets.meatCertified]: "certified",
          [text.diets.meatAndMilk]: "apart",
        } as const;
        return (
          <div key={diet} className="house-diet" data-diet={diet}>
            <h3>{diet}</h3>
            <Chips
              label={text.diets.keptOut}
              all={[...house.choices.matters, ...house.choices.allergens]}
              chosen={[...rule.matters, ...rule.allergens]}
              onChange={(list) =>
                change({
                  matters: house.choices.matters.filter((m) => list.includes(m)),
                  allergens: house.choices.allergens.filter((a) => list.includes(a)),
                })
              }
            />
            <Chips
              label=""
              all={Object.keys(both)}
              chosen={Object.keys(both).filter((w) => rule[both[w] as "certified" | "apart"])}
              onChange={(list) =>
                change({
                  certified: list.includes(text.diets.meatCertified) || undefined,
                  apart: list.includes(text.diets.meatAndMilk) || undefined,
                })
              }
            />
            <div className="fields">
              <TextField
                label={text.diets.by}
                value={rule.by ?? ""}
                onSave={(by) => change({ by: by || undefined })}
              />
              <Button look="outline-danger" onClick={() => set(diet, null)}>
                {text.diets.drop}
              </Button>
            </div>
          </div>
        );
      })}
    </section>
  );
}
