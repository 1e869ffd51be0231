import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { refused, whyOf } from "../../api/problem";
import { useDishes, useHouse } from "../../api/queries";
import { savesOf } from "../../api/saves";
import { useSave } from "../../api/useSave";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty, Select } from "../../ui/fields";
import { span, wall } from "../../ui/time";
import { MealEditor } from "./MealEditor";
import { MealSheets } from "./MealSheets";
import { MealStrands } from "./MealStrands";
import { zeroSeconds } from "./zero";

type Line = Schemas["MealEntry"];

// MealPage is one meal from zero: what it is, its strands on one page, the slack at each deadline, a sheet for each pair of hands.
export function MealPage() {
  const queries = useQueryClient();
  const house = useHouse();
  const dishes = useDishes();
  const meals = useQuery({ queryKey: keys.meals(), queryFn: () => settle(api.GET("/api/meals")) });
  const [params, setParams] = useSearchParams();
  const line = meals.data?.find((x) => x.meal.id === params.get("meal")) ?? meals.data?.[0];
  const plan = useQuery({
    queryKey: keys.meals(line?.meal.id, line?.version),
    queryFn: () => settle(api.GET("/api/meals/{id}/plan", { params: { path: { id: line!.meal.id } } })),
    enabled: line !== undefined,
  });
  const { save, problem } = useSave([keys.meals(), keys.house]);
  if (meals.error && !meals.data) return <Failed error={meals.error} retry={() => void meals.refetch()} />;
  if (!meals.data || !house.data || !dishes.data) return null;
  if (house.data.empty) return <Empty />;
  const menu = dishes.data.filter((d) => d.state === "current");
  const put = (shown: Line, value: Schemas["Meal"]) =>
    void save(() =>
      savesOf<Schemas["Meal"]>(`meal/${value.id}`).save(
        { version: shown.version, value: shown.meal },
        value,
        async (version, mine) => {
          await settle(
            api.PUT("/api/meals/{id}", {
              params: { path: { id: value.id } },
              body: { version, value: mine },
            }),
          );
          const list = await settle(api.GET("/api/meals"));
          queries.setQueryData(keys.meals(), list);
          return { version: list.find((x) => x.meal.id === value.id)?.version ?? version + 1, value: mine };
        },
      ),
    );
  const p = plan.data;
  return (
    <article className="sheet meal">
      <header>
        <div>
          <h1>{line?.meal.name ?? text.meal.title}</h1>
          <span className="quiet">{text.meal.what}</span>
        </div>
        <div className="variants">
          {meals.data.length > 1 && (
            <Select
              label={text.meal.open}
              value={line?.meal.id ?? ""}
              options={meals.data.map((x) => [x.meal.id, x.meal.name] as const)}
              onSave={(meal) => setParams({ meal }, { replace: true })}
            />
          )}
          <Button
            onClick={() =>
              void save(() => settle(api.POST("/api/meals", { body: { name: text.meal.fresh } })))
            }
          >
            {text.meal.add}
          </Button>
          <Button onClick={() => window.print()}>{text.meal.print}</Button>
          <Link className="btn btn-outline-primary" to="/prep/services">
            {text.meal.services}
          </Link>
        </div>
      </header>
      <Faulty problem={problem} />
      {!line && <p className="quiet">{text.meal.none}</p>}
      {line && plan.isLoading && <p className="quiet">{text.meal.planning}</p>}
      {line && plan.error && (
        <p className="mark-late" role="alert">
          ▲ {whyOf(plan.error)}{" "}
          {!refused(plan.error) && <Button onClick={() => void plan.refetch()}>{text.errors.retry}</Button>}
        </p>
      )}
      {line && p && (
        <>
          <ol className="meal-deadlines">
            {p.courses.map((c) => (
              <li key={c.id} className="card-enamel" data-course={c.id}>
                <b>{c.name}</b>
                <span className="figure">{zeroSeconds(c.at_s)}</span>
                <span className="quiet">
                  {text.meal.deadline} {zeroSeconds(c.due_s)}
                  {line.meal.starts_at ? `, ${wall(line.meal.starts_at + Math.floor(c.due_s / 60))}` : ""}
                </span>
                {c.at_s < c.due_s - 60 && (
                  <span className="quiet">
                    {span(c.due_s - c.at_s)} {text.meal.early}
                  </span>
                )}
                <span className={c.late_s > 0 ? "mark-late" : c.slack_s > 0 ? "mark-good" : "mark-wait"}>
                  {c.late_s > 0
                    ? `▲ ${span(c.late_s)} ${text.meal.late}`
                    : c.slack_s > 0
                      ? `● ${text.meal.slack} ${text.meal.atLeast} ${span(c.slack_s)}`
                      : `◌ ${text.meal.noSlack}`}
                </span>
                <span className="quiet">{c.dishes.join(" · ")}</span>
              </li>
            ))}
          </ol>
          {p.must.length > 0 && (
            <ul className="meal-must">
              {p.must.map((x) => (
                <li key={x.say}>
                  <span className={x.there ? "mark-good" : x.known ? "mark-late" : "mark-wait"}>
                    {x.there ? "●" : x.known ? "▲" : "◌"}
                  </span>{" "}
                  {x.say}
                  <span className="quiet">
                    {" "}
                    {x.there ? text.meal.has : x.known ? text.meal.hasNot : text.meal.unknown}
                  </span>
                </li>
              ))}
            </ul>
          )}
          {p.trouble.length > 0 ? (
            <section className="card-enamel">
              <h2>{text.meal.doesnt}</h2>
              <ul>
                {p.trouble.map((t, i) => (
                  <li key={i}>
                    <b>
                      <span className="mark-late">▲</span> {t.said.text}
                    </b>{" "}
                    <span className="quiet">{t.why.text}</span>
                  </li>
                ))}
              </ul>
            </section>
          ) : (
            <p className="mark-good">● {text.meal.fits}</p>
          )}
          <MealStrands plan={p} sections={house.data.sections} />
          <MealSheets plan={p} />
        </>
      )}
      {line && (
        <MealEditor
          m={line.meal}
          dishes={menu}
          house={house.data}
          onSave={(m) => put(line, m)}
          onRemove={() =>
            void save(() =>
              settle(
                api.DELETE("/api/meals/{id}", {
                  params: { path: { id: line.meal.id }, query: { version: line.version } },
                }),
              ),
            )
          }
        />
      )}
    </article>
  );
}
