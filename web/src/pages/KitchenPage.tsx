import { Empty, Failed } from "../app/Empty";
import { useHouse } from "../api/queries";
import { text } from "../text";
import { Swatch } from "../ui/Swatch";

// KitchenPage shows who and what there is to cook with.
export function KitchenPage() {
  const house = useHouse();
  if (house.error) return <Failed error={house.error} retry={() => void house.refetch()} />;
  if (!house.data) return null;
  if (house.data.empty) return <Empty />;
  const { sections, people, equipment, kitchen } = house.data;
  return (
    <div className="house">
      <section className="card-enamel">
        <h1>{kitchen.name}</h1>
        <ul>
          <li>
            {text.house.zone}
            <span className="quiet">{kitchen.time_zone}</span>
          </li>
          <li>
            {text.house.code}
            <span className="quiet">{text.house.codes[kitchen.safety_code]}</span>
          </li>
          <li>
            {text.house.platers}
            <span className="quiet">{kitchen.plating_hands}</span>
          </li>
        </ul>
        <p className="quiet mt-3 mb-0">{text.house.caution}</p>
      </section>
      <section className="card-enamel">
        <h2>{text.house.people}</h2>
        <ul>
          {people.map((p) => (
            <li key={p.id}>
              {p.name}
              <span className="quiet">
                {p.sections.map((s) => sections.find((x) => x.id === s)?.name ?? s).join(" · ")}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section className="card-enamel">
        <h2>{text.house.sections}</h2>
        <ul>
          {sections.map((s) => (
            <li key={s.id}>
              <Swatch section={s} /> {s.name}
            </li>
          ))}
        </ul>
      </section>
      <section className="card-enamel">
        <h2>{text.house.equipment}</h2>
        <ul>
          {equipment.map((e) => (
            <li key={e.id}>
              {e.name}
              <span className="quiet">
                {e.capacity} {e.unit}
                {e.thermostat ? `, ${e.thermostat.low_c}–${e.thermostat.high_c} °C` : ""}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
