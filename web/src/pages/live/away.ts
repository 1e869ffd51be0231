import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { clock } from "../../ui/time";

type Absence = Schemas["Absence"];
type House = Schemas["House"] | undefined;

// whoIs names those who are away.
export function whoIs(a: Absence, house: House): string {
  return (
    (a.who
      ? house?.people.find((p) => p.id === a.who)?.name
      : house?.equipment.find((e) => e.id === a.equipment)?.name) ??
    a.who ??
    a.equipment ??
    ""
  );
}

// awayLine says who is away, and until when; where nobody knows, what the plan makes of it; and what is in a piece of equipment that is
// gone.
export function awayLine(a: Absence, house: House): string {
  const words = text.live;
  const until = a.until
    ? `${words.awayUntil} ${clock(a.until)}`
    : `${words.unknownUntil}; ${a.counted_on ? words.countedOn(clock(a.counted_on)) : words.doneWithout}`;
  const left = (a.left ?? []).map((l) => words.portionsOf(l.portions, l.what)).join(" · ");
  return `${whoIs(a, house)}: ${[until, left && words.leftIn(left)].filter(Boolean).join("; ")}.`;
}
