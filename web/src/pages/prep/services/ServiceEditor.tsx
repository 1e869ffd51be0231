import type { Schemas } from "../../../api/client";
import { text } from "../../../text";
import { Button, Drop } from "../../../ui/Button";
import { NumberField, Select, TextField } from "../../../ui/fields";
import { Agreed } from "./Agreed";
import { TableLine } from "./TableLine";

type Service = Schemas["Service"];
type Table = Schemas["ServiceTable"];

// ServiceEditor is everything that is said of a service.
export function ServiceEditor({
  s,
  dishes,
  house,
  onSave,
  onTables,
  onCopy,
  onRemove,
}: {
  s: Service;
  dishes: Schemas["DishLine"][];
  house: Schemas["House"];
  onSave: (s: Service) => void;
  onTables: (edit: { edit: "add" | "remove"; table?: string }) => void;
  onCopy: () => void;
  onRemove: () => void;
}) {
  const setTable = (t: Table) => onSave({ ...s, tables: s.tables.map((x) => (x.id === t.id ? t : x)) });
  const free = dishes.filter((d) => !s.menu.some((m) => m.dish === d.id));
  return (
    <div className="inside">
      <div className="fields">
        <TextField wide label={text.makings.name} value={s.name} onSave={(name) => onSave({ ...s, name })} />
        <TextField
          label={text.services.date}
          value={s.date}
          check={(v) => (/^\d{4}-\d{2}-\d{2}$/.test(v) ? "" : text.services.dateLike)}
          onSave={(date) => onSave({ ...s, date })}
        />
        <Select
          label={text.house.kind}
          value={s.kind}
          options={
            [
              ["a-la-carte", text.services.aLaCarte],
              ["banquet", text.services.banquet],
            ] as const
          }
          onSave={(kind) => onSave({ ...s, kind })}
        />
        <Select
          label={text.services.pacing}
          value={s.pacing}
          options={
            [
              ["timed", text.services.timed],
              ["called", text.services.called],
            ] as const
          }
          onSave={(pacing) => onSave({ ...s, pacing })}
        />
        <Select
          label={text.work.school}
          value={s.school ?? "rather-late"}
          options={
            [
              ["rather-late", text.work.rather],
              ["in-time", text.work.inTime],
            ] as const
          }
          onSave={(school) => onSave({ ...s, school })}
        />
        <NumberField
          label={text.services.firstAfter}
          value={s.first_after_min}
          onSave={(v) => onSave({ ...s, first_after_min: Math.round(v) })}
        />
        <NumberField
          label={text.services.courseMin}
          value={s.course_min}
          onSave={(v) => onSave({ ...s, course_min: Math.round(v) })}
        />
        <NumberField
          label={text.services.reserve}
          value={s.reserve_percent}
          onSave={(v) => onSave({ ...s, reserve_percent: v })}
        />
        <NumberField
          label={text.services.platingHands}
          value={s.plating_hands ?? 0}
          onSave={(v) => onSave({ ...s, plating_hands: Math.round(v) })}
        />
      </div>
      <Agreed s={s} house={house} onSave={onSave} />
      <h3>{text.services.menu}</h3>
      <div className="fields">
        {s.menu.map((m) => (
          <span className="menu-line" key={m.dish}>
            <NumberField
              label={dishes.find((d) => d.id === m.dish)?.name ?? m.dish}
              value={m.share_percent}
              onSave={(v) =>
                onSave({
                  ...s,
                  menu: s.menu.map((x) => (x.dish === m.dish ? { ...x, share_percent: v } : x)),
                })
              }
            />
            <Drop onClick={() => onSave({ ...s, menu: s.menu.filter((x) => x.dish !== m.dish) })} />
          </span>
        ))}
        {free.length > 0 && (
          <Select
            label={text.services.addDish}
            value=""
            options={[["", text.makings.choose] as const, ...free.map((d) => [d.id, d.name] as const)]}
            onSave={(dish) => dish && onSave({ ...s, menu: [...s.menu, { dish, share_percent: 0 }] })}
          />
        )}
      </div>
      <h3>{text.services.tablesTitle}</h3>
      {s.tables.map((t) => (
        <TableLine
          banquet={s.kind === "banquet"}
          key={t.id}
          t={t}
          choices={house.choices}
          onSave={setTable}
          onRemove={() => onTables({ edit: "remove", table: t.id })}
        />
      ))}
      <div className="variants">
        <Button onClick={() => onTables({ edit: "add" })}>{text.services.addTable}</Button>
        <Button onClick={onCopy}>{text.services.copy}</Button>
        <Button look="outline-danger" onClick={onRemove}>
          {text.services.remove}
        </Button>
      </div>
    </div>
  );
}
