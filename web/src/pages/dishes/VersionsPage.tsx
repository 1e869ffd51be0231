import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useDish, useHouse } from "../../api/queries";
import { useSave } from "../../api/useSave";
import { Failed } from "../../app/Empty";
import { PlateDrawing } from "../../charts/PlateDrawing";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Faulty } from "../../ui/fields";
import { span } from "../../ui/time";

const when = (instant: string, zone: string) =>
  new Date(instant).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
    timeZone: zone,
  });

// VersionsPage shows two versions of a dish side by side, in drawing and in words, and
// who made each when.
export function VersionsPage() {
  const { id = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const dish = useDish(id, "", false);
  const house = useHouse();
  const { save, problem } = useSave();
  const history = useQuery({
    queryKey: keys.history(id),
    queryFn: () => settle(api.GET("/api/dishes/{id}/history", { params: { path: { id } } })),
  });
  const list = history.data ?? [];
  const newest = list[0]?.version ?? 1;
  const is = Number(params.get("is") ?? newest);
  const was = Number(params.get("was") ?? Math.max(1, newest - 1));
  const compared = useQuery({
    queryKey: keys.compared(id, was, is, newest),
    queryFn: () =>
      settle(api.GET("/api/dishes/{id}/compare", { params: { path: { id }, query: { was, is } } })),
    enabled: history.data !== undefined,
    placeholderData: (old) => old,
  });
  if (dish.error && !dish.data) return <Failed error={dish.error} retry={() => void dish.refetch()} />;
  if (!dish.data || !history.data) return null;
  const set = (key: string, version: number) => {
    const next = new URLSearchParams(params);
    next.set(key, String(version));
    setParams(next, { replace: true });
  };
  const back = async (version: number) => {
    const done = await save(() =>
      settle(
        api.POST("/api/dishes/{id}/restore", {
          params: { path: { id } },
          body: { version: dish.data.version, to: version },
        }),
      ),
    );
    if (done) setParams({}, { replace: true });
  };
  const entries = [
    ...(dish.data.dish.draft ? [{ version: 0, changed_at: "", said: "", by: "", state: "draft" }] : []),
    ...list,
  ];
  return (
    <article className="versions">
      <header>
        <h1>
          {text.versions.title} {dish.data.dish.name}
        </h1>
        <Link className="btn btn-outline-primary" to={`/dishes/${id}`}>
          {text.versions.toDish}
        </Link>
      </header>
      <p className="quiet">{text.versions.pick}</p>
      <Faulty problem={problem} />
      <div className="versions-body">
        <ol className="card-enamel version-list">
          {entries.map((v) => (
            <li key={v.version}>
              <span className="picks">
                <button type="button" aria-pressed={was === v.version} onClick={() => set("was", v.version)}>
                  {text.versions.was}
                </button>
                <button type="button" aria-pressed={is === v.version} onClick={() => set("is", v.version)}>
                  {text.versions.is}
                </button>
              </span>
              <span>
                <b>{v.version === 0 ? text.versions.draft : `${text.dish.version} ${v.version}`}</b>{" "}
                {v.state && v.version !== 0 && (
                  <span className="quiet">{text.dish.states[v.state as Schemas["Dish"]["state"]]}</span>
                )}
                <br />
                {v.version !== 0 && (
                  <span className="quiet">
                    {when(v.changed_at, house.data?.kitchen.time_zone ?? "UTC")},{" "}
                    {v.by || text.versions.nobody}. {v.said}
                  </span>
                )}
              </span>
            </li>
          ))}
        </ol>
        {compared.data && (
          <div className="sides">
            <Side side={compared.data.was} word={text.versions.was} onBack={back} newest={newest} />
            <Side side={compared.data.is} word={text.versions.is} onBack={back} newest={newest} />
            <ul className="card-enamel words" aria-live="polite">
              {compared.data.said.length === 0 && <li className="quiet">{text.versions.same}</li>}
              {compared.data.said.map((w, i) => (
                <li key={i}>{w.text}</li>
              ))}
            </ul>
          </div>
        )}
      </div>
    </article>
  );
}

function Side({
  side,
  word,
  newest,
  onBack,
}: {
  side: Schemas["Side"];
  word: string;
  newest: number;
  onBack: (version: number) => Promise<void>;
}) {
  return (
    <section className="card-enamel side" aria-label={`${text.versions.plate} ${side.version}`}>
      <h2>
        {word}: {side.version === 0 ? text.versions.draft : `${text.dish.version} ${side.version}`}
      </h2>
      <PlateDrawing plate={side.plate} chosen={0} />
      <p className="quiet">
        {Math.round(side.weight_g)} g, {span(side.seconds)}
      </p>
      {side.version !== 0 && side.version !== newest && (
        <Button onClick={() => void onBack(side.version)}>{text.versions.back}</Button>
      )}
    </section>
  );
}
