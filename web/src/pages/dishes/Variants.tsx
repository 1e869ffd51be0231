import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { Chips } from "../../ui/fields";

type Spec = Schemas["Specification"];
type Change = Schemas["Change"];

// changed returns the specification with one element of a variant changed, or as
// written again when there is no change.
export function changed(spec: Spec, variant: string, element: number, change: Change | null): Spec {
  return {
    ...spec,
    variants: spec.variants.map((v) =>
      v.name !== variant
        ? v
        : { ...v, changes: [...v.changes.filter((c) => c.element !== element), ...(change ? [change] : [])] },
    ),
  };
}

// VariantBar chooses the plate that is shown, makes new variants, and says what one is
// to be free of.
export function VariantBar({
  house,
  spec,
  variant,
  onChange,
}: {
  house: Schemas["House"];
  spec: Spec;
  variant: string;
  onChange: (s: Spec) => Promise<boolean>;
}) {
  const [params, setParams] = useSearchParams();
  const [name, setName] = useState<string | null>(null);
  const choose = (v: string) => {
    const next = new URLSearchParams(params);
    if (v) next.set("variant", v);
    else next.delete("variant");
    setParams(next, { replace: true });
  };
  const known = spec.variants.find((v) => v.name === variant);
  const make = () => {
    const made = (name ?? "").trim();
    setName(null);
    if (!made || spec.variants.some((v) => v.name === made)) return;
    const without = house.choices.allergens.filter((a) => made.toLowerCase() === `no ${a}`);
    // It is shown when it is kept: asked for sooner, the server knows of no such variant.
    void onChange({ ...spec, variants: [...spec.variants, { name: made, without, changes: [] }] }).then(
      (kept) => kept && choose(made),
    );
  };
  return (
    <div className="variant-bar">
      <div className="variants" role="group" aria-label={text.dish.variants}>
        {["", ...spec.variants.map((v) => v.name)].map((v) => (
          <Button
            key={v}
            look={variant === v ? "primary" : "outline-primary"}
            aria-pressed={variant === v}
            onClick={() => choose(v)}
          >
            {v || text.asWritten}
          </Button>
        ))}
        {name === null ? (
          <button type="button" className="link" onClick={() => setName("")}>
            {text.variants.add}
          </button>
        ) : (
          <input
            className="form-control"
            name="variant-name"
            style={{ width: 170 }}
            autoFocus
            placeholder={text.variants.name}
            aria-label={text.variants.name}
            value={name}
            onChange={(e) => setName(e.target.value)}
            onBlur={make}
            onKeyDown={(e) => {
              if (e.key === "Enter") make();
              if (e.key === "Escape") setName(null);
            }}
          />
        )}
      </div>
      {known && (
        <div className="variant-edit">
          <Chips
            label={text.variants.without}
            all={house.choices.allergens}
            chosen={known.without ?? []}
            onChange={(without) =>
              void onChange({
                ...spec,
                variants: spec.variants.map((v) => (v === known ? { ...v, without } : v)),
              })
            }
          />
          <Chips
            label={text.diets.suits}
            all={house.choices.diets}
            chosen={known.diets ?? []}
            onChange={(diets) =>
              void onChange({
                ...spec,
                variants: spec.variants.map((v) => (v === known ? { ...v, diets } : v)),
              })
            }
          />
          <Button
            look="outline-danger"
            onClick={() => {
              choose("");
              void onChange({ ...spec, variants: spec.variants.filter((v) => v !== known) });
            }}
          >
            {text.variants.remove}
          </Button>
        </div>
      )}
    </div>
  );
}
