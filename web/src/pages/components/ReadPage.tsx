import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useHouse } from "../../api/queries";
import { useSave } from "../../api/useSave";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty, Select } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { usePerson } from "../../api/session";
import { day } from "../../ui/time";

type Recipe = Schemas["RecipeLine"];

// standing says in words whether what is in a recipe is known.
const standing = (r: Recipe) => {
  if (!r.entered) return text.recipe.notEntered;
  if (!r.signed) return text.recipe.unsigned;
  return (r.known ? text.recipe.signed : text.recipe.changed)(r.signed.by, day(r.signed.at));
};

// ReadPage is every section's recipes on one list, to be read through and signed in one go.
export function ReadPage() {
  const house = useHouse();
  const recipes = useQuery({ queryKey: keys.recipes, queryFn: () => settle(api.GET("/api/recipes")) });
  const { save, problem } = useSave([
    keys.recipes,
    keys.component(),
    keys.components,
    keys.dish(),
    keys.prep,
  ]);
  const here = usePerson();
  const [chosen, setWho] = useState<string | null>(null);
  const who = chosen ?? here;
  if (recipes.error && !recipes.data)
    return <Failed error={recipes.error} retry={() => void recipes.refetch()} />;
  if (!recipes.data || !house.data) return null;
  if (house.data.empty) return <Empty />;
  const name = house.data.people.find((p) => p.id === who)?.name ?? "";
  const sign = (list: Recipe[]) =>
    void save(() =>
      settle(
        api.POST("/api/recipes/sign", {
          body: { by: name, recipes: list.map((r) => ({ id: r.id, version: r.version })) },
        }),
      ),
    );
  return (
    <article className="sheet reading">
      <header>
        <div>
          <h1>{text.recipe.title}</h1>
          <span className="quiet">
            {text.recipe.what} {text.recipe.caution}
          </span>
        </div>
        <div className="variants">
          <Select
            label={text.recipe.who}
            value={who}
            options={[
              ["", text.recipe.choose] as const,
              ...house.data.people.map((p) => [p.id, p.name] as const),
            ]}
            onSave={setWho}
          />
          <Link className="btn btn-outline-primary" to="/components">
            {text.recipe.components}
          </Link>
        </div>
      </header>
      <Faulty problem={problem} />
      {house.data.sections.map((s) => {
        const own = recipes.data.filter((r) => r.section === s.id);
        const open = own.filter((r) => r.entered && !r.known);
        if (own.length === 0) return null;
        return (
          <section key={s.id} className="card-enamel" data-section={s.id}>
            <h2>
              <Swatch section={s} /> {s.name}
            </h2>
            <ul>
              {own.map((r) => (
                <li key={r.id} data-recipe={r.id}>
                  <span>
                    <Link to={`/components/${r.id}`}>
                      <b>{r.name}</b>
                    </Link>
                    <span className={r.known ? "mark-good" : "mark-late"}>
                      {r.known ? " ● " : " ▲ "}
                      {standing(r)}
                    </span>
                  </span>
                  <span>
                    {r.ingredients.map((g) => (
                      <span key={g.name} className="bought">
                        {g.name}
                        {g.allergens.length + (g.matters ?? []).length > 0 && (
                          <b> ({[...g.allergens, ...(g.matters ?? [])].join(", ")})</b>
                        )}
                      </span>
                    ))}
                    {r.uses.map((u) => (
                      <span key={u} className="bought quiet">
                        {u}
                      </span>
                    ))}
                  </span>
                  <span>
                    <b>{r.allergens.join(", ") || (r.known ? text.recipe.none : text.work.notKnown)}</b>
                    {r.matters.length > 0 && <span className="quiet"> · {r.matters.join(", ")}</span>}
                  </span>
                  {r.suggestions.length > 0 && (
                    <span className="points">
                      {r.suggestions.map((x) => (
                        <span key={x.word + x.where} className="mark-wait">
                          ◌ {text.recipe.suggests(x.word, x.allergen ?? x.matter ?? "")}
                          {x.where === "step" && ` (${text.recipe.inStep})`}
                          {x.where === "name" && ` (${text.recipe.inName})`}
                        </span>
                      ))}
                    </span>
                  )}
                </li>
              ))}
            </ul>
            {open.length > 0 ? (
              <Button look="primary" disabled={name === ""} onClick={() => sign(open)}>
                {text.recipe.sign(open.length)}
              </Button>
            ) : (
              own.every((r) => r.known) && <p className="mark-good">● {text.recipe.allRead}</p>
            )}
          </section>
        );
      })}
    </article>
  );
}
