import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useHouse } from "../../api/queries";
import { Failed } from "../../app/Empty";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { span } from "../../ui/time";
import { amountOf, dateOf, dayName, sheetLines, type SheetLine } from "./days";
import { usePrep, useTicks } from "./usePrep";

// SheetPage is a section's list for the tablet on the shelf and for print: large ticks,
// what was really made, tasted, a note.
export function SheetPage() {
  const { section: id = "" } = useParams();
  const house = useHouse();
  const prep = usePrep();
  const ticks = useTicks();
  if (prep.error && !prep.data) return <Failed error={prep.error} retry={() => void prep.refetch()} />;
  if (!house.data || !prep.data) return null;
  const p = prep.data;
  const section = house.data.sections.find((s) => s.id === id);
  return (
    <article className="sheet">
      <header>
        <h1>
          <Swatch section={section} /> {section?.name}
        </h1>
        <div className="variants">
          <Button onClick={() => window.print()}>{text.prep.print}</Button>
          <Link className="btn btn-outline-primary" to={`/prep/labels?section=${id}`}>
            {text.prep.labels}
          </Link>
          <a className="btn btn-outline-primary" href={`/api/prep/calendar.ics?section=${id}`}>
            {text.prep.calendar}
          </a>
          <Link className="btn btn-outline-primary" to="/prep">
            {text.screens.prep}
          </Link>
        </div>
      </header>
      <Faulty problem={ticks.problem} />
      {p.days.map((d) => {
        const lines = sheetLines(p.jobs, id, d.date);
        if (lines.length === 0) return null;
        return (
          <section key={d.date} className="card-enamel">
            <h2>
              {dayName(d.date)}
              {d.date === dateOf(p.now) && ` · ${text.prep.today}`}{" "}
              <span className="quiet">{d.services.join(", ")}</span>
            </h2>
            {lines.map((l) => (
              <Line
                key={l.key}
                line={l}
                said={p.ticks.find((t) => t.task === l.step.task)}
                onTick={(t) => void ticks.tick(t)}
              />
            ))}
          </section>
        );
      })}
    </article>
  );
}

function Line({
  line: { job, step, at, who, act, tick },
  said,
  onTick,
}: {
  line: SheetLine;
  said: Schemas["Tick"] | undefined;
  onTick: (t: Schemas["TickIn"]) => void;
}) {
  const [amount, setAmount] = useState<string | null>(null);
  const [note, setNote] = useState<string | null>(null);
  const shownAmount = amount ?? (said?.amount === undefined ? "" : String(said.amount));
  const shownNote = note ?? said?.note ?? "";
  const value = Number(shownAmount.replace(",", "."));
  const send = (done: boolean, tasted = said?.tasted ?? false) =>
    onTick({
      task: step.task,
      done,
      tasted,
      note: shownNote || undefined,
      amount: shownAmount !== "" && value >= 0 ? value : undefined,
    });
  return (
    <div className={`sheet-line${step.done ? " done" : ""}`} data-task={step.task}>
      {tick ? (
        <button
          type="button"
          className="tick"
          aria-pressed={step.done}
          aria-label={`${text.prep.tick} ${job.name}: ${step.name}`}
          onClick={() => send(!step.done)}
        >
          {step.done ? "✓" : ""}
        </button>
      ) : (
        <span className="no-tick" />
      )}
      <span className="when figure">{at.slice(11, 16)}</span>
      <span className="what">
        <b>
          {job.name} {job.of > 1 && `${job.number}/${job.of}`}
        </b>
        <span>
          {act && <b>{act.say}: </b>}
          {step.name}
        </span>
        <span className="quiet">
          {who.join(", ")}
          {step.on.length > 0 && ` · ${step.on.join(", ")}`}
          {step.setpoint_c !== undefined && ` ${step.setpoint_c}°`}
          {act?.kind === "out" && step.stays_s !== undefined && ` · ${text.work.stays} ${span(step.stays_s)}`}
          {step.last && tick && job.kept && ` · ${text.work.kept.toLowerCase()} ${job.kept}`}
          {said?.done && said.person && ` · ${text.prep.tickedBy} ${said.person}`}
        </span>
        {job.steps[0]?.task === step.task &&
          tick &&
          job.contact.map((c) => (
            <span key={c.text} className="mark-wait">
              ◌ {c.text}
            </span>
          ))}
      </span>
      {step.last && tick ? (
        <>
          <label className="field">
            {text.prep.made} ({amountOf(job.amount, job.unit)})
            <input
              className="form-control"
              inputMode="decimal"
              value={shownAmount}
              aria-invalid={Number.isNaN(value)}
              onChange={(e) => setAmount(e.target.value)}
              onBlur={() => amount !== null && step.done && send(true)}
            />
          </label>
          <button
            type="button"
            className="btn btn-outline-primary"
            aria-pressed={said?.tasted ?? false}
            onClick={() => send(step.done, !said?.tasted)}
          >
            {said?.tasted ? "✓ " : ""}
            {text.prep.tasted}
          </button>
        </>
      ) : (
        <span className="spare" />
      )}
      {tick && (
        <label className="field note">
          {text.prep.note}
          <input
            className="form-control"
            value={shownNote}
            onChange={(e) => setNote(e.target.value)}
            onBlur={() => note !== null && send(step.done)}
          />
        </label>
      )}
    </div>
  );
}
