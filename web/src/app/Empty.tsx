import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, settle, type Schemas } from "../api/client";
import { whyOf } from "../api/problem";
import { text } from "../text";
import { Button } from "../ui/Button";

// Empty is the first page of a kitchen in which nothing is set up: look at the demo, or
// begin one's own.
export function Empty() {
  const queries = useQueryClient();
  const [own, setOwn] = useState(false);
  const [name, setName] = useState("");
  const [zone, setZone] = useState(() => Intl.DateTimeFormat().resolvedOptions().timeZone);
  const [code, setCode] = useState<Schemas["NewKitchen"]["safety_code"]>("uk-eu");
  const done = { onSettled: () => queries.invalidateQueries() };
  const load = useMutation({ mutationFn: () => settle(api.POST("/api/demo")), ...done });
  const begin = useMutation({
    mutationFn: () =>
      settle(
        api.POST("/api/kitchen", { body: { name: name.trim(), time_zone: zone.trim(), safety_code: code } }),
      ),
    ...done,
  });
  const error = load.error ?? begin.error;
  return (
    <div className="empty card-enamel">
      <h1>{text.empty.title}</h1>
      <p>{text.empty.say}</p>
      <div className="choices">
        <Button look="primary" disabled={load.isPending} onClick={() => load.mutate()}>
          {text.empty.demo}
        </Button>
        {!own && <Button onClick={() => setOwn(true)}>{text.empty.own}</Button>}
      </div>
      {own && (
        <form
          className="own"
          onSubmit={(e) => {
            e.preventDefault();
            begin.mutate();
          }}
        >
          <label>
            {text.empty.name}
            <input
              className="form-control"
              name="kitchen-name"
              autoFocus
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          </label>
          <label>
            {text.empty.zone}
            <input
              className="form-control"
              name="kitchen-zone"
              value={zone}
              onChange={(e) => setZone(e.target.value)}
            />
          </label>
          <label>
            {text.house.code}
            <select
              className="form-select"
              value={code}
              onChange={(e) => setCode(e.target.value as typeof code)}
            >
              <option value="uk-eu">{text.house.codes["uk-eu"]}</option>
              <option value="us-fda">{text.house.codes["us-fda"]}</option>
            </select>
          </label>
          <Button look="primary" type="submit" disabled={begin.isPending}>
            {text.empty.begin}
          </Button>
        </form>
      )}
      {error && (
        <p className="mark-late" role="alert">
          {whyOf(error)}
        </p>
      )}
    </div>
  );
}

// Failed says that something could not be loaded, and tries again.
export function Failed({ error, retry }: { error: Error; retry: () => void }) {
  return (
    <div className="empty card-enamel" role="alert">
      <h1>{text.errors.load}</h1>
      <p>{whyOf(error)}</p>
      <Button onClick={retry}>{text.errors.retry}</Button>
    </div>
  );
}

// Broken is shown when a page itself fails: what is saved is safe, and a fresh start
// helps.
export function Broken() {
  return (
    <div className="empty card-enamel" role="alert">
      <h1>{text.errors.page}</h1>
      <p>{text.errors.pageSay}</p>
      <Button look="primary" onClick={() => window.location.assign("/")}>
        {text.errors.again}
      </Button>
    </div>
  );
}
