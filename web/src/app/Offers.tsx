import { Link, useLocation } from "react-router";
import { useDay } from "../api/queries";
import { text } from "../text";

// Offers tells on every page, above all on that of a dish that was just changed, that a
// plan by which somebody works has not followed a change, and what following would do.
export function Offers() {
  const at = useLocation();
  const marks = useDay();
  const offers = marks.data?.offers ?? [];
  if (offers.length === 0 || at.pathname === "/fire") return null;
  return (
    <>
      {offers.map((o) => (
        <section key={o.service} className="offer" aria-live="polite">
          <p>
            <b>
              <span className="mark-wait">◌</span> {o.name}: {o.changed.join(" · ")} {text.fire.changedSince}{" "}
              {o.number}.
            </b>{" "}
            {o.said.key ? `${text.fire.wouldDo} ${o.said.text}` : text.fire.workingOut}
          </p>
          <Link className="btn btn-outline-primary" to={`/fire?service=${o.service}`}>
            {text.fire.look}
          </Link>
        </section>
      ))}
    </>
  );
}
