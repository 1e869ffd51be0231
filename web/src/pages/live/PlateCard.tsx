import type { JoinDue } from "../../api/live";
import { text } from "../../text";

// PlateCard is how the plates of some tables' courses look, as the guests' variants, from above and to scale.
export function PlateCard({ joins }: { joins: JoinDue[] }) {
  const plates = new Map(joins.flatMap((j) => j.served).map((p) => [`${p.dish}/${p.variant ?? ""}`, p]));
  return (
    <div className="panel plates" role="dialog" aria-label={text.live.plate}>
      {[...plates.values()].slice(0, 4).map((p) => (
        <figure key={p.dish + (p.variant ?? "")}>
          <img
            src={`/api/dishes/${p.dish}/plate.svg${p.variant ? `?variant=${encodeURIComponent(p.variant)}` : ""}`}
            alt={text.live.plateOf(p.name)}
          />
          <figcaption>
            {p.name.split(",")[0]}
            {p.variant && <b> {p.variant}</b>}
          </figcaption>
        </figure>
      ))}
      {plates.size === 0 && <p>{text.live.noPlate}</p>}
    </div>
  );
}
