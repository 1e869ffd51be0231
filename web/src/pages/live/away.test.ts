import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { awayLine } from "./away";

const house = {
  people: [{ id: "ines", name: "Ines" }],
  equipment: [{ id: "combi", name: "Combi oven" }],
} as Schemas["House"];
const since = "2026-05-14T17:00:00Z";

describe("who or what is not there", () => {
  it("is said by name, with what the plan makes of it", () => {
    expect(awayLine({ who: "ines", since, event: "e" }, house)).toBe(
      "Ines: not there, nobody knows until when; planned without.",
    );
    const again = awayLine({ who: "ines", since, event: "e", counted_on: "2026-05-14T17:20:00Z" }, house);
    expect(again).toMatch(/^Ines: not there, nobody knows until when; counted on again from \d\d:\d\d\.$/);
    const until = awayLine({ equipment: "combi", since, event: "e", until: "2026-05-14T17:20:00Z" }, house);
    expect(until).toMatch(/^Combi oven: not there until \d\d:\d\d\.$/);
  });
  it("says what is left in it", () => {
    const left = [
      { tasks: ["a", "b"], what: "Pressed potato", portions: 3, done_at: since },
      { tasks: ["c"], what: "Hake, roasted", portions: 1, done_at: since },
    ];
    expect(awayLine({ equipment: "combi", since, event: "e", left }, house)).toMatch(
      /planned without; still in it by the plan: 3 Pressed potato · Hake, roasted\.$/,
    );
  });
});
