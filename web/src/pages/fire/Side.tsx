import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useSave } from "../../api/useSave";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { clock, span } from "../../ui/time";
import { JoinFacts } from "./OneJoin";

type View = Schemas["FireView"];

const few = 3;

// Side says what does not fit, worst first, what would help, and holds the margin.
export function Side({
  plan,
  id,
  mend,
  chosen,
  onTry,
  onChoose,
  onLook,
  onMargin,
  running,
  goesOn,
}: {
  plan: View;
  id: string;
  mend: string;
  chosen: string;
  onTry: (m: string) => void;
  onChoose: (join: string) => void;
  onLook?: () => void; // to the strands of what is chosen
  onMargin: (margin: number) => void;
  running: ReactNode; // the service as it goes on
  goesOn: boolean; // then it stands first; before, what doesn't fit does
}) {
  const { save, problem } = useSave();
  const [all, setAll] = useState(false);
  const [allMends, setAllMends] = useState(false);
  const mends = useQuery({
    queryKey: keys.fireMends(id, plan.version),
    queryFn: () => settle(api.POST("/api/fire/{id}/mends", { params: { path: { id } } })),
    enabled: !plan.better && plan.trouble.length + (mend ? 1 : 0) > 0,
    staleTime: Infinity,
  });
  const keep = async (m: string) => {
    const kept = await save(() =>
      settle(
        api.POST("/api/fire/{id}/keep", {
          params: { path: { id } },
          body: { mend: m, version: plan.version },
        }),
      ),
    );
    if (kept) onTry("");
  };
  const join = plan.joins.find((j) => j.id === chosen);
  const trouble = all ? plan.trouble : plan.trouble.slice(0, few);
  const list = allMends ? mends.data?.mends : mends.data?.mends.slice(0, few);
  return (
    <aside className="fire-side">
      {goesOn && running}
      {join && onLook && (
        <section className="card-enamel chosen-join">
          <h2>
            {join.name}, {text.courses[join.course]} {clock(join.at)}
          </h2>
          <JoinFacts join={join} />
          <span className="variants">
            <Button look="primary" onClick={onLook}>
              {text.fire.strands}
            </Button>
            <Button onClick={() => onChoose("")}>{text.editor.close}</Button>
          </span>
        </section>
      )}
      <section className="card-enamel doesnt">
        <h2>{text.fire.doesnt}</h2>
        {plan.trouble.length === 0 && <p className="mark-good">● {text.fire.fits}</p>}
        <ul>
          {trouble.map((t, i) => (
            <li key={i}>
              <button type="button" onClick={() => onChoose(t.join)}>
                <b>
                  <span className="mark-late">▲</span> {t.said.text}
                </b>
                <span className="quiet">{t.why.text}</span>
              </button>
            </li>
          ))}
        </ul>
        <More count={plan.trouble.length - few} open={all} onToggle={() => setAll(!all)} />
        {plan.trouble.length > 0 && plan.left && <p className="quiet">{plan.left.text}</p>}
      </section>
      {(plan.trouble.length > 0 || mend) && (
        <section className="card-enamel">
          <h2>{text.fire.helps}</h2>
          <Faulty problem={problem} />
          {!mends.data && <p className="quiet">{text.fire.trying}</p>}
          {mends.data?.mends.length === 0 && <p className="quiet">{text.fire.nothingHelps}</p>}
          <ul>
            {list?.map((m) => (
              <li key={m.id} data-mend={m.id}>
                <b>
                  {m.fits && <span className="mark-good">● </span>}
                  {m.what.text}
                </b>
                {(m.parts ?? []).length > 0 && (
                  <ol className="parts">
                    {(m.parts ?? []).map((p) => (
                      <li key={p.text}>{p.text}</li>
                    ))}
                  </ol>
                )}
                <span className="quiet">
                  <Was title={text.fire.lateness} is={m.late_s} was={m.was_s} />
                  <Was title={text.fire.held} is={m.over_s} was={m.over_was_s} />
                </span>
                <span className="quiet">
                  {text.fire.costs} {m.costs.text}
                </span>
                <span className="variants">
                  <Button
                    look={mend === m.id ? "primary" : "outline-primary"}
                    aria-pressed={mend === m.id}
                    onClick={() => onTry(mend === m.id ? "" : m.id)}
                  >
                    {text.fire.try}
                  </Button>
                  <Button onClick={() => void keep(m.id)}>{text.fire.keep}</Button>
                </span>
              </li>
            ))}
          </ul>
          <More
            count={(mends.data?.mends.length ?? 0) - few}
            open={allMends}
            onToggle={() => setAllMends(!allMends)}
          />
        </section>
      )}
      {!goesOn && running}
      <section className="card-enamel">
        <h2>{text.fire.margin}</h2>
        <label className="margin">
          <span className="quiet">{text.fire.toTheMinute}</span>
          <input
            key={plan.margin}
            type="range"
            min={0}
            max={100}
            step={10}
            name="margin"
            aria-label={text.fire.margin}
            defaultValue={plan.margin}
            onPointerUp={(e) => onMargin(Number(e.currentTarget.value))}
            onKeyUp={(e) => onMargin(Number(e.currentTarget.value))}
          />
          <span className="quiet">{text.fire.safe}</span>
        </label>
        <p className="quiet figure">
          {plan.joins.length} {text.fire.joins}, {plan.tasks} {text.fire.steps}
        </p>
      </section>
    </aside>
  );
}

// Was says a length of time with what it was before; nothing where both are nothing.
function Was({ title, is, was }: { title: string; is: number; was: number }) {
  if (is === 0 && was === 0) return null;
  return (
    <>
      {title} <b className="figure">{span(is)}</b>, {text.fire.was}{" "}
      <span className="figure">{span(was)}</span>.{" "}
    </>
  );
}

function More({ count, open, onToggle }: { count: number; open: boolean; onToggle: () => void }) {
  if (count <= 0) return null;
  return (
    <button type="button" className="more" aria-expanded={open} onClick={onToggle}>
      {open ? text.fire.fewer : `${count} ${text.fire.more}`}
    </button>
  );
}
