import { useSearchParams } from "react-router";
import { useState } from "react";
import { useComponents, useDish, useHouse, usePlate } from "../../api/queries";
import type { Schemas } from "../../api/client";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Findings } from "./Findings";
import { span } from "../../ui/time";
import { Firing } from "./Firing";
import { PlatePanel } from "./PlatePanel";
import { useDishChanges } from "./useDish";
import { Sequence } from "./Sequence";

// DishView is one dish: its plating sequence, and its strands for a table.
export function DishView({ id }: { id: string }) {
  const [params] = useSearchParams();
  const variant = params.get("variant") ?? "";
  const dish = useDish(id, variant);
  const house = useHouse();
  if (dish.error) return <Failed error={dish.error} retry={() => void dish.refetch()} />;
  if (!dish.data || !house.data) return null;
  const known = dish.data.dish.specification.variants.some((v) => v.name === variant) ? variant : "";
  return <Loaded view={dish.data} house={house.data} variant={known} />;
}

function Loaded({
  view,
  house,
  variant: known,
}: {
  view: Schemas["DishView"];
  house: Schemas["House"];
  variant: string;
}) {
  const d = view.dish;
  const [params, setParams] = useSearchParams();
  const components = useComponents();
  const plate = usePlate(d.id, known);
  const changes = useDishChanges(view);
  const [chosen, setChosen] = useState(0);
  const change = (elements: Schemas["Element"][]) =>
    void changes.save({ ...d, specification: { ...d.specification, elements } });
  const choose = (name: string) => {
    const next = new URLSearchParams(params);
    if (name) next.set("variant", name);
    else next.delete("variant");
    setParams(next, { replace: true });
  };
  return (
    <article className="dish">
      <header>
        <div className="title">
          <h1>{d.name}</h1>
          <span className="quiet">
            {text.dish.version} {view.version} · {Math.round(view.weight_g)} g {text.dish.onPlate} ·{" "}
            {view.vessel.name}
            {view.allergens.length > 0 && (
              <>
                {" · "}
                <b style={{ color: "var(--ink)" }}>{view.allergens.join(", ")}</b>
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
        <div className="variants">
          <Button
            href={`/api/dishes/${d.id}/plate.svg${known ? `?variant=${encodeURIComponent(known)}` : ""}`}
          >
            {text.plate.svg}
          </Button>
          <Button onClick={() => window.print()}>{text.plate.card}</Button>
          {changes.canUndo && <Button onClick={() => void changes.takeBack()}>{text.strands.undo}</Button>}
        </div>
      </header>
      <div className="spec">
        {plate.data && (
          <PlatePanel
            plate={plate.data}
            elements={d.specification.elements}
            editable={known === ""}
            chosen={chosen}
            onChoose={setChosen}
            onChange={(n, e) => change(d.specification.elements.map((x, i) => (i === n - 1 ? e : x)))}
          />
        )}
        <div className="spec-right">
          <Sequence
            view={view}
            sections={house.sections}
            components={components.data ?? []}
            forms={house.forms}
            variant={known}
            chosen={chosen}
            onChoose={setChosen}
            onChange={change}
          />
          {changes.problem && (
            <div className="trouble" role="alert">
              {changes.problem.faults.length > 0
                ? changes.problem.faults.map((f) => f.message).join(". ")
                : changes.problem.message}
            </div>
          )}
          {plate.data && <Findings list={plate.data.findings} chosen={chosen} onChoose={setChosen} />}
          <p className="leaves">
            <b>{text.dish.leaves}</b> {d.specification.final_checks.join(" · ") || text.dish.nothing}
            {d.specification.stand_limit_s > 0 &&
              ` · ${text.dish.stands} ${span(d.specification.stand_limit_s)}`}
            {d.specification.table_side && ` · ${d.specification.table_side}`}
          </p>
        </div>
      </div>
      <Firing dish={d.id} variant={known} house={house} />
    </article>
  );
}
