import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { span } from "../../ui/time";

type Learnt = Schemas["Learnt"];

// Says is something that the record says, with the press that writes it.
export function Says({ l }: { l: Learnt }) {
  const words = text.back;
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const [done, setDone] = useState(false);
  const [tried, setTried] = useState("");
  const step = { id: l.component ?? "", step: l.step ?? "" };
  const look = () => {
    setTried(text.workingItOut);
    void settle(api.GET("/api/lookback/steps/{id}/{step}", { params: { path: step } }))
      .then((x) => setTried(x.said.text))
      .catch((e: unknown) => setTried((e as Error).message));
  };
  const write = (asked: Promise<unknown>) =>
    void asked
      .then(() => {
        setDone(true);
        for (const queryKey of [keys.component(), keys.fire(), keys.prep, keys.services])
          void queries.invalidateQueries({ queryKey });
      })
      .catch((e: unknown) => setProblem((e as Error).message));
  const body = { version: l.version ?? 1 };
  const useTime = () =>
    write(settle(api.POST("/api/lookback/steps/{id}/{step}", { params: { path: step }, body })));
  const useShare = () =>
    write(
      settle(
        api.POST("/api/lookback/shares/{id}/{dish}", {
          params: { path: { id: l.service ?? "", dish: l.component ?? "" } },
          body,
        }),
      ),
    );
  const note = words.kindNote[l.kind];
  return (
    <li data-kind={l.kind}>
      <Interval l={l} />
      <div>
        <p>
          {l.text.text}
          <br />
          <small className="quiet figure">{words.interval(l.low, l.high)}</small>
        </p>
        {problem && <p className="mark-late">▲ {problem}</p>}
        {done && (
          <p role="status">
            {words.used}{" "}
            {l.service ? (
              <Link to="/prep/services">{l.service_name}</Link>
            ) : (
              <Link to={`/components/${l.component ?? ""}`}>{l.what}</Link>
            )}
          </p>
        )}
        {l.advice && <p>{l.advice.text}</p>}
        {tried && <p role="status">{tried}</p>}
        {note && <small className="quiet">{note}</small>}
      </div>
      {l.use && l.time && !done && (
        <span className="use">
          <Button onClick={useTime}>{words.use(ofTime(l.use))}</Button>
          <small className="quiet figure">
            {words.quickSlow(ofTime(l.use, "low"), ofTime(l.use, "high"))}
          </small>
          <small className="quiet">{words.instead(ofTime(l.time))}</small>
          {!tried && <Button onClick={look}>{words.look}</Button>}
        </span>
      )}
      {l.service && !done && (
        <span className="use">
          <Button onClick={useShare}>{words.useShare(l.use_share ?? 0)}</Button>
          <small className="quiet">{words.insteadShare(l.menu_share ?? 0, l.service_name ?? "")}</small>
        </span>
      )}
    </li>
  );
}

const ofTime = (t: Schemas["StepTime"], point: "low" | "likely" | "high" = "likely") =>
  [
    t.fixed[point] > 0 ? span(t.fixed[point]) : "",
    t.per_portion[point] > 0 ? text.back.each(span(t.per_portion[point])) : "",
  ]
    .filter(Boolean)
    .join(" + ");

// Interval is where a factor lies, beside what is written.
function Interval({ l }: { l: Learnt }) {
  const [width, height] = [150, 40];
  const far = Math.max(1.25, l.high, 1 / Math.max(0.1, l.low));
  const x = (f: number) => width / 2 + (Math.log(Math.max(0.1, f)) / Math.log(far)) * (width / 2 - 10);
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden className="interval">
      <line x1={x(1)} x2={x(1)} y1={2} y2={26} className="written" />
      <line x1={x(l.low)} x2={x(l.high)} y1={14} y2={14} className="range" />
      <circle cx={x(l.factor)} cy={14} r={6} />
      <text x={x(1)} y={38} textAnchor="middle">
        {text.back.against[l.kind] ?? text.back.written}
      </text>
    </svg>
  );
}
