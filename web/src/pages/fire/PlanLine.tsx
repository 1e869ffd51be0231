import { useEffect, useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useSave } from "../../api/useSave";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { clock } from "../../ui/time";

type View = Schemas["FireView"];

// PlanLine says which plan is shown and since when, whether a better one is looked for and somebody works by it, and what
// was changed since that it has not followed.
export function PlanLine({ plan, id, mend }: { plan: View; id: string; mend: string }) {
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const params = { path: { id } };
  const again = useSave();
  const use = useSave();
  const shown = async (now: Promise<View | null>) => {
    const plan = await now;
    if (plan) queries.setQueryData(keys.fire(id, ""), plan);
  };
  if (mend) return null;
  const press = () => {
    if (plan.held && !sure) setSure(true);
    else {
      setSure(false);
      void shown(again.save(() => settle(api.POST("/api/fire/{id}/again", { params }))));
    }
  };
  return (
    <>
      <div className="plan-line" data-plan={plan.number}>
        <p>
          <b>
            {text.fire.plan} {plan.number}
          </b>{" "}
          <span className="figure">
            {text.fire.since} {clock(plan.made_at)}
          </span>
          <span className="quiet">
            , {text.fire.kinds[plan.kind]}
            {plan.better && ` · ${text.fire.better}, ${Math.round(plan.looked * 100)} %`}
          </span>
          {plan.printed_at && (
            <span className="held">
              ■ {plan.on_paper !== plan.number && `${text.fire.plan} ${plan.on_paper} `}
              {text.fire.printed} {clock(plan.printed_at)}
            </span>
          )}
          {plan.begun && <span className="held">■ {text.fire.begun}</span>}
        </p>
        <span className="variants" aria-live="polite">
          {sure && <span className="mark-wait">◌ {text.fire.sure}</span>}
          {sure && <Button onClick={() => setSure(false)}>{text.fire.leave}</Button>}
          <Button onClick={press} disabled={again.busy} look={sure ? "outline-danger" : "outline-primary"}>
            {again.busy ? text.fire.making : text.fire.again}
          </Button>
        </span>
      </div>
      <Faulty problem={again.problem ?? use.problem} />
      {plan.offer && (
        <OfferCard
          offer={plan.offer}
          number={plan.number}
          busy={use.busy}
          onUse={() => void shown(use.save(() => settle(api.POST("/api/fire/{id}/use", { params }))))}
        />
      )}
    </>
  );
}

// OfferCard is a change that a plan has not followed: what it would do, and the press that
// lets it.
function OfferCard({
  offer,
  number,
  busy,
  onUse,
}: {
  offer: Schemas["Offer"];
  number: number;
  busy: boolean;
  onUse: () => void;
}) {
  return (
    <section className="offer" aria-live="polite">
      <p>
        <b>
          <span className="mark-wait">◌</span> {offer.changed.join(" · ")} {text.fire.changedSince} {number}.
        </b>{" "}
        {offer.said.key ? `${text.fire.wouldDo} ${offer.said.text}` : text.fire.workingOut}
      </p>
      <Button look="primary" onClick={onUse} disabled={busy || !offer.said.key}>
        {text.fire.use}
      </Button>
    </section>
  );
}

// usePrinted says that the plan was printed, whenever the page goes to paper.
export function usePrinted(id: string, number: number | undefined) {
  const queries = useQueryClient();
  useEffect(() => {
    if (!id || number === undefined) return;
    const tell = () => {
      void settle(api.POST("/api/fire/{id}/printed", { params: { path: { id } }, body: { number } }))
        .catch(() => undefined) // the paper is printed all the same
        .then(() => queries.invalidateQueries({ queryKey: keys.fire(id) }));
    };
    window.addEventListener("beforeprint", tell);
    return () => window.removeEventListener("beforeprint", tell);
  }, [id, number, queries]);
}
