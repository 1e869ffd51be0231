import { useSearchParams } from "react-router";
import { useDish, useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Firing } from "./Firing";
import { Sequence } from "./Sequence";

// DishView is one dish: its plating sequence, and its strands for a table.
export function DishView({ id }: { id: string }) {
  const dish = useDish(id);
  const house = useHouse();
  const [params, setParams] = useSearchParams();
  if (dish.error) return <Failed error={dish.error} retry={() => void dish.refetch()} />;
  if (!dish.data || !house.data) return null;
  const d = dish.data.dish;
  const variant = params.get("variant") ?? "";
  const choose = (name: string) => {
    const next = new URLSearchParams(params);
    if (name) next.set("variant", name);
    else next.delete("variant");
    setParams(next, { replace: true });
  };
  const known = d.specification.variants.some((v) => v.name === variant) ? variant : "";
  return (
    <article className="dish">
      <header>
        <div className="title">
          <h1>{d.name}</h1>
          <span className="quiet">
            {text.dish.version} {dish.data.version} · {Math.round(dish.data.weight_g)} g {text.dish.onPlate} ·{" "}
            {dish.data.vessel.name}
            {dish.data.allergens.length > 0 && (
              <>
                {" · "}
                <b style={{ color: "var(--ink)" }}>{dish.data.allergens.join(", ")}</b>
              </>
            )}
          </span>
        </div>
        {d.specification.variants.length > 0 && (
          <div className="variants" role="group" aria-label={text.dish.variants}>
            <Button
              look={known === "" ? "primary" : "outline-primary"}
              aria-pressed={known === ""}
              onClick={() => choose("")}
            >
              {text.asWritten}
            </Button>
            {d.specification.variants.map((v) => (
              <Button
                key={v.name}
                look={known === v.name ? "primary" : "outline-primary"}
                aria-pressed={known === v.name}
                onClick={() => choose(v.name)}
              >
                {v.name}
              </Button>
            ))}
          </div>
        )}
      </header>
      <Sequence view={dish.data} sections={house.data.sections} variant={known} />
      <Firing dish={id} variant={known} house={house.data} />
    </article>
  );
}
