import { useEffect, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { whyOf } from "../../api/problem";
import { usePlan } from "../../api/queries";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Waiting } from "../../ui/Waiting";
import { clock, clockSeconds, span, usualJoin } from "../../ui/time";
import { ClashDialog } from "./ClashDialog";
import { StepEditor } from "./StepEditor";
import { Strands } from "./Strands";
import { useChanges } from "./useChanges";

// Firing is a dish laid back from the moment its plate is complete: when each
// component is fired for a table of n, and the strands that lead there.
export function Firing({
  dish,
  variant,
  draft,
  house,
}: {
  dish: string;
  variant: string;
  draft: boolean;
  house: Schemas["House"];
}) {
  const [params, setParams] = useSearchParams();
  const count = Math.min(60, Math.max(1, Number(params.get("n") ?? 4) || 4));
  const at = params.get("at") ?? usualJoin;
  const hands = Math.min(8, Math.max(1, Number(params.get("hands") ?? house.kitchen.plating_hands) || 2));
  const wish = useMemo(
    () => ({
      orders: [{ dish, count, variant: variant || undefined }],
      clock: at,
      hands,
      draft: draft || undefined,
    }),
    [dish, count, variant, at, hands, draft],
  );
  const plan = usePlan(wish);
  const changes = useChanges(wish);
  const [chosen, setChosen] = useState<{ component: string; task: string; step: string } | null>(null);
  const { takeBack, canUndo } = changes;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      if (e.key.toLowerCase() === "z" && (e.ctrlKey || e.metaKey) && !e.shiftKey && !typing && canUndo) {
        e.preventDefault();
        void takeBack();
      }
      if (e.key === "Escape") setChosen(null);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [takeBack, canUndo]);
  const set = (key: string, value: string) => {
    const next = new URLSearchParams(params);
    next.set(key, value);
    setParams(next, { replace: true });
  };
  const p = plan.data;
  return (
    <>
      <section className="strands card-enamel" aria-label={text.strands.title}>
        <div className="bar-head">
          <label>
            <b>{text.strands.title}</b>
            <Typed
              name="n"
              value={String(count)}
              valid={(v) => /^([1-9]|[1-5]\d|60)$/.test(v)}
              onChange={(v) => set("n", v)}
            />
          </label>
          <label>
            {text.strands.joins}
            <Typed
              name="at"
              value={at}
              valid={(v) => /^([01]?\d|2[0-3]):[0-5]\d$/.test(v)}
              onChange={(v) => set("at", v.padStart(5, "0"))}
            />
          </label>
          <label>
            <Typed
              name="hands"
              value={String(hands)}
              valid={(v) => /^[1-8]$/.test(v)}
              onChange={(v) => set("hands", v)}
            />
            {text.strands.hands}
          </label>
          {p && !plan.isPlaceholderData && <Verdict plan={p} />}
        </div>
        {plan.error && !p ? (
          <p className="trouble m-3" role="alert">
            {whyOf(plan.error)}
          </p>
        ) : null}
        {p && p.status !== "impossible" && (
          <Waiting on={plan.isPlaceholderData}>
            <div className="chart">
              <Fires plan={p} />
              <Strands
                plan={p}
                sections={house.sections}
                chosen={chosen?.task ?? null}
                onChoose={(component, bar) => setChosen({ component, task: bar.task, step: bar.step })}
                onStretch={(component, bar, seconds) =>
                  void changes.change(
                    component,
                    bar.step,
                    { likely_s: seconds, portions: bar.portions },
                    `${bar.name}: ${span(seconds)}`,
                  )
                }
              />
            </div>
          </Waiting>
        )}
        <div className="bar-head border-0">
          <span className="quiet">
            {p &&
              !plan.isPlaceholderData &&
              [
                p.racked &&
                  `${text.strands.begun} ${clock(p.racked.at)}, ${span(p.racked.to_s - p.racked.from_s)}, ${p.racked.people.join(` ${text.and} `)}`,
                `${text.strands.plating} ${span(p.plating_s)}, ${p.platers.join(` ${text.and} `)}`,
                p.stand_s > 0 && `${text.strands.stands} ${span(p.stand_s)}`,
              ]
                .filter(Boolean)
                .join(" · ")}
          </span>
          <div className="said" aria-live="polite">
            {changes.fault && <span className="mark-late">{changes.fault.message}</span>}
            {!changes.fault && (changes.said || <span className="quiet">{text.strands.hint}</span>)}
            {changes.canUndo && (
              <Button onClick={() => void changes.takeBack()} disabled={changes.busy}>
                {text.strands.undo}
              </Button>
            )}
          </div>
        </div>
      </section>
      {p && !plan.isPlaceholderData && p.trouble.length > 0 && <Trouble plan={p} />}
      {chosen && (
        <StepEditor
          key={`${chosen.component}/${chosen.step}`}
          component={chosen.component}
          step={chosen.step}
          faults={changes.fault?.faults ?? []}
          onSave={(c, mine) => changes.change(chosen.component, chosen.step, c, mine)}
          onClose={() => {
            setChosen(null);
            changes.clearFault();
          }}
        />
      )}
      {changes.clash && (
        <ClashDialog
          clash={changes.clash}
          onTheirs={() => void changes.refresh()}
          onMine={(c) => void changes.change(c.component, c.step, c.change, c.mine, true)}
        />
      )}
    </>
  );
}

// Typed is a small field that takes its value when it can be understood, on Enter
// or on leaving; the typed value stays when it cannot.
function Typed({
  name,
  value,
  valid,
  onChange,
}: {
  name: string;
  value: string;
  valid: (v: string) => boolean;
  onChange: (v: string) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const shown = draft ?? value;
  const ok = valid(shown.trim());
  const take = () => {
    if (draft === null || !ok) return;
    if (draft.trim() !== value) onChange(draft.trim());
    setDraft(null);
  };
  return (
    <input
      className="form-control"
      name={name}
      inputMode="numeric"
      value={shown}
      aria-invalid={!ok}
      style={ok ? undefined : { borderColor: "var(--vermilion)" }}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => e.key === "Enter" && take()}
    />
  );
}

function Verdict({ plan }: { plan: Schemas["Plan"] }) {
  if (plan.status === "impossible") return <span className="mark-late">{text.strands.cannot}</span>;
  if (plan.trouble.length > 0) return <span className="mark-late">▲ {text.strands.not}</span>;
  if (plan.late_s !== 0)
    return (
      <span className="mark-late">
        ▲ {clock(plan.join_at)}, {span(Math.abs(plan.late_s))}{" "}
        {plan.late_s > 0 ? text.strands.late : text.strands.early}
      </span>
    );
  return (
    <span className="mark-good">● {plan.status === "optimal" ? text.strands.best : text.strands.good}</span>
  );
}

function Trouble({ plan }: { plan: Schemas["Plan"] }) {
  return (
    <div className="trouble" role="alert">
      <b>{plan.status === "impossible" ? text.strands.impossible : text.strands.broken}</b>
      <ul>
        {plan.trouble.map((t, i) => (
          <li key={i}>{t.text}</li>
        ))}
      </ul>
    </div>
  );
}

// Fires lists the firing times in plating order, beside the strands.
export function Fires({ plan }: { plan: Schemas["Plan"] }) {
  return (
    <div className="fires">
      <table>
        <thead>
          <tr>
            <th>{text.strands.fire}</th>
            <th>{text.strands.component}</th>
          </tr>
        </thead>
        <tbody>
          {plan.strands.map((s) => (
            <tr key={`${s.component} ${s.apart}`} data-component={s.component}>
              <td className="time">
                {s.fire_at ? (
                  <>
                    {clock(s.fire_at)}
                    <small>:{clockSeconds(s.fire_at)}</small>
                  </>
                ) : (
                  <span className="quiet" style={{ fontSize: "0.92rem" }}>
                    {text.strands.ready}
                  </span>
                )}
              </td>
              <td className="name">
                <span>{s.name}</span>
                {s.apart && (s.fired || s.contains.length > 0) && (
                  <small className="mark-late">
                    ▲ {s.contains.length > 0 ? text.fire.contains(s.contains) : text.fire.apart}
                  </small>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
