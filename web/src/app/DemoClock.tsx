import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, settle, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { text } from "../text";

const hours: Schemas["DemoClockInBody"]["hour"][] = [
  "before-prep",
  "afternoon",
  "opening",
  "serving",
  "real-time",
];

// DemoClock says that this is the demo, which has a clock of its own, and puts it at another hour. A real kitchen has no such thing.
export function DemoClock() {
  const queries = useQueryClient();
  const clock = useQuery({ queryKey: keys.demoClock, queryFn: () => settle(api.GET("/api/demo/clock")) });
  if (!clock.data?.demo) return null;
  return (
    <label className="who demo-clock">
      <span className="visually-hidden">{text.demoClock.label}</span>
      <select
        className="form-select"
        name="demo-clock"
        value=""
        onChange={(e) =>
          void settle(
            api.PUT("/api/demo/clock", { body: { hour: e.target.value as (typeof hours)[number] } }),
          ).then(() => queries.invalidateQueries())
        }
      >
        <option value="">{clock.data.real ? text.demoClock.real : text.demoClock.own}</option>
        {hours.map((h) => (
          <option key={h} value={h}>
            {text.demoClock.hours[h]}
          </option>
        ))}
      </select>
    </label>
  );
}
