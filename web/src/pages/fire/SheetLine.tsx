import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { checkWords } from "../../ui/checks";
import { Swatch } from "../../ui/Swatch";
import { clock, span } from "../../ui/time";

type Fire = Schemas["Fire"];

export type Line = { at: string } & (
  { set: Schemas["HeatSetting"]; fire?: undefined } | { fire: Fire; set?: undefined }
);

// linesOf are a sheet's lines and the turns of its thermostats, by the clock.
export function linesOf(sheet: Schemas["SheetView"]): Line[] {
  const fires = sheet.lines.map((fire): Line => ({ at: fire.at, fire }));
  const sets = sheet.sets.map((set): Line => ({ at: set.at, set }));
  return [...fires, ...sets].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
}

// SheetLine is one thing to do: the clock, the act, how much of what for whom, where and how hot, whose hands, until when.
export function SheetLine({
  line: l,
  named,
  sections,
}: {
  line: Line;
  named: boolean; // it is one person's sheet: the section is said, not the person
  sections: Schemas["House"]["sections"];
}) {
  if (l.set)
    return (
      <div className="sheet-line heat">
        <span className="when figure">{clock(l.at)}</span>
        <span className="what">
          <b>
            {l.set.name}: {l.set.from_c}° → {l.set.c}°
          </b>
          <span>
            {text.fire.thereBy} {clock(l.set.by)}, {l.set.what}
          </span>
        </span>
        <span className="quiet" />
        <span className="quiet">{text.fire.turn}</span>
      </div>
    );
  const f = l.fire;
  const section = sections.find((s) => s.id === f.section);
  return (
    <div className={`sheet-line is-${f.kind}`} data-kind={f.kind}>
      <span className="when figure">{clock(l.at)}</span>
      <span className="what">
        <b>
          {f.kind === "out" ? `${text.work.off}: ` : ""}
          {f.act}
          {f.kind === "out" ? ", " : ": "}
          {f.count} × {f.what}
          {f.of > 1 && <span className="quiet">{` ${f.batch}/${f.of}`}</span>}
        </b>
        <span>
          {f.table}, {text.courses[f.course as keyof typeof text.courses]}
          {f.preheat_s > 0 && `, ${text.fire.panOn} ${span(f.preheat_s)} ${text.fire.before}`}
          {f.apart && (
            <b className="mark-late">
              {` ▲ ${f.needs.join(", ")}`}
              {f.contains.length > 0 && `: ${text.fire.contains(f.contains)}`}
            </b>
          )}
          {f.on_call && <b className="mark-wait">{` ◌ ${text.work.onCall}`}</b>}
        </span>
        <span className="quiet">{takesOf(f)}</span>
        {f.kind === "fire" &&
          f.contact.map((c) => (
            <span key={c} className="mark-wait">
              ◌ {c}
            </span>
          ))}
      </span>
      <span className="hands">
        {named ? (
          <>
            <Swatch section={section} /> {section?.name}
          </>
        ) : (
          f.people.join(", ")
        )}
        <small className="quiet">{handsOf(f)}</small>
      </span>
      <span className="quiet until">
        {f.kind === "fire" && (
          <span>
            {f.may_s > 0 ? `${text.work.upTo} ${rough(f.may_s)} ${text.work.later}` : text.fire.onTheDot}
          </span>
        )}
        {f.rest_until && (
          <span>
            {text.work.restUntil} {clock(f.rest_until)}
          </span>
        )}
        {f.ready_by && (
          <span>
            {text.work.readyBy} {clock(f.ready_by)}
          </span>
        )}
        {f.may_until && (
          <span>
            {text.work.mayUntil} {clock(f.may_until)}
          </span>
        )}
      </span>
    </div>
  );
}

// rough is a time that nobody keeps to the second.
const rough = (s: number) => (s < 120 ? span(s) : `${Math.floor(s / 60)} min`);

// handsOf is how much of a cook it takes.
const handsOf = (f: Fire) =>
  [
    f.hands === "none" && f.hands_s ? "" : text.editor[f.hands],
    f.hands_s && f.kind === "fire" ? `${text.work.handsFor} ${span(f.hands_s)}` : "",
    f.hands_s && f.kind === "next" ? `${text.work.handsFor} ${span(f.hands_s)}` : "",
    f.hands_s && (f.kind === "touch" || f.kind === "out") ? span(f.hands_s) : "",
  ]
    .filter(Boolean)
    .join(", ");

// takesOf is where it goes, how hot that is, when it comes off, how one sees that, and how it is kept.
const takesOf = (f: Fire) =>
  [
    [
      ...f.on.map((on) => (f.c === undefined ? on : `${on} ${f.c}°`)),
      ...(f.kind === "fire" || f.kind === "next" ? [`${text.fire.until} ${clock(f.off_at)}`] : []),
    ].join(", "),
    ...(f.checks.length > 0 ? [`${text.fire.doneWhen} ${f.checks.map(checkWords).join(", ")}`] : []),
    ...(f.kept && f.may_until && f.kind !== "touch" ? [`${text.work.kept.toLowerCase()} ${f.kept}`] : []),
  ]
    .filter(Boolean)
    .join(" · ");
