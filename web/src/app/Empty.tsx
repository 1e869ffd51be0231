import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, settle } from "../api/client";
import { text } from "../text";
import { Button } from "../ui/Button";

// Empty is the first page of a kitchen in which nothing is set up.
export function Empty() {
  const queries = useQueryClient();
  const load = useMutation({
    mutationFn: () => settle(api.POST("/api/demo")),
    onSettled: () => queries.invalidateQueries(),
  });
  return (
    <div className="empty card-enamel">
      <h1>{text.empty.title}</h1>
      <p>{text.empty.say}</p>
      <Button look="primary" disabled={load.isPending} onClick={() => load.mutate()}>
        {text.empty.demo}
      </Button>
      {load.error && <p className="mark-late">{load.error.message}</p>}
    </div>
  );
}

// Failed says that something could not be loaded, and tries again.
export function Failed({ error, retry }: { error: Error; retry: () => void }) {
  return (
    <div className="empty card-enamel" role="alert">
      <h1>{text.errors.load}</h1>
      <p>{error.message === "offline" ? text.errors.offline : error.message}</p>
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
