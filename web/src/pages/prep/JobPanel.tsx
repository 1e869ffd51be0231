import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { span } from "../../ui/time";
import { LimitLine } from "../../ui/LimitLine";
import { amountOf, dayClock, type Job } from "./days";

// JobPanel is one batch with its steps to tick.
export function JobPanel({
  job,
  plan,
  today,
  onClose,
  onTick,
}: {
  job: Job;
  plan: Schemas["PrepView"];
  today: string;
  onClose: () => void;
  onTick: (t: Schemas["TickIn"]) => void;
}) {
  const limits = plan.limits.find((l) => l.component === job.component)?.limits ?? [];
  const facts: [string, string][] = [
    [text.prep.gives, `${amountOf(job.amount, job.unit)}, ${job.container}`],
    [text.prep.serves, `${job.portions} ${text.prep.plates}, ${job.for.join(", ")}`],
    [text.prep.left, job.left > 0 ? amountOf(job.left, job.unit) : text.dish.nothing],
    [text.prep.startBy, dayClock(job.start_by, today)],
    [text.prep.ready, dayClock(job.ready_at, today)],
    [text.prep.needBy, dayClock(job.need_by, today)],
    [text.prep.useBy, job.use_by ? dayClock(job.use_by, today) : text.dish.nothing],
    ...(job.kept ? [[text.work.kept, job.kept] as [string, string]] : []),
    [text.prep.handsOn, span(job.hands_s)],
    [text.prep.waiting, span(job.wait_s)],
  ];
  return (
    <aside className="card-enamel job-panel" aria-label={job.name}>
      <header>
        <h2>
          {job.name} {job.of > 1 && `${job.number}/${job.of}`}
        </h2>
        <Button onClick={onClose}>{text.editor.close}</Button>
      </header>
      <dl>
        {facts.map(([k, v]) => (
          <div key={k}>
            <dt>{k}</dt>
            <dd>{v}</dd>
          </div>
        ))}
      </dl>
      {job.contact.map((c) => (
        <p key={c.text} className="mark-wait">
          ◌ {c.text}
        </p>
      ))}
      <ol>
        {job.steps.map((s) => (
          <li key={s.task}>
            <button
              type="button"
              className="tick"
              aria-pressed={s.done}
              aria-label={`${text.prep.tick} ${s.name}`}
              data-task={s.task}
              onClick={() => onTick({ task: s.task, done: !s.done, tasted: false })}
            >
              {s.done ? "✓" : ""}
            </button>
            <span>
              <b>{s.name}</b>
              <span className="quiet">
                {dayClock(s.start_at, today)}–{s.finish_at.slice(11, 16)}
                {s.people.length > 0 && ` · ${s.people.join(", ")}`}
                {s.on.length > 0 && ` · ${s.on.join(", ")}`}
                {s.setpoint_c !== undefined && ` ${s.setpoint_c} °C`}
                {s.begun && ` · ${text.prep.running}`}
                {s.acts.map((a) => ` · ${a.say} ${dayClock(a.at, today)} ${a.who}`).join("")}
                {s.stays_s !== undefined && ` · ${text.work.stays} ${span(s.stays_s)}`}
              </span>
              {limits
                .filter((l) => s.step === l.step)
                .map((l, i) => (
                  <LimitLine key={i} of={l} />
                ))}
            </span>
          </li>
        ))}
      </ol>
      {limits.length > 0 && <p className="quiet">{text.house.caution}</p>}
    </aside>
  );
}
