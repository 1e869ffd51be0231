import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Failed } from "../../app/Empty";
import { text } from "../../text";

type Amount = Schemas["AmountLine"];

// AmountsPage is what was ready of each dish, ordered and thrown away, and what to have ready next with what that costs.
export function AmountsPage() {
  const words = text.back;
  const amounts = useQuery({ queryKey: keys.amounts, queryFn: () => settle(api.GET("/api/amounts")) });
  if (amounts.error) return <Failed error={amounts.error} retry={() => void amounts.refetch()} />;
  if (!amounts.data) return null;
  const v = amounts.data;
  const courses = [...new Set(v.dishes.map((d) => d.course))];
  const most = Math.max(1, ...v.dishes.flatMap((d) => d.nights.flatMap((n) => [n.ready, n.ordered])));
  return (
    <article className="sheet back amounts">
      <header>
        <div>
          <h1>{words.amounts}</h1>
          <p className="quiet">{words.of(v.of)}</p>
        </div>
        <div className="variants">
          <Link className="btn btn-outline-primary" to="/back">
            {words.all}
          </Link>
        </div>
      </header>
      {v.dishes.length === 0 && <p>{words.amountsNone}</p>}
      {courses.map((c) => (
        <section key={c} className="card-enamel">
          <h2>{text.courses[c]}</h2>
          <ul className="amount-lines">
            {v.dishes
              .filter((d) => d.course === c)
              .map((d) => (
                <Line key={d.dish} d={d} most={most} />
              ))}
          </ul>
        </section>
      ))}
      {v.dishes.length > 0 && <p className="quiet">{words.amountsNote}</p>}
    </article>
  );
}

function Line({ d, most }: { d: Amount; most: number }) {
  const words = text.back;
  return (
    <li>
      <div>
        <b>{d.what}</b>
        <span className="figure">{words.shares(d.expected, d.share)}</span>
      </div>
      <Evenings d={d} most={most} />
      <div>
        <span className="figure">{words.sums(d.ready, d.ordered, d.short)}</span>
        <span className={d.thrown > 0 ? "figure" : "quiet"}>
          {d.thrown > 0 ? words.thrownSum(d.thrown, d.why) : words.thrownNone}
        </span>
        {d.next && (
          <span>
            <Link to="/prep/services">{d.next.name}</Link>: {d.next.said.text}
          </span>
        )}
      </div>
    </li>
  );
}

// Evenings are what was ordered in each service, the first to the left, below the line of what was to be ready.
function Evenings({ d, most }: { d: Amount; most: number }) {
  const list = [...d.nights].reverse();
  const [step, height, base] = [Math.min(26, 220 / list.length), 64, 60];
  const y = (n: number) => base - (n / most) * 54;
  return (
    <svg
      width={list.length * step + 4}
      height={height}
      role="img"
      aria-label={text.back.sums(d.ready, d.ordered, d.short)}
    >
      <line x1={0} x2={list.length * step + 4} y1={base} y2={base} className="base" />
      {list.map((n, i) => (
        <g key={n.service}>
          <rect
            x={i * step + 4}
            y={y(n.ordered)}
            width={step - 6}
            height={base - y(n.ordered)}
            className={n.short > 0 ? "bar late" : "bar"}
          />
          <line
            x1={i * step + 1}
            x2={i * step + step - 1}
            y1={y(n.ready)}
            y2={y(n.ready)}
            className="ready"
          />
          <title>{text.back.amountOf(n.date, n.ready, n.ordered, n.thrown)}</title>
        </g>
      ))}
    </svg>
  );
}
