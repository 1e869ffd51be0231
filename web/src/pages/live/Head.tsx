import { useState } from "react";
import { Link } from "react-router";
import { useHouse } from "../../api/queries";
import { useSession } from "../../api/session";
import { Who } from "../../app/Who";
import { text } from "../../text";
import { PlayedBar } from "../train/PlayedBar";
import { clock } from "../../ui/time";
import { awayLine } from "./away";
import type { Running } from "./useService";
import { useSound } from "./useSound";

// shortly is how many of the words are there at a glance; the rest by a tap.
const shortly = 2;

// Head is the head of every screen in service: where it stands, what needs a word now, the clock.
export function Head({
  r,
  title,
  under,
  sound,
}: {
  r: Running;
  title: string;
  under: string;
  sound?: readonly string[]; // what is to be fired, by name: where it is given, the screen can sound
}) {
  const words = text.live;
  const heard = useSound(sound ?? [], [
    ...(r.due?.troubles ?? []).map((t) => t.event),
    ...(r.due?.settle ?? []).map((u) => u.event),
  ]);
  const house = useHouse().data;
  const session = useSession().data;
  const said = messages(r, house);
  const [all, setAll] = useState(false);
  const more = said.length - shortly;
  return (
    <>
      {r.practice && <PlayedBar practice={r.practice} />}
      <header className="live-head">
        <div className="place">
          <Link to="/" aria-label={words.toBook}>
            {title}
          </Link>
          {session?.device && !session.signed_in && session.people.length > 0 ? (
            <Who session={session} />
          ) : (
            <small>{under}</small>
          )}
        </div>
        <div className="words" aria-live="polite">
          {said.slice(0, all ? said.length : shortly).map((m, i) => (
            <p key={i} className={i === 0 ? "first" : "quiet"}>
              {m.late && <span className="mark-late">▲ </span>}
              {m.text}
            </p>
          ))}
          {more > 0 && (
            <button type="button" className="more" aria-expanded={all} onClick={() => setAll(!all)}>
              {all ? words.fewerWords : words.more(more)}
            </button>
          )}
        </div>
        {sound && (
          <button type="button" className="sound" aria-pressed={heard.on} onClick={heard.toggle}>
            {heard.on ? words.soundOn : words.soundOff}
          </button>
        )}
        <b className="clock figure">{r.clock}</b>
      </header>
    </>
  );
}

// messages is what needs a word now, the most urgent first.
function messages(r: Running, house: ReturnType<typeof useHouse>["data"]): { text: string; late: boolean }[] {
  const words = text.live;
  const section = (id?: string) => house?.sections.find((s) => s.id === id)?.name ?? "";
  const out: { text: string; late: boolean }[] = [];
  if (r.said) out.push({ text: r.said, late: true });
  if (r.alone)
    out.push({ text: words.alone(r.since, r.kept.filter((k) => k.kind !== "undone").length), late: true });
  if (r.due?.stuck) out.push({ text: words.stuck(clock(r.due.stuck)), late: true });
  for (const u of r.due?.settle ?? []) out.push({ text: `${words.settle} ${u.said.text}`, late: true });
  for (const a of r.due?.out ?? []) out.push({ text: awayLine(a, house), late: true });
  for (const t of r.due?.troubles ?? [])
    out.push({
      text: [clock(t.at), /^(screen|device)-/.test(t.by ?? "") ? section(t.section) : t.by, t.why]
        .filter(Boolean)
        .join(" · "),
      late: true,
    });
  if (r.last?.what) out.push({ text: `${r.last.what}.`, late: false });
  return out;
}

// Waiting is what stands there while no service goes on; here is where it is opened.
export function Waiting({ r, here = false }: { r: Running; here?: boolean }) {
  const words = text.live;
  const first = r.due?.joins[0];
  const say = r.practice?.cut
    ? text.train.cut
    : !r.service
      ? words.noService
      : !r.due
        ? words.loading
        : r.due.phase === "over"
          ? words.overNow
          : words.notOpen(r.service.name, first ? clock(first.at) : "", here);
  return <p className="waiting">{say}</p>;
}
