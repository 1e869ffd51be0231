import type { Schemas } from "../../api/client";
import { useComponents } from "../../api/queries";
import { text } from "../../text";
import { Button, Drop } from "../../ui/Button";
import { Check, Fold, NumberField, Select, TextField } from "../../ui/fields";
import { MaybeClockField } from "../../ui/understood";

type Meal = Schemas["Meal"];
type Course = Schemas["MealCourse"];

const named = (all: { id: string; name: string }[], ids: string[]) =>
  ids.map((id) => all.find((x) => x.id === id)?.name ?? id).join(", ");

// MealEditor is what a meal is: its courses and when they are served, who and what is there, what is compulsory.
export function MealEditor({
  m,
  dishes,
  house,
  onSave,
  onRemove,
}: {
  m: Meal;
  dishes: Schemas["DishLine"][];
  house: Schemas["House"];
  onSave: (m: Meal) => void;
  onRemove: () => void;
}) {
  const components = useComponents();
  const course = (i: number, n: Partial<Course>) =>
    onSave({ ...m, courses: m.courses.map((c, k) => (k === i ? { ...c, ...n } : c)) });
  return (
    <section className="card-enamel meal-editor">
      <div className="fields">
        <TextField wide label={text.makings.name} value={m.name} onSave={(name) => onSave({ ...m, name })} />
        <MaybeClockField
          label={text.meal.starts}
          value={m.starts_at}
          onSave={(starts_at) => onSave({ ...m, starts_at })}
        />
        <NumberField
          label={text.meal.hands}
          value={m.plating_hands ?? 1}
          onSave={(v) => onSave({ ...m, plating_hands: Math.max(1, Math.round(v)) })}
        />
      </div>
      {m.courses.map((c, i) => (
        <fieldset key={i} className="fields meal-course">
          <legend>
            {text.meal.course} {i + 1}
          </legend>
          <TextField label={text.makings.name} value={c.name} onSave={(name) => course(i, { name })} />
          <NumberField
            label={text.meal.due}
            value={c.due_min}
            onSave={(v) => course(i, { due_min: Math.round(v) })}
          />
          {c.orders.map((o, k) => (
            <NumberField
              key={`${o.dish}${o.variant ?? ""}`}
              label={dishes.find((d) => d.id === o.dish)?.name ?? o.dish}
              value={o.count}
              onSave={(v) =>
                course(i, {
                  orders:
                    v < 1
                      ? c.orders.filter((_, n) => n !== k)
                      : c.orders.map((x, n) => (n === k ? { ...x, count: Math.round(v) } : x)),
                })
              }
            />
          ))}
          <Select
            label={text.meal.addDish}
            value=""
            options={[
              ["", text.makings.choose] as const,
              ...dishes
                .filter((d) => !c.orders.some((o) => o.dish === d.id))
                .map((d) => [d.id, d.name] as const),
            ]}
            onSave={(dish) => dish && course(i, { orders: [...c.orders, { dish, count: 2 }] })}
          />
          {m.courses.length > 1 && (
            <Drop onClick={() => onSave({ ...m, courses: m.courses.filter((_, k) => k !== i) })} />
          )}
        </fieldset>
      ))}
      <div className="fields">
        <Select
          label={text.meal.addCourse}
          value=""
          options={[["", text.makings.choose] as const, ...dishes.map((d) => [d.id, d.name] as const)]}
          onSave={(dish) => {
            const last = m.courses[m.courses.length - 1];
            if (dish)
              onSave({
                ...m,
                courses: [
                  ...m.courses,
                  {
                    name: text.meal.course,
                    due_min: (last?.due_min ?? 60) + 20,
                    orders: [{ dish, count: last?.orders[0]?.count ?? 2 }],
                  },
                ],
              });
          }}
        />
      </div>
      <Fold
        title={`${text.meal.there}: ${m.people.length === 0 ? house.people.length : named(house.people, m.people)}`}
      >
        <Among all={house.people} chosen={m.people} onChange={(people) => onSave({ ...m, people })} />
      </Fold>
      <Fold title={`${text.meal.without}: ${named(house.equipment, m.without) || "—"}`}>
        <Among all={house.equipment} chosen={m.without} onChange={(without) => onSave({ ...m, without })} />
      </Fold>
      <Fold title={`${text.meal.must}: ${m.compulsory.map((x) => x.say).join(", ") || "—"}`}>
        {m.compulsory.map((x, i) => {
          const one = (n: Partial<typeof x>) =>
            onSave({ ...m, compulsory: m.compulsory.map((y, k) => (k === i ? { ...y, ...n } : y)) });
          return (
            <div className="fields" key={i}>
              <TextField label={text.meal.say} value={x.say} onSave={(say) => one({ say })} />
              <Select
                label={text.meal.is}
                value={x.component ?? ""}
                options={[
                  ["", text.meal.nobodySaid] as const,
                  ...(components.data ?? []).map((c) => [c.id, c.name] as const),
                ]}
                onSave={(component) => one({ component: component || undefined })}
              />
              <Drop onClick={() => onSave({ ...m, compulsory: m.compulsory.filter((_, k) => k !== i) })} />
            </div>
          );
        })}
        <Button onClick={() => onSave({ ...m, compulsory: [...m.compulsory, { say: text.meal.say }] })}>
          {text.meal.addMust}
        </Button>
      </Fold>
      <Button look="outline-danger" onClick={onRemove}>
        {text.meal.remove}
      </Button>
    </section>
  );
}

// Among chooses some of a list.
function Among({
  all,
  chosen,
  onChange,
}: {
  all: { id: string; name: string }[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
}) {
  return (
    <div className="fields">
      {all.map((x) => (
        <Check
          key={x.id}
          label={x.name}
          on={chosen.includes(x.id)}
          onChange={(on) => onChange(on ? [...chosen, x.id] : chosen.filter((id) => id !== x.id))}
        />
      ))}
    </div>
  );
}
