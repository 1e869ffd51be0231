import { useDishes } from "../../api/queries";
import { text } from "../../text";
import type { Schemas } from "../../api/client";
import type { Running } from "./useService";

// PlateCard is how the plates of some tables' courses look, as the guests' variants, from above and to scale.
export function PlateCard({
  r,
  joins,
  component,
}: {
  r: Running;
  joins: Schemas["TableCourse"][];
  component?: string;
}) {
  const dishes = useDishes();
  const plates = new Map<string, { dish: string; variant: string; name: string }>();
  for (const j of joins)
    for (const o of r.service?.tables.find((t) => t.id === j.table)?.orders ?? []) {
      const d = dishes.data?.find((x) => x.id === o.dish);
      if (d?.course === j.course)
        plates.set(`${o.dish}/${o.variant ?? ""}`, { dish: o.dish, variant: o.variant ?? "", name: d.name });
    }
  void component;
  return (
    <div className="panel plates" role="dialog" aria-label={text.live.plate}>
      {[...plates.values()].slice(0, 4).map((p) => (
        <figure key={p.dish + p.variant}>
          <img
            src={`/api/dishes/${p.dish}/plate.svg${p.variant ? `?variant=${encodeURIComponent(p.variant)}` : ""}`}
            alt={text.live.plateOf(p.name)}
          />
          <figcaption>
            {p.name}
            {p.variant && <b> {p.variant}</b>}
          </figcaption>
        </figure>
      ))}
      {plates.size === 0 && <p>{text.live.noPlate}</p>}
    </div>
  );
}
