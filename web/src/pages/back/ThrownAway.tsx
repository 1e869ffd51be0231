import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { newId } from "../../api/live";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { BookOptions } from "./BookOptions";

type Thrown = Schemas["ThrownView"];
const whys = ["too-much", "spoilt", "dropped", "overdone", "came-back", "other"] as const;

// ThrownAway is what was thrown away after a service, and where more of it is said.
export function ThrownAway({ service }: { service: string }) {
  const words = text.back;
  const queries = useQueryClient();
  const list =
    useQuery({
      queryKey: keys.thrown(service),
      queryFn: () => settle(api.GET("/api/services/{id}/thrown", { params: { path: { id: service } } })),
    }).data ?? [];
  const [about, setAbout] = useState("");
  const [portions, setPortions] = useState("");
  const [why, setWhy] = useState<Thrown["why"]>("too-much");
  const [problem, setProblem] = useState("");
  const [all, setAll] = useState(false);
  const after = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: keys.thrown(service) }),
      queries.invalidateQueries({ queryKey: keys.amounts }),
    ]);
  const fails = (e: unknown) => setProblem((e as Error).message);
  const write = () => {
    const [kind = "dish", id = ""] = about.split("/");
    void settle(
      api.POST("/api/services/{id}/thrown", {
        params: { path: { id: service } },
        body: { id: newId(), kind: kind as Thrown["kind"], about: id, portions: Number(portions), why },
      }),
    )
      .then(() => {
        setPortions("");
        setProblem("");
        return after();
      })
      .catch(fails);
  };
  const undo = (t: Thrown) =>
    void settle(api.DELETE("/api/thrown/{number}", { params: { path: { number: t.number } } }))
      .then(after)
      .catch(fails);
  const shown = all ? list : list.slice(0, 8);
  return (
    <section className="card-enamel thrown">
      <h2>{words.thrown}</h2>
      <ul>
        {shown.map((t) => (
          <li key={t.number} className={t.undone ? "quiet" : undefined}>
            <span>
              <b className="figure">{t.portions}</b> {t.name}: {words.why[t.why]}
              <small className="quiet"> {[t.words, t.person].filter(Boolean).join(", ")}</small>
            </span>
            {t.undone ? (
              <small className="quiet">{words.thrownUndone}</small>
            ) : (
              <Button onClick={() => undo(t)}>{words.takeBack}</Button>
            )}
          </li>
        ))}
      </ul>
      {!all && list.length > shown.length && (
        <button type="button" className="link" onClick={() => setAll(true)}>
          + {list.length - shown.length}
        </button>
      )}
      {list.length === 0 && <p className="quiet">{words.thrownNone}</p>}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          write();
        }}
      >
        <select
          className="form-select"
          aria-label={words.thrownWhat}
          value={about}
          onChange={(e) => setAbout(e.target.value)}
        >
          <option value="">{words.thrownWhat}</option>
          <BookOptions />
        </select>
        <input
          className="form-control"
          aria-label={words.portions}
          placeholder={words.portions}
          inputMode="numeric"
          value={portions}
          onChange={(e) => setPortions(e.target.value.replace(/\D/g, "").slice(0, 4))}
        />
        <select
          className="form-select"
          aria-label={words.thrownWhy}
          value={why}
          onChange={(e) => setWhy(e.target.value as Thrown["why"])}
        >
          {whys.map((w) => (
            <option key={w} value={w}>
              {words.why[w]}
            </option>
          ))}
        </select>
        <Button look="primary" type="submit" disabled={about === "" || Number(portions) < 1}>
          {words.addThrown}
        </Button>
      </form>
      {problem && <p className="mark-late">▲ {problem}</p>}
    </section>
  );
}
