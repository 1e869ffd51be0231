import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, settle } from "../../api/client";
import { keys } from "../../api/keys";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Along } from "./Along";
import { shown, type Night } from "./night";

// ComparePage is two evenings beside each other: what there is to say of each, and both along the same clock.
export function ComparePage() {
  const [params] = useSearchParams();
  const words = text.back;
  const ids = [params.get("a") ?? "", params.get("b") ?? ""];
  const both = useQueries({
    queries: ids.map((id) => ({
      queryKey: keys.back(id),
      queryFn: () => settle(api.GET("/api/lookback/{id}", { params: { path: { id } } })),
      enabled: id !== "",
      staleTime: 60_000,
    })),
  });
  const error = both.find((q) => q.error)?.error;
  if (error) return <Failed error={error} retry={() => both.forEach((q) => void q.refetch())} />;
  const nights = both.flatMap((q) => q.data ?? []);
  if (nights.length < 2) return null;
  const span = shown(nights);
  return (
    <article className="sheet back">
      <header>
        <div>
          <h1>{words.beside}</h1>
          <p className="quiet">{nights.map((n) => n.name).join(" · ")}</p>
        </div>
        <div className="variants">
          <Link className="btn btn-outline-primary" to="/back">
            {words.all}
          </Link>
        </div>
      </header>
      {nights.map((n) => (
        <One key={n.service} n={n} span={span} />
      ))}
      <p className="quiet">{words.alongNote(nights[0]?.grace_s ?? 180)}</p>
    </article>
  );
}

function One({ n, span }: { n: Night; span: [number, number] }) {
  const [chosen, setChosen] = useState("");
  return (
    <section className="card-enamel">
      <h2>
        <Link to={`/back/${n.service}`}>{n.name}</Link>
      </h2>
      <ul className="said">
        {n.said.slice(0, 4).map((m, i) => (
          <li key={i}>{m.text}</li>
        ))}
      </ul>
      <Along n={n} chosen={chosen} choose={setChosen} span={span} />
    </section>
  );
}
