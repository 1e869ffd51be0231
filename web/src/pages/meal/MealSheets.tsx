import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { checkWords } from "../../ui/checks";
import { span } from "../../ui/time";
import { zeroSeconds } from "./zero";

// MealSheets is a sheet for each pair of hands: what to do by the clock from zero.
export function MealSheets({ plan }: { plan: Schemas["MealPlan"] }) {
  return (
    <div className="meal-sheets">
      {plan.sheets.map((s) => (
        <section key={s.person} className="card-enamel" data-person={s.person}>
          <h2>
            {s.person}{" "}
            <span className="quiet">
              {span(s.hands_s)} {text.meal.handsOf}
            </span>
          </h2>
          {s.lines.length === 0 && <p className="quiet">{text.meal.nothing}</p>}
          <ol>
            {s.lines.map((l, i) => (
              <li key={i} className={`is-${l.kind}`}>
                <span className="figure">{zeroSeconds(l.at_s)}</span>
                <span>
                  <b>
                    {l.kind === "out" ? `${text.work.off}: ` : ""}
                    {l.act}
                  </b>{" "}
                  {l.count} × {l.what}
                  <span className="quiet">
                    {[
                      l.course,
                      l.on.join(", ") + (l.c === undefined ? "" : ` ${l.c}°`),
                      l.to_s > l.at_s ? span(l.to_s - l.at_s) : "",
                      l.checks.map(checkWords).join(" · "),
                    ]
                      .filter(Boolean)
                      .map((x) => ` · ${x}`)
                      .join("")}
                  </span>
                </span>
              </li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}
