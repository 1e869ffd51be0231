import { useState } from "react";
import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { StepBars } from "../../ui/StepBars";
import { clock, span } from "../../ui/time";
import { wallClock } from "../fire/wallClock";

type Strands = Schemas["Strands"];
type Run = Schemas["StrandRun"];

// StrandsOf are the runs of a course as they went, below those of the same night with a good cook.
export function StrandsOf({ list }: { list: readonly Strands[] }) {
  const words = text.train;
  const [chosen, choose] = useState(() => worst(list));
  const s = list[chosen];
  if (!s) return null;
  const zero = s.wanted_at.replace(/T(\d\d):\d\d:[\d.]*/, "T$1:00:00"); // ticks stand at whole minutes
  const at = (t: string) => (Date.parse(t) - Date.parse(zero)) / 1000;
  const till = (from: string, to?: string): [number, number] => [at(from), to ? at(to) : at(from) + 20];
  return (
    <section className="card-enamel strands-of">
      <h2>{words.strands}</h2>
      <label>
        <span className="quiet">{words.whichCourse}</span>
        <select
          className="form-select"
          value={chosen}
          onChange={(e) => {
            choose(Number(e.target.value));
          }}
        >
          {list.map((o, i) => (
            <option key={i} value={i}>
              {`${clock(o.wanted_at)} ${o.name}, ${text.courses[o.course]}${left(o)}`}
            </option>
          ))}
        </select>
      </label>
      <StepBars
        wanted={at(s.wanted_at)}
        sent={s.left_at ? at(s.left_at) : undefined}
        wantedWord={text.back.wanted}
        clock={(x) => wallClock(zero, x)}
        list={s.runs.map((r) => ({
          key: r.task,
          name: `${r.what} · ${r.act}`,
          said: said(r),
          paper: r.good_at ? till(r.good_at, r.good_until) : undefined,
          stove: r.at ? till(r.at, r.until) : undefined,
          off: r.mine && late(r) > 30,
          quiet: !r.mine,
        }))}
      />
      <p className="quiet">{words.strandsNote}</p>
    </section>
  );
}

const late = (r: Run) => (r.at && r.good_at ? (Date.parse(r.at) - Date.parse(r.good_at)) / 1000 : 0);

function said(r: Run): string {
  if (!r.at) return text.train.never_;
  const by = late(r);
  if (!r.good_at || Math.abs(by) < 5) return clock(r.at);
  return `${clock(r.at)}, ${by > 0 ? text.train.laterThanGood(span(by)) : text.train.soonerThanGood(span(-by))}`;
}

// left is by how much a course left later than with a good cook, where that is worth a word.
function left(s: Strands): string {
  const by = later(s);
  return by >= 60 ? `: ${text.train.laterThanGood(span(by))}` : "";
}

const later = (s: Strands) =>
  s.left_at && s.good_left_at ? (Date.parse(s.left_at) - Date.parse(s.good_left_at)) / 1000 : 0;

// worst is the course that has lost most beside a good cook.
const worst = (list: readonly Strands[]) =>
  list.reduce((a, s, i) => (later(s) > later(list[a] as Strands) ? i : a), 0);
