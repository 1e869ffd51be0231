import { useQueryClient } from "@tanstack/react-query";
import { Problem, sendFile, type Schemas } from "../../api/client";
import { text } from "../../text";

// Photograph is the optional picture of the finished plate.
export function Photograph({
  view,
  onFault,
}: {
  view: Schemas["DishView"];
  onFault: (p: Problem | null) => void;
}) {
  const queries = useQueryClient();
  if (view.photograph === 0) return null;
  const path = `/api/dishes/${view.dish.id}/photograph`;
  return (
    <figure className="photograph card-enamel">
      <img src={`${path}?${view.photograph}`} alt={`${text.plate.photograph} ${view.dish.name}`} />
      <button
        type="button"
        className="btn btn-outline-primary"
        onClick={() =>
          void sendFile(path, "DELETE")
            .catch((e: unknown) => {
              if (!(e instanceof Problem)) throw e;
              onFault(e);
            })
            .then(() => queries.invalidateQueries({ queryKey: ["dish"] }))
        }
      >
        {text.plate.dropPhotograph}
      </button>
    </figure>
  );
}
