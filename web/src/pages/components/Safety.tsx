import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Fold } from "../../ui/fields";
import { LimitLine } from "../../ui/LimitLine";

// Safety is what bears on a component: limits of the kitchen's code and dangers of the work, step by step.
export function Safety({ view, house }: { view: Schemas["ComponentView"]; house: Schemas["House"] }) {
  const { limits, component: c } = view;
  if (limits.length === 0) return null;
  const faults = limits.filter((l) => l.state === "fault").length;
  const of = (step: string) => limits.filter((l) => l.step === step);
  return (
    <Fold
      open={faults > 0}
      title={
        <>
          <b>{text.safety.title}</b>{" "}
          <span className={faults > 0 ? "mark-late" : "quiet"}>
            {faults > 0 ? `▲ ${text.safety.faults(faults)}` : text.safety.count(limits.length)}
          </span>
        </>
      }
    >
      <dl className="limits">
        {[...c.steps.map((s) => [s.id, s.name] as const), ["", text.safety.kept] as const].map(
          ([id, name]) =>
            of(id).length > 0 && (
              <div key={id}>
                <dt>{name}</dt>
                <dd>
                  {of(id).map((l) => (
                    <LimitLine key={l.subject + l.said.text} of={l} />
                  ))}
                </dd>
              </div>
            ),
        )}
      </dl>
      <p className="quiet mb-0">
        {text.house.codes[house.kitchen.safety_code]}. {text.house.caution}
      </p>
    </Fold>
  );
}
