import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useComponent, useComponents, useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { NotesHere } from "../back/Notes";
import { Button } from "../../ui/Button";
import { Faulty, Select, TextField } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { Chain } from "./Chain";
import { forget, keep, kept } from "./lineDrafts";
import { LineReadings } from "./LineReadings";
import { Makings } from "./Makings";
import { Safety } from "./Safety";
import { Pot } from "./Pot";
import { useComponentChanges } from "./useComponentChanges";

// ComponentPage is one component: its chain of steps, drawn or typed as kitchen lines,
// and what it is made of.
export function ComponentPage() {
  const { id = "" } = useParams();
  const component = useComponent(id);
  const house = useHouse();
  if (component.error && !component.data)
    return <Failed error={component.error} retry={() => void component.refetch()} />;
  if (!component.data || !house.data) return null;
  return <Editor key={id} view={component.data} house={house.data} />;
}

function Editor({ view, house }: { view: Schemas["ComponentView"]; house: Schemas["House"] }) {
  const c = view.component;
  const go = useNavigate();
  const all = useComponents();
  const changes = useComponentChanges(view);
  const [asLines, setAsLines] = useState(c.steps.length === 0);
  const section = house.sections.find((s) => s.id === c.section);
  const line = all.data?.find((x) => x.id === c.id);
  const { takeBack, canUndo } = changes;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      if (e.key.toLowerCase() === "z" && (e.ctrlKey || e.metaKey) && !e.shiftKey && !typing && canUndo) {
        e.preventDefault();
        takeBack();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [takeBack, canUndo]);
  const copy = async () => {
    const name = window.prompt(text.life.copyName, `${c.name} 2`)?.trim();
    if (!name) return;
    const made = await changes.send(() =>
      settle(api.POST("/api/components/{id}/copy", { params: { path: { id: c.id } }, body: { name } })),
    );
    if (made) await go(`/components/${made.component.id}`);
  };
  return (
    <article className="component-page">
      <header>
        <div className="title">
          <h1>
            <Swatch section={section} /> {c.name}
          </h1>
          <span className="quiet">
            {section?.name} · {text.dish.version} {view.version}
            {c.archived && <b className="state retired">{text.component.archived}</b>}
            {(line?.dishes.length ?? 0) > 0 && ` · ${text.component.usedIn} ${line?.dishes.join("; ")}`}
          </span>
        </div>
        <div className="variants">
          {canUndo && <Button onClick={takeBack}>{text.strands.undo}</Button>}
          <Button
            aria-pressed={!asLines}
            look={asLines ? "outline-primary" : "primary"}
            onClick={() => setAsLines(false)}
          >
            {text.component.asChain}
          </Button>
          <Button
            aria-pressed={asLines}
            look={asLines ? "primary" : "outline-primary"}
            onClick={() => setAsLines(true)}
          >
            {text.component.lines}
          </Button>
          <Button onClick={() => void copy()}>{text.life.copy}</Button>
          <Button onClick={() => void changes.save({ ...c, archived: !c.archived || undefined })}>
            {c.archived ? text.component.bringBack : text.component.archive}
          </Button>
          <Link className="btn btn-outline-primary" to="/components">
            {text.component.all}
          </Link>
        </div>
      </header>
      <Faulty problem={changes.problem} />
      <NotesHere where={{ component: c.id }} />
      <p className="quiet" aria-live="polite">
        {changes.said || (asLines ? text.component.how : text.chain.how)}
      </p>
      {(!view.known || view.suggests.length > 0) && (
        <p className="recipe-standing">
          {!view.known && (
            <span className="mark-late">
              ▲{" "}
              {c.ingredients.length + c.uses.length === 0
                ? text.recipe.notEntered
                : c.signed
                  ? text.recipe.changed(c.signed.by, c.signed.at.slice(0, 10))
                  : text.recipe.unsigned}{" "}
              <Link to="/components/read">{text.recipe.read}</Link>
            </span>
          )}
          {view.suggests.map((x) => (
            <span key={x.word + x.where} className="mark-wait">
              ◌ {text.recipe.suggests(x.word, x.allergen ?? x.matter ?? "")}
              {x.where === "step" && ` (${text.recipe.inStep})`}
              {x.where === "name" && ` (${text.recipe.inName})`}
            </span>
          ))}
        </p>
      )}
      <div className="fields">
        <TextField
          wide
          name="component-name"
          label={text.makings.name}
          value={c.name}
          onSave={(name) => void changes.save({ ...c, name })}
        />
        <Select
          label={text.newDish.section}
          value={c.section}
          options={house.sections.filter((s) => !s.pass).map((s) => [s.id, s.name] as const)}
          onSave={(v) => void changes.save({ ...c, section: v })}
        />
        <Select
          label={text.work.thing}
          value={c.thing ?? ""}
          options={[
            [
              "",
              `${(c.thing ? "" : view.assumed.thing) || text.work.notKnown} (${text.work.guessed})`,
            ] as const,
            ...house.choices.things.map((u) => [u.kind, u.name] as const),
          ]}
          onSave={(v) => void changes.save({ ...c, thing: v || undefined })}
        />
      </div>
      <Pot component={c} house={house} onSave={(pot) => void changes.save({ ...c, pot })} />
      {asLines ? (
        <Lines key={view.version} view={view} onSave={changes.lines} />
      ) : (
        <Chain
          component={c}
          assumed={view.assumed}
          heating={view.heating}
          ovens={view.ovens}
          mates={view.mates}
          house={house}
          onSave={(n) => void changes.save(n)}
          onEdit={(e) => void changes.chain(e)}
          onProbe={changes.probe}
        />
      )}
      <Safety view={view} house={house} />
      <Makings component={c} house={house} all={all.data ?? []} onSave={(n) => void changes.save(n)} />
    </article>
  );
}

// Lines is the component typed as plain text; what is understood stands beside each line.
function Lines({
  view,
  onSave,
}: {
  view: Schemas["ComponentView"];
  onSave: (t: string) => Promise<boolean>;
}) {
  const { id } = view.component;
  const said = useQuery({
    queryKey: keys.lines(id, view.version),
    queryFn: () => settle(api.GET("/api/components/{id}/lines", { params: { path: { id } } })),
  });
  const [draft, setDraft] = useState<string | null>(() => kept(id));
  const read = useQuery({
    queryKey: keys.readLines(id, draft),
    queryFn: () =>
      settle(
        api.POST("/api/components/{id}/lines", { params: { path: { id } }, body: { text: draft ?? "" } }),
      ),
    enabled: draft !== null,
    placeholderData: (old) => old,
    retry: false,
    staleTime: Infinity,
  });
  if (!said.data) return null;
  const saved = said.data.text;
  const shown = draft ?? saved;
  const understood = (draft !== null && read.data) || said.data;
  const refused = draft !== null && read.error instanceof Problem ? read.error : null; // not even read
  const type = (value: string) => {
    setDraft(value);
    keep(id, value, saved);
  };
  const changed = draft !== null && draft !== saved;
  return (
    <>
      <div className="card-enamel lines-editor">
        <textarea
          aria-label={text.component.lines}
          spellCheck={false}
          rows={Math.max(8, shown.split("\n").length + 1)}
          value={shown}
          onChange={(e) => type(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) void onSave(shown);
          }}
        />
        <LineReadings readings={understood.readings} typed={shown} onType={type} />
      </div>
      {understood.faults.length > 0 && (
        <div className="trouble" role="alert">
          <ul>
            {understood.faults.map((f, i) => (
              <li key={i}>{f.message.text}</li>
            ))}
          </ul>
        </div>
      )}
      <Faulty problem={refused} />
      <div className="variants">
        <Button
          look="primary"
          disabled={!changed || understood.faults.length > 0 || refused !== null}
          onClick={() => void onSave(shown)}
        >
          {text.component.save}
        </Button>
        {changed && (
          <Button
            onClick={() => {
              forget(id);
              setDraft(null);
            }}
          >
            {text.component.putBack}
          </Button>
        )}
      </div>
    </>
  );
}
