import { useSearchParams } from "react-router";
import { useState } from "react";
import { Link } from "react-router";
import { useComponents, useDish, useHouse, usePlate } from "../../api/queries";
import type { Schemas } from "../../api/client";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { Allergens } from "./Allergens";
import { Diets } from "./Diets";
import { NotesHere } from "../back/Notes";
import { Findings } from "./Findings";
import { Firing } from "./Firing";
import { Life } from "./Life";
import { PlateDetails } from "./PlateDetails";
import { PlatePanel } from "./PlatePanel";
import { PlatingLine } from "./PlatingLine";
import { Photograph } from "./Photograph";
import { Served } from "./Served";
import { Sequence } from "./sequence/Sequence";
import { useDishChanges } from "./useDish";
import { VariantBar } from "./Variants";

// DishView is one dish: its plating sequence, and its strands for a table.
export function DishView({ id }: { id: string }) {
  const [params] = useSearchParams();
  const variant = params.get("variant") ?? "";
  const draft = params.get("draft") === "1";
  const dish = useDish(id, variant, draft);
  const house = useHouse();
  if (dish.error) {
    return <Failed error={dish.error} retry={() => void dish.refetch()} />;
  }
  if (!dish.data || !house.data) return null;
  const drafting = draft && dish.data.dish.draft !== undefined;
  const spec = (drafting ? dish.data.dish.draft : undefined) ?? dish.data.dish.specification;
  const known = spec.variants.some((v) => v.name === variant) ? variant : "";
  return <Loaded view={dish.data} spec={spec} drafting={drafting} house={house.data} variant={known} />;
}

function Loaded({
  view,
  spec,
  drafting,
  house,
  variant: known,
}: {
  view: Schemas["DishView"];
  spec: Schemas["Specification"];
  drafting: boolean;
  house: Schemas["House"];
  variant: string;
}) {
  const d = view.dish;
  const components = useComponents();
  const plate = usePlate(d.id, known, drafting);
  const changes = useDishChanges(view);
  const [chosen, setChosen] = useState(0);
  const save = (s: Schemas["Specification"]) =>
    changes.save(drafting ? { ...d, draft: s } : { ...d, specification: s });
  const query = new URLSearchParams();
  if (known) query.set("variant", known);
  if (drafting) query.set("draft", "true");
  const address = (path: string) =>
    `/api/dishes/${d.id}/${path}${path.includes("?") ? "&" : "?"}${query.toString()}`;
  return (
    <article className="dish">
      <header>
        <div className="title">
          <h1>{d.name}</h1>
          <div className="quiet facts">
            <span>
              <Link to={`/dishes/${d.id}/versions`}>
                {text.dish.version} {view.version}
              </Link>
              {d.state !== "current" && <b className={`state ${d.state}`}>{text.dish.states[d.state]}</b>} ·{" "}
              {Math.round(view.weight_g)} g {text.dish.onPlate} · {view.vessel.name}
            </span>
            <Allergens
              lines={view.allergens}
              unknown={view.unknown_recipes}
              code={house.kitchen.safety_code}
            />
            <Diets lines={view.diets} />
          </div>
        </div>
        <div className="variants">
          <Button href={address("card.pdf?size=A5")} target="_blank">
            {text.plate.card}
          </Button>
          {changes.canUndo && <Button onClick={() => void changes.takeBack()}>{text.strands.undo}</Button>}
          <Life view={view} drafting={drafting} address={address} send={changes.send} />
        </div>
      </header>
      <VariantBar house={house} spec={spec} variant={known} onChange={save} />
      <Faulty problem={changes.problem} />
      <div className="spec">
        <div className="spec-left">
          {plate.data && (
            <PlatePanel
              plate={plate.data}
              elements={spec.elements}
              editable={known === ""}
              chosen={chosen}
              onChoose={setChosen}
              onChange={(n, e) =>
                void save({ ...spec, elements: spec.elements.map((x, i) => (i === n - 1 ? e : x)) })
              }
            />
          )}
          <Photograph view={view} send={changes.send} />
        </div>
        <div className="spec-right">
          <Sequence
            view={view}
            spec={spec}
            sections={house.sections}
            components={components.data ?? []}
            choices={house.choices}
            variant={known}
            chosen={chosen}
            onChoose={setChosen}
            onChange={(s) => void save(s)}
            onArrange={(edit) => void changes.arrange({ ...edit, draft: drafting || undefined })}
          />
          <NotesHere where={{ dish: d.id }} />
          {plate.data && <Findings list={plate.data.findings} chosen={chosen} onChoose={setChosen} />}
          {plate.data && <Served list={plate.data.served} />}
          <PlateDetails spec={spec} vessels={house.vessels} onChange={(s) => void save(s)} />
        </div>
      </div>
      <Firing dish={d.id} variant={known} draft={drafting} house={house} />
      <PlatingLine dish={d.id} variant={known} draft={drafting} version={view.version} house={house} />
    </article>
  );
}
