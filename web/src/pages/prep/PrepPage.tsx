import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { refused, whyOf } from "../../api/problem";
import { useHouse } from "../../api/queries";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { Faulty } from "../../ui/fields";
import { Swatch } from "../../ui/Swatch";
import { clock, span } from "../../ui/time";
import { amountOf, dateOf, dayClock, dayName, entriesOf, look, shape, workOf, type Entry } from "./days";
import { JobPanel } from "./JobPanel";
import { usePrep, useTicks } from "./usePrep";

// PrepPage is the make-ahead work over days: what was forgotten first, then days as
// columns and sections as rows.
export function PrepPage() {
  const house = useHouse();
  const prep = usePrep();
  const ticks = useTicks();
  const [chosen, setChosen] = useState("");
  if (house.data?.empty) return <Empty />;
  if (prep.error && !prep.data && !refused(prep.error))
    return <Failed error={prep.error} retry={() => void prep.refetch()} />;
  if (!house.data) return null;
  if (!prep.data) return <p className="quiet p-4">{prep.error ? whyOf(prep.error) : text.prep.reckoning}</p>;
  const p = prep.data;
  const today = dateOf(p.now);
  const job = p.jobs.find((j) => j.id === chosen);
  const sections = house.data.sections.filter((s) =>
    p.jobs.some((j) => j.steps.some((x) => x.section === s.id)),
  );
  return (
    <article className="prep">
      <header>
        <h1>
          {text.screens.prep}{" "}
          <small className="quiet">
            {text.fire.plan} {p.number}, {text.fire.since} {clock(p.made_at)}
            {p.following && ` · ${text.prep.following}`}
          </small>
        </h1>
        <nav className="variants" aria-label={text.prep.ways}>
          <Link className="btn btn-outline-primary" to="/prep/services">
            {text.prep.services}
          </Link>
          <Link className="btn btn-outline-primary" to="/prep/ingredients">
            {text.prep.ingredients}
          </Link>
          <Link className="btn btn-outline-primary" to="/prep/labels">
            {text.prep.labels}
          </Link>
          <Link className="btn btn-outline-primary" to="/prep/temperatures">
            {text.safety.log}
          </Link>
          <a className="btn btn-outline-primary" href="/api/prep/calendar.ics">
            {text.prep.calendar}
          </a>
        </nav>
      </header>
      {p.said.key && (
        <p className="said-line" aria-live="polite">
          {p.said.text}
        </p>
      )}
      <Faulty problem={ticks.problem} />
      {p.jobs.length === 0 && <p className="quiet">{text.prep.nothing}</p>}
      <Trouble plan={p} onChoose={setChosen} />
      <Gates plan={p} sections={house.data.sections} />
      <div className="prep-body">
        <div className="prep-scroll">
          <table className="prep-grid">
            <thead>
              <tr>
                <th aria-label={text.newDish.section} />
                {p.days.map((d) => (
                  <th key={d.date} className={d.date === today ? "today" : undefined}>
                    {dayName(d.date)}
                    {d.date === today && ` · ${text.prep.today}`}
                    <span>{d.services.join(", ")}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {sections.map((s) => (
                <tr key={s.id} data-section={s.id}>
                  <th>
                    <Link to={`/prep/sheet/${s.id}`}>
                      <Swatch section={s} /> {s.name}
                      <small>{text.prep.sheet}</small>
                    </Link>
                  </th>
                  {p.days.map((d) => (
                    <td key={d.date} className={d.date === today ? "today" : undefined}>
                      {entriesOf(p.jobs, s.id, d.date).map((e) => (
                        <EntryCard
                          key={e.job.id}
                          entry={e}
                          today={today}
                          chosen={chosen === e.job.id}
                          onChoose={() => setChosen(chosen === e.job.id ? "" : e.job.id)}
                        />
                      ))}
                      {p.load
                        .filter((l) => l.date === d.date)
                        .filter((l) => l.section === s.id && l.hands_s > 0)
                        .map((l) => (
                          <p key={l.person} className="load quiet">
                            {l.person} {workOf(l.hands_s)}
                          </p>
                        ))}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        {job && (
          <JobPanel
            job={job}
            plan={p}
            today={today}
            onClose={() => setChosen("")}
            onTick={(t) => void ticks.tick(t)}
          />
        )}
      </div>
    </article>
  );
}

function EntryCard({
  entry: { job, steps },
  today,
  chosen,
  onChoose,
}: {
  entry: Entry;
  today: string;
  chosen: boolean;
  onChoose: () => void;
}) {
  const first = steps[0];
  const done = steps.every((s) => s.done);
  const state = done ? "done" : job.state;
  return (
    <button
      type="button"
      className={`entry ${state}`}
      aria-pressed={chosen}
      data-job={job.id}
      onClick={onChoose}
    >
      <span className="when">{first?.start_at.slice(11, 16)}</span>
      <span className="what">
        <b>{job.name}</b>
        {job.of > 1 && <span className="quiet"> {`${job.number}/${job.of}`}</span>}
        <span className="quiet">
          {steps.length < job.steps.filter((s) => s.hands !== "none").length
            ? steps.map((s) => s.name).join(", ")
            : `${amountOf(job.amount, job.unit)} · ${text.prep.by} ${dayClock(job.start_by, today)}`}
        </span>
      </span>
      <span className={look[state]} aria-label={text.prep.states[state]}>
        {shape[state]}
      </span>
    </button>
  );
}

function Trouble({ plan, onChoose }: { plan: Schemas["PrepView"]; onChoose: (id: string) => void }) {
  if (plan.trouble.length === 0 && plan.problems.length === 0) return null;
  return (
    <section className="trouble prep-trouble" aria-label={text.prep.trouble}>
      {plan.trouble.map((t) => (
        <div key={t.job}>
          <button type="button" className="plainly" onClick={() => onChoose(t.job)}>
            <span className="mark-late">▲ {text.prep.states[t.kind]}</span> {t.said.text}
          </button>
          <ul>
            {t.helps.map((h, i) => (
              <li key={i}>{h.text}</li>
            ))}
          </ul>
        </div>
      ))}
      <Helps plan={plan} />
      {plan.problems.map((x, i) => (
        <p key={i} className="mb-0">
          <span className="mark-wait">◌</span> {x.text}
        </p>
      ))}
    </section>
  );
}

// Helps are what can still be done about what is not ready, each planned again.
function Helps({ plan }: { plan: Schemas["PrepView"] }) {
  const mends = useQuery({
    queryKey: keys.prepMends(plan.cost, plan.now),
    queryFn: () => settle(api.POST("/api/prep/mends")),
    enabled: plan.trouble.length > 0,
    staleTime: Infinity,
  });
  if (plan.trouble.length === 0) return null;
  return (
    <div className="helps" aria-live="polite">
      <b>{text.prep.helps}</b>
      {!mends.data && <span className="quiet">{text.prep.lookHelps}</span>}
      {mends.data?.length === 0 && <span className="quiet">{text.prep.noHelp}</span>}
      <ul>
        {mends.data?.slice(0, 5).map((m) => (
          <li key={m.what.text} data-prep-mend={m.what.text}>
            <b>{m.what.text}</b>: {span(m.late_s)} {text.prep.helpsAll}, {text.fire.was} {span(m.was_s)}.{" "}
            <span className="quiet">({m.costs.text})</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

// Gates say how far each section is with what a service needs.
function Gates({ plan, sections }: { plan: Schemas["PrepView"]; sections: Schemas["Section"][] }) {
  const services = [...new Set(plan.gates.map((g) => g.service))];
  return (
    <div className="gates" aria-label={text.prep.gate}>
      {services.map((s) => (
        <p key={s}>
          <b>{s}</b>
          {plan.gates
            .filter((g) => g.service === s)
            .map((g) => {
              const section = sections.find((x) => x.id === g.section);
              return (
                <span key={g.section} className={g.ready === g.of ? "ready" : undefined}>
                  <Swatch section={section} /> {section?.name}{" "}
                  <b className="figure">
                    {g.ready} {text.prep.of} {g.of}
                  </b>
                  {g.ready === g.of && <span className="mark-good"> ●</span>}
                </span>
              );
            })}
        </p>
      ))}
    </div>
  );
}
