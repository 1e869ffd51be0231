import { useEffect, useState } from "react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { clock } from "../../ui/time";

type View = Schemas["FireView"];

// PlanLine says which plan is shown and since when, whether somebody works by it, and what
// was changed since that it has not followed.
export function PlanLine({ plan, id, mend }: { plan: View; id: string; mend: string }) {
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const params = { path: { id } };
  const done = {
    onSuccess: (now: View) => queries.setQueryData(["fire", id, ""], now),
    onSettled: () => queries.invalidateQueries(),
  };
  const again = useMutation({
    mutationFn: () => settle(api.POST("/api/fire/{id}/again", { params })),
    ...done,
  });
  const use = useMutation({ mutationFn: () => settle(api.POST("/api/fire/{id}/use", { params })), ...done });
  const failed = again.error ?? use.error;
  if (mend) return null;
  const press = () => {
    if (plan.held && !sure) setSure(true);
    else {
      setSure(false);
      again.mutate();
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
          <span className="quiet">, {text.fire.kinds[plan.kind]}</span>
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
          <Button
            onClick={press}
            disabled={again.isPending}
            look={sure ? "outline-danger" : "outline-primary"}
          >
            {again.isPending ? text.fire.making : text.fire.again}
          </Button>
        </span>
      </div>
      <Faulty problem={failed instanceof Problem ? failed : null} />
      {plan.offer && (
        <OfferCard offer={plan.offer} number={plan.number} busy={use.isPending} onUse={() => use.mutate()} />
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
        {offer.said ? `${text.fire.wouldDo} ${offer.said}` : text.fire.workingOut}
      </p>
      <Button look="primary" onClick={onUse} disabled={busy || offer.said === ""}>
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
        .then(() => queries.invalidateQueries({ queryKey: ["fire", id] }));
    };
    window.addEventListener("beforeprint", tell);
    return () => window.removeEventListener("beforeprint", tell);
  }, [id, number, queries]);
}
