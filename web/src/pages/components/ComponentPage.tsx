import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { useComponent, useComponents, useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Swatch } from "../../ui/Swatch";
import { span } from "../../ui/time";

// ComponentPage is one component: its steps typed as kitchen lines, what is understood
// of each beside it, and the chain that they make.
export function ComponentPage() {
  const { id = "" } = useParams();
  const component = useComponent(id);
  const said = useQuery({
    queryKey: ["lines", id, component.data?.version],
    queryFn: () => settle(api.GET("/api/components/{id}/lines", { params: { path: { id } } })),
    enabled: component.data !== undefined,
  });
  if (component.error) return <Failed error={component.error} retry={() => void component.refetch()} />;
  if (!component.data || !said.data) return null;
  return <Editor key={`${id}/${component.data.version}`} view={component.data} said={said.data} />;
}

function Editor({ view, said }: { view: Schemas["ComponentView"]; said: Schemas["LinesView"] }) {
  const c = view.component;
  const queries = useQueryClient();
  const go = useNavigate();
  const house = useHouse();
  const all = useComponents();
  const [draft, setDraft] = useState(said.text);
  const [read, setRead] = useState(said);
  const [problem, setProblem] = useState<Problem | null>(null);
  const asked = useRef(0);
  const section = house.data?.sections.find((s) => s.id === c.section);
  const dishes = all.data?.find((x) => x.id === c.id)?.dishes ?? [];

  const type = async (value: string) => {
    setDraft(value);
    const mine = ++asked.current;
    try {
      const answer = await settle(
        api.POST("/api/components/{id}/lines", { params: { path: { id: c.id } }, body: { text: value } }),
      );
      if (mine === asked.current) setRead(answer);
    } catch (e) {
      if (e instanceof Problem) setProblem(e);
    }
  };
  const save = async () => {
    try {
      await settle(
        api.PUT("/api/components/{id}/lines", {
          params: { path: { id: c.id } },
          body: { version: view.version, text: draft },
        }),
      );
      setProblem(null);
      await queries.invalidateQueries();
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setProblem(e);
    }
  };
  const lines = draft.split("\n");
  const changed = draft !== said.text;
  return (
    <article className="component-page">
      <header>
        <div>
          <h1>{c.name}</h1>
          <span className="quiet">
            <Swatch section={section} /> {section?.name} · {text.dish.version} {view.version}
            {dishes.length > 0 && ` · ${text.component.usedIn} ${dishes.join("; ")}`}
          </span>
        </div>
        <div className="variants">
          <Button onClick={() => void go(-1)}>{text.component.back}</Button>
          <Button look="primary" disabled={!changed || read.faults.length > 0} onClick={() => void save()}>
            {text.component.save}
          </Button>
        </div>
      </header>
      <p className="quiet">{text.component.how}</p>
      {problem && (
        <div className="trouble" role="alert">
          {problem.status === 409
            ? text.conflict.title
            : problem.faults.map((f) => f.message).join(". ") || problem.message}
        </div>
      )}
      <div className="card-enamel lines-editor">
        <textarea
          aria-label={text.component.lines}
          spellCheck={false}
          rows={Math.max(8, lines.length + 1)}
          value={draft}
          onChange={(e) => void type(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) void save();
          }}
        />
        <ul aria-label={text.component.understood}>
          {read.readings.map((r, i) => (
            <li key={i}>
              {r.understood.length > 0 && <span className="mark-good">{r.understood.join(" · ")}</span>}
              {r.unsure && <span className="mark-wait"> ◌ {r.unsure}</span>}
            </li>
          ))}
        </ul>
      </div>
      {read.faults.length > 0 && (
        <div className="trouble" role="alert">
          <ul>
            {read.faults.map((f, i) => (
              <li key={i}>{f.message}</li>
            ))}
          </ul>
        </div>
      )}
      <Chain steps={read.steps} hold={read.hold} />
      <p className="quiet">
        <Link to="/dishes">{text.component.toDishes}</Link>
      </p>
    </article>
  );
}

// Chain shows the steps in their order, with the waits between and the cut.
function Chain({ steps, hold }: { steps: Schemas["Step"][]; hold: Schemas["Wait"] }) {
  const wait = (w: Schemas["Wait"] | undefined) =>
    w && (w.shortest > 0 || w.best !== undefined || w.longest !== undefined)
      ? [
          w.shortest > 0 ? `${text.editor.shortest} ${span(w.shortest)}` : "",
          w.best !== undefined ? `${text.editor.best} ${span(w.best)}` : "",
          w.longest !== undefined ? `${text.editor.longest} ${span(w.longest)}` : "",
          w.place ? (text.where[w.place] ?? "") : "",
        ]
          .filter(Boolean)
          .join(", ")
      : "";
  return (
    <ol className="chain" aria-label={text.component.chain}>
      {steps.map((s, i) => (
        <li key={s.id}>
          {i > 0 && wait(s.after[0]) && <div className="between">{wait(s.after[0])}</div>}
          {s.phase === "pick-up" && steps[i - 1]?.phase !== "pick-up" && (
            <div className="gate">{text.component.toOrder}</div>
          )}
          <div className={`link ${s.hands}`}>
            <b>{s.name || text.component.unnamed}</b>
            <span>
              {span(s.time.fixed.likely)}
              {s.time.per_portion.likely > 0 &&
                ` + ${span(s.time.per_portion.likely)} ${text.component.each}`}
            </span>
            <span>{text.editor[s.hands]}</span>
            {s.equipment && (
              <span>
                {s.equipment.kind}
                {s.equipment.setpoint_c !== undefined && ` ${s.equipment.setpoint_c}°`}
              </span>
            )}
            {s.batch && (
              <span>
                {text.component.batches} {s.batch.portions}
              </span>
            )}
            {s.checks.map((k, n) => (
              <span key={n}>
                {k.kind}
                {k.target_c !== undefined ? ` ${k.target_c} °C` : `: ${k.say ?? ""}`}
              </span>
            ))}
            {s.dangers.map((d) => (
              <span key={d} className="mark-wait">
                {text.component.mind} {d.replace("-", " ")}
              </span>
            ))}
          </div>
        </li>
      ))}
      {wait(hold) && (
        <li>
          <div className="between">
            {text.editor.hold}: {wait(hold)}
          </div>
        </li>
      )}
    </ol>
  );
}
