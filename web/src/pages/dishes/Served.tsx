import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Fold } from "../../ui/fields";
import { span } from "../../ui/time";

// Served is how long what goes hot on the plate stays hot, on a cold plate and on a warm one; the first to be cold is said.
export function Served({ list }: { list: Schemas["Served"][] }) {
  const first = list[0];
  if (!first) return null;
  return (
    <Fold title={first.said.text}>
      <table className="served">
        <thead>
          <tr>
            <th>{text.heat.served}</th>
            <th className="num">{text.heat.coldPlate}</th>
            <th className="num">{text.heat.warmPlate}</th>
          </tr>
        </thead>
        <tbody>
          {list.map((x) => (
            <tr key={x.element}>
              <td>
                <b>{x.element}</b> {x.name}
              </td>
              <td className="num">{span(x.cold_s)}</td>
              <td className="num">{span(x.warm_s)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet mb-0">{text.heat.servedHow}</p>
    </Fold>
  );
}
