import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, settle } from "../../api/client";
import { keys } from "../../api/keys";
import { useHouse } from "../../api/queries";
import { text } from "../../text";

// Gate is what is not ready before the service is opened, by section.
export function Gate({ id }: { id: string }) {
  const house = useHouse();
  const [all, setAll] = useState(false);
  const gate = useQuery({
    queryKey: keys.gate(id),
    queryFn: () => settle(api.GET("/api/services/{id}/gate", { params: { path: { id } } })),
    refetchInterval: 20_000,
  });
  const words = text.fire.running;
  const list = gate.data?.unready ?? [];
  if (!gate.data) return null;
  if (list.length === 0) return <p className="mark-good">● {words.ready}</p>;
  const sections = [...new Set(list.map((u) => u.section))];
  const name = (id: string) => house.data?.sections.find((s) => s.id === id)?.name ?? words.kitchen;
  return (
    <div className="gate">
      <p>
        <span className="mark-late">▲</span> {list.length} {words.unready}
      </p>
      <ul>
        {sections.map((s) => (
          <li key={s}>
            <b>{name(s)}</b>
            <span className="quiet">
              {lackings
                .map((k) => [k, list.filter((u) => u.section === s && u.kind === k).length] as const)
                .filter(([, n]) => n > 0)
                .map(([k, n]) => `${n} ${words.lacking[k]}`)
                .join(", ")}
            </span>
            {all &&
              list
                .filter((u) => u.section === s)
                .map((u) => (
                  <span key={u.kind + u.what} className="quiet">
                    {u.said.text}
                  </span>
                ))}
          </li>
        ))}
      </ul>
      <button type="button" className="more" aria-expanded={all} onClick={() => setAll(!all)}>
        {all ? text.fire.fewer : words.which}
      </button>
    </div>
  );
}

const lackings = ["not-made", "not-tasted", "not-measured", "not-known"] as const;
