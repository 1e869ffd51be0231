import { useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { api, settle } from "../../api/client";
import { keys } from "../../api/keys";
import { useHouse } from "../../api/queries";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import type { Practice } from "./usePractice";

const paces = [1, 2, 4, 8, 20, 60];

// PlayedBar stands above a screen that shows what is played: how fast it goes, and its end. Whoever looks at it must never take it for
// service.
export function PlayedBar({ practice: p }: { practice: Practice }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const sections = useHouse().data?.sections.filter((s) => s.id !== "pass") ?? [];
  const words = text.train;
  const keep = (x: Practice) => queries.setQueryData(keys.practice(p.id), x);
  const pace = (to: number) =>
    void settle(
      api.PUT("/api/practices/{id}/pace", { params: { path: { id: p.id } }, body: { pace: to } }),
    ).then(keep);
  const end = () =>
    void settle(api.DELETE("/api/practices/{id}", { params: { path: { id: p.id } } })).then((x) => {
      keep(x);
      void go(p.section ? `/fire/train/${p.id}` : `/fire/rehearse?service=${p.service}`);
    });
  const at = `?service=${encodeURIComponent(p.id)}`;
  return (
    <div
      className="played-bar"
      data-watched={!p.section}
      role="region"
      aria-label={p.section ? words.training : words.playing}
    >
      <b>
        {p.section ? words.training : words.playing}
        <small>{p.exercise?.name ?? p.name}</small>
      </b>
      {p.running ? (
        <span className="presses" role="group" aria-label={words.pace}>
          <button type="button" aria-pressed={p.pace === 0} aria-label={words.still} onClick={() => pace(0)}>
            {words.stillShort}
          </button>
          {paces.map((n) => (
            <button
              key={n}
              type="button"
              className="figure"
              aria-pressed={p.pace === n}
              onClick={() => pace(n)}
            >
              {words.times(n)}
            </button>
          ))}
        </span>
      ) : (
        <span className="presses">{words.over}</span>
      )}
      {!p.section && (
        <nav>
          <Link to={`/pass${at}`}>{words.pass}</Link>
          {sections.map((s) => (
            <Link key={s.id} to={`/section/${s.id}${at}`}>
              {s.name}
            </Link>
          ))}
        </nav>
      )}
      {p.running ? (
        <Button look="outline-danger" onClick={end}>
          {words.end}
        </Button>
      ) : (
        <Link
          className="btn btn-outline-primary"
          to={p.section ? `/fire/train/${p.id}` : `/fire/rehearse?service=${p.service}`}
        >
          {p.section ? words.how : text.rehearse.title}
        </Link>
      )}
    </div>
  );
}
