import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { text } from "../../text";
import { Faulty, Fold, NumberField } from "../../ui/fields";
import { span } from "../../ui/time";

// PlatingLine divides a banquet's plates between people who stand in a line.
export function PlatingLine({
  dish,
  variant,
  draft,
  version,
  house,
}: {
  dish: string;
  variant: string;
  draft: boolean;
  version: number;
  house: Schemas["House"];
}) {
  const [plates, setPlates] = useState(60);
  const [people, setPeople] = useState(Math.max(2, house.kitchen.plating_hands));
  const wish = { dish, variant: variant || undefined, draft: draft || undefined, plates, people };
  const line = useQuery({
    queryKey: keys.platingLine(wish, version),
    queryFn: () => settle(api.POST("/api/plating-line", { body: wish })),
    placeholderData: (old) => old,
    retry: false,
  });
  const l = line.data;
  return (
    <Fold title={<b>{text.line.title}</b>}>
      <div className="fields">
        <NumberField label={text.line.plates} name="line-plates" value={plates} onSave={setPlates} />
        <NumberField label={text.line.people} name="line-people" value={people} onSave={setPeople} />
        {l && !line.isPlaceholderData && (
          <p className="line-says">
            {text.line.all} <b className="figure">{span(l.last_s)}</b>
            {l.per_minute > 0 && `, ${l.per_minute.toFixed(1)} ${text.line.perMinute}`}
            {`, ${text.line.every} ${span(l.cycle_s)}`}
            {l.stand_limit_s > 0 && l.stand_s > l.stand_limit_s && (
              <span className="mark-late">
                {" "}
                ▲ {text.line.standsTooLong} {span(l.stand_s)}, {text.line.allowed} {span(l.stand_limit_s)}
              </span>
            )}
          </p>
        )}
      </div>
      {line.isPlaceholderData && <p className="quiet">{text.workingItOut}</p>}
      <Faulty problem={line.error instanceof Problem ? line.error : null} />
      {l && !line.isPlaceholderData && (
        <div className="line-parts">
          <ol aria-label={text.line.stations}>
            {l.stations.map((s) => (
              <li key={s.from}>
                <b>
                  {s.people} {s.people === 1 ? text.line.person : text.line.persons}
                </b>{" "}
                {l.names.slice(s.from - 1, s.to).join(", ")}
                <span className="quiet figure">
                  {" "}
                  {span(s.seconds)} {text.line.aPlate}
                </span>
              </li>
            ))}
          </ol>
          <table className="plain" aria-label={text.line.rounds}>
            <thead>
              <tr>
                <th>{text.line.round}</th>
                <th>{text.line.plates}</th>
                <th>{text.line.first}</th>
                <th>{text.line.leaves}</th>
              </tr>
            </thead>
            <tbody>
              {l.rounds.map((r, i) => (
                <tr key={i}>
                  <td>{i + 1}</td>
                  <td>{r.plates}</td>
                  <td>{span(r.first_s)}</td>
                  <td>{span(r.leave_s)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Fold>
  );
}
