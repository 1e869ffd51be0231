import { useQuery } from "@tanstack/react-query";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useComponents } from "../../api/queries";
import { savesOf } from "../../api/saves";
import { useSave } from "../../api/useSave";
import { text } from "../../text";
import { Drop } from "../../ui/Button";
import { Faulty, NumberField, Select, TextField } from "../../ui/fields";
import { amountOf } from "./days";

// OnHand is what is in the store already: put there, changed, or thrown away, with what of
// it the services planned use.
export function OnHand({ plan }: { plan: Schemas["PrepView"] }) {
  const components = useComponents();
  const stock = useQuery({ queryKey: keys.stock, queryFn: () => settle(api.GET("/api/stock")) });
  const { save: run, problem } = useSave();
  const put = (body: Schemas["OnHand"]) => void run(() => settle(api.POST("/api/stock", { body })));
  // Fields that are left one after another change what the one before has saved.
  const change = (id: string, changed: Partial<Schemas["OnHand"]>) =>
    void run(async () => {
      const shown = stock.data?.find((x) => x.stock.id === id);
      if (!shown) return;
      const { component, amount, note, use_by } = shown.stock;
      const was: Schemas["OnHand"] = { id, component, amount, note, use_by: localOf(use_by) };
      await savesOf<Schemas["OnHand"]>(`stock/${id}`).save(
        { version: shown.version, value: was },
        { ...was, ...changed },
        async (version, value) => {
          const list = await settle(api.POST("/api/stock", { body: { ...value, version } }));
          return { version: list.find((x) => x.stock.id === id)?.version ?? version + 1, value };
        },
      );
    });
  const all = components.data?.filter((c) => !c.archived) ?? [];
  return (
    <section className="card-enamel p-3 on-hand">
      <h2>{text.prep.onHand}</h2>
      <Faulty problem={problem} />
      {stock.data?.map(({ stock: s, version }) => {
        const use = plan.stock.find((x) => x.id === s.id);
        const useBy = localOf(use?.use_by ?? s.use_by);
        return (
          <div className="fields" key={s.id} data-stock={s.id}>
            <span className="what">
              <b>{all.find((c) => c.id === s.component)?.name ?? s.component}</b>
              <span className="quiet">
                {use ? `${text.prep.used} ${amountOf(use.used, use.unit)}` : text.dish.nothing}
                {use?.past && <b className="mark-late"> ▲ {text.prep.past}</b>}
              </span>
            </span>
            <NumberField
              label={`${text.prep.amount} ${use?.unit ?? ""}`.trim()}
              value={s.amount}
              onSave={(amount) => change(s.id, { amount })}
            />
            <TextField
              label={text.prep.useBy}
              value={useBy}
              check={(v) => (isLocal(v) ? "" : text.prep.useByLike)}
              onSave={(use_by) => change(s.id, { use_by })}
            />
            <TextField
              label={text.prep.notePlace}
              value={s.note ?? ""}
              onSave={(note) => change(s.id, { note })}
            />
            <Drop
              onClick={() =>
                void run(() =>
                  settle(
                    api.DELETE("/api/stock/{id}", { params: { path: { id: s.id }, query: { version } } }),
                  ),
                )
              }
            />
          </div>
        );
      })}
      <div className="fields">
        <Select
          label={text.prep.putOnHand}
          value=""
          options={[["", text.makings.choose] as const, ...all.map((c) => [c.id, c.name] as const)]}
          onSave={(component) =>
            component && put({ component, amount: 1, use_by: `${plan.now.slice(0, 10)} 23:59` })
          }
        />
      </div>
    </section>
  );
}

const localOf = (instant: string) => `${instant.slice(0, 10)} ${instant.slice(11, 16)}`;
const isLocal = (v: string) => /^\d{4}-\d{2}-\d{2} \d{2}:\d{2}$/.test(v.trim());
