import { sendFile, type Schemas } from "../../api/client";
import { text } from "../../text";

// Photograph is the optional picture of the finished plate.
export function Photograph({
  view,
  send,
}: {
  view: Schemas["DishView"];
  send: (work: () => Promise<unknown>) => Promise<unknown>;
}) {
  if (view.photograph === 0) return null;
  const path = `/api/dishes/${view.dish.id}/photograph`;
  return (
    <figure className="photograph card-enamel">
      <img src={`${path}?${view.photograph}`} alt={`${text.plate.photograph} ${view.dish.name}`} />
      <button
        type="button"
        className="btn btn-outline-primary"
        onClick={() => void send(() => sendFile(path, "DELETE"))}
      >
        {text.plate.dropPhotograph}
      </button>
    </figure>
  );
}
