import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock, span } from "../../ui/time";
import { Fires } from "../dishes/Firing";
import { Strands } from "../dishes/Strands";

// OneJoin is the closest look: one table-course with its strands, how sure it is, and what
// makes it late when it is.
export function OneJoin({
  plan,
  id,
  mend,
  join,
  house,
  onChoose,
  onClose,
}: {
  plan: Schemas["FireView"];
  id: string;
  mend: string;
  join: string;
  house: Schemas["House"];
  onChoose: (join: string) => void;
  onClose: () => void;
}) {
  const j = plan.joins.find((x) => x.id === join);
  const one = useQuery({
    queryKey: keys.fireJoin(id, mend, join, plan.cost, plan.version),
    queryFn: () =>
      settle(
        api.GET("/api/fire/{id}/join", {
          params: { path: { id }, query: { join, mend: mend || undefined } },
        }),
      ),
    placeholderData: (old) => old,
  });
  const [step, setStep] = useState("");
  if (!j || !one.data) return null;
  const own = plan.joins.filter((x) => x.table === j.table);
  return (
    <section className="strands one-join card-enamel" aria-label={j.name}>
      <div className="bar-head">
        <h2>
          {j.name}, {text.courses[j.course]}
          {j.round > 0 && ` ${text.fire.round} ${j.round}`} {clock(j.at)}
        </h2>
        <div className="variants" role="group" aria-label={text.fire.joinsTitle}>
          {own.map((x) => (
            <Button
              key={x.id}
              look={x.id === join ? "primary" : "outline-primary"}
              aria-pressed={x.id === join}
              onClick={() => onChoose(x.id)}
            >
              {x.round > 0 ? `${text.courses[x.course].slice(0, 1)}${x.round}` : text.courses[x.course]}
            </Button>
          ))}
          <Button onClick={onClose}>{text.editor.close}</Button>
        </div>
      </div>
      <JoinFacts join={j} />
      <div className="chart">
        <Fires plan={one.data} />
        <Strands
          plan={one.data}
          sections={house.sections}
          chosen={step}
          onChoose={(_, bar) => setStep(bar.task)}
          onStretch={() => undefined}
        />
      </div>
    </section>
  );
}

// GuestPlate is said once for a plate: whether it suits by its recipes, what could still get to it, and how it is worked.
function GuestPlate({ g }: { g: Schemas["GuestPlate"] }) {
  const mark = {
    suits: "mark-good",
    "not-known": "mark-wait",
    contains: "mark-late",
    "not-defined": "mark-late",
  }[g.state];
  return (
    <div className="guest-plate" data-state={g.state}>
      <b className={mark}>
        {g.state === "suits" ? "●" : g.state === "not-known" ? "◌" : "▲"} {g.count} × {g.needs.join(", ")}:{" "}
        {g.dish}
        {g.variant && `, ${g.variant}`}
      </b>{" "}
      {text.fire.plateStates[g.state]}
      {g.said.length > 0 && `: ${g.said.map((m) => m.text).join("; ")}`}.
      <ul>
        <li>{text.fire.orderOfWork}</li>
        {g.contact.map((c) => (
          <li key={c.said.text}>{c.said.text}</li>
        ))}
      </ul>
    </div>
  );
}

// JoinFacts says of a join what is on its plates, how sure it is, and what makes it late
// when it is.
export function JoinFacts({ join: j }: { join: Schemas["EveningJoin"] }) {
  const state = j.standing;
  return (
    <div className="join-facts">
      <p>{j.dishes.join(" · ")}</p>
      {j.guests.map((g, i) => (
        <GuestPlate key={i} g={g} />
      ))}
      <p>
        <b className={state === "late" ? "mark-late" : state === "doubtful" ? "mark-wait" : "mark-good"}>
          {state === "late" ? "▲" : state === "doubtful" ? "◌" : "●"}{" "}
          {j.late && `${span(j.late_s)} ${text.strands.late}, `}
          {Math.round(Math.max(0, j.chance) * 100)} % {text.fire.chance}
        </b>
        , {Math.round(Math.max(0, j.holds) * 100)} % {text.fire.holds}
        {j.forecast && <span className="quiet">, {text.fire.forecast}</span>}
      </p>
      {j.blame.length > 0 && (
        <p className="quiet blame">
          {text.fire.blame} {j.blame.map((b) => `${b.what} ${Math.round(b.share * 100)} %`).join(" · ")}
        </p>
      )}
    </div>
  );
}
