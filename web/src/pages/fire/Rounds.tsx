import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { clock, clockSeconds, span } from "../../ui/time";
import { tones } from "./JoinMark";

// Rounds is a banquet at the pass: every course with its rounds one after another, how many
// plates each has, and when it is complete.
export function Rounds({
  plan,
  chosen,
  onChoose,
}: {
  plan: Schemas["FireView"];
  chosen: string;
  onChoose: (join: string) => void;
}) {
  const courses = [...new Set(plan.joins.map((j) => j.course))];
  return (
    <section className="card-enamel rounds">
      <h2>{text.fire.atThePass}</h2>
      {courses.map((c) => {
        const own = plan.joins.filter((j) => j.course === c);
        const first = own[0];
        const last = own[own.length - 1];
        if (!first || !last) return null;
        const plates = own.reduce((n, j) => n + j.plates, 0);
        const length = (Date.parse(last.at) - Date.parse(first.plate_at)) / 1000;
        return (
          <div key={c} className="course">
            <h3>
              {text.courses[c]}
              <span className="quiet">
                {plates} {text.prep.plates}, {clock(first.plate_at)}–{clock(last.at)}, {span(length)}
              </span>
            </h3>
            <ol>
              {own.map((j) => (
                <li key={j.id}>
                  <button
                    type="button"
                    aria-pressed={j.id === chosen}
                    onClick={() => onChoose(j.id)}
                    style={{ borderColor: tones[j.standing] }}
                  >
                    <b>
                      {j.name}
                      {j.round > 0 && ` ${j.round}`}
                    </b>
                    <span className="figure">
                      {clock(j.at)}
                      <small>:{clockSeconds(j.at)}</small>
                    </span>
                    <span className="quiet">
                      {j.plates} {text.prep.plates}
                    </span>
                    {j.late && (
                      <span className="mark-late">
                        ▲ {span(j.late_s)} {text.strands.late}
                      </span>
                    )}
                  </button>
                </li>
              ))}
            </ol>
          </div>
        );
      })}
    </section>
  );
}
