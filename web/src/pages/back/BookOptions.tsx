import { useQuery } from "@tanstack/react-query";
import { api, settle } from "../../api/client";
import { keys } from "../../api/keys";
import { useDishes } from "../../api/queries";
import { text } from "../../text";

// BookOptions are the dishes and components of the book to choose from, as kind/id.
export function BookOptions() {
  const words = text.back;
  const dishes = useDishes().data ?? [];
  const components = useQuery({
    queryKey: keys.components,
    queryFn: () => settle(api.GET("/api/components")),
  }).data;
  return (
    <>
      <optgroup label={words.dishes}>
        {dishes.map((d) => (
          <option key={d.id} value={`dish/${d.id}`}>
            {d.name}
          </option>
        ))}
      </optgroup>
      <optgroup label={words.components}>
        {(components ?? []).map((c) => (
          <option key={c.id} value={`component/${c.id}`}>
            {c.name}
          </option>
        ))}
      </optgroup>
    </>
  );
}
