import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { useEffect, useRef, useState, type CSSProperties, type ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { StepCard } from "./StepCard";
import { WaitSlider } from "./WaitSlider";

type Component = Schemas["Component"];
type Step = Schemas["Step"];

const gate = "the-cut";

// Chain is a component's steps in their order, with the waits between them and the cut
// between making ahead and picking up; steps and the cut are dragged or moved by key.
export function Chain({
  component: c,
  assumed,
  heating,
  ovens,
  mates,
  house,
  onSave,
  onEdit,
  onProbe,
}: {
  component: Component;
  assumed: Schemas["Assumed"];
  heating: Schemas["StepHeating"][];
  ovens: Schemas["StepOven"][];
  mates: Schemas["Mate"][];
  house: Schemas["House"];
  onSave: (c: Component) => void;
  onEdit: (e: Omit<Schemas["ChainEdit"], "version">) => void;
  onProbe: (step: string, typed: string) => Promise<boolean>;
}) {
  const [open, setOpen] = useState<string | null>(null);
  const [adding, setAdding] = useState<number | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      if (e.key === "n" && !typing && !e.ctrlKey && !e.metaKey && !e.altKey) {
        e.preventDefault();
        setAdding(c.steps.length);
      }
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [c.steps.length]);
  const first = c.steps.findIndex((s) => s.phase === "pick-up");
  const cut = first < 0 ? c.steps.length : first;
  const items = [...c.steps.slice(0, cut).map((s) => s.id), gate, ...c.steps.slice(cut).map((s) => s.id)];
  const moveItem = (from: number, to: number) => {
    if (from === to || to < 0 || to >= items.length) return;
    if (items[from] === gate) onEdit({ edit: "cut", at: to });
    else {
      const rest = items.filter((x) => x !== gate);
      const at = rest.indexOf(items[from] ?? "");
      const without = items.filter((_, i) => i !== from);
      const before = without.slice(0, to).filter((x) => x !== gate).length;
      // Past the cut alone the order stays, and only the cut moves.
      if (before === at) onEdit({ edit: "cut", at: from < to ? cut - 1 : cut + 1 });
      else onEdit({ edit: "move", at, to: before });
    }
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over) moveItem(items.indexOf(String(active.id)), items.indexOf(String(over.id)));
  };
  const setStep = (s: Step) => onSave({ ...c, steps: c.steps.map((x) => (x.id === s.id ? s : x)) });
  return (
    <div className="chain-editor">
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={items} strategy={verticalListSortingStrategy}>
          <ol className="chain" aria-label={text.component.chain}>
            {items.map((id, i) => {
              const s = c.steps.find((x) => x.id === id);
              const move = (by: number) => moveItem(i, i + by);
              if (!s)
                return (
                  <Item key={id} id={id} label={text.chain.moveCut} onMove={move}>
                    <div className="gate">
                      <span>{text.chain.ahead}</span>
                      <span>{text.component.toOrder}</span>
                    </div>
                  </Item>
                );
              const at = c.steps.indexOf(s);
              return (
                <Item
                  key={id}
                  id={id}
                  label={`${text.chain.move} ${s.name}`}
                  onMove={move}
                  before={s.after.map((a, k) => (
                    <WaitSlider
                      key={a.step}
                      label={`${text.chain.waitAfter} ${c.steps.find((x) => x.id === a.step)?.name ?? ""}`}
                      wait={a}
                      planned={assumed.waits.find((w) => w.after === a.step && w.to === s.id)?.plan}
                      house={house}
                      onSave={(w) =>
                        setStep({
                          ...s,
                          after: s.after.map((x, n) => (n === k ? { ...w, step: a.step } : x)),
                        })
                      }
                    />
                  ))}
                >
                  <StepCard
                    step={s}
                    component={c}
                    house={house}
                    assumed={assumed.steps.find((x) => x.step === s.id)}
                    heating={heating.find((x) => x.step === s.id)}
                    oven={ovens.find((x) => x.step === s.id)?.said.text}
                    mates={mates}
                    onProbe={onProbe}
                    open={open === s.id}
                    onOpen={(o) => setOpen(o ? s.id : null)}
                    onSave={setStep}
                    onAdd={() => setAdding(at + 1)}
                    onRemove={() => {
                      setOpen(null);
                      onEdit({ edit: "remove", at });
                    }}
                  />
                  {adding === at + 1 && at + 1 < c.steps.length && (
                    <Adder
                      onDone={(line) => {
                        setAdding(line ? at + 2 : null);
                        if (line) onEdit({ edit: "add", at: at + 1, line });
                      }}
                    />
                  )}
                </Item>
              );
            })}
          </ol>
        </SortableContext>
      </DndContext>
      {adding !== null && adding >= c.steps.length ? (
        <Adder
          key={c.steps.length}
          onDone={(line) => {
            setAdding(line ? c.steps.length + 1 : null);
            if (line) onEdit({ edit: "add", at: c.steps.length, line });
          }}
        />
      ) : (
        <Button onClick={() => setAdding(c.steps.length)}>
          {text.chain.add} <kbd>{text.chain.addKey}</kbd>
        </Button>
      )}
      <WaitSlider
        label={text.editor.hold}
        wait={c.hold}
        planned={c.pot ? undefined : assumed.waits.find((w) => w.to === "")?.plan}
        house={house}
        onSave={(hold) => onSave({ ...c, hold })}
      />
    </div>
  );
}

// Adder takes a step as a kitchen line; Enter makes it and waits for the next, Escape or
// leaving ends.
function Adder({ onDone }: { onDone: (line: string) => void }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  return (
    <input
      ref={field}
      className="form-control adding"
      name="new-step"
      aria-label={text.chain.add}
      placeholder={text.chain.say}
      onBlur={(e) => onDone(e.target.value.trim())}
      onKeyDown={(e) => {
        if (e.key === "Enter") {
          e.preventDefault();
          const line = e.currentTarget.value.trim();
          e.currentTarget.value = "";
          onDone(line);
        } else if (e.key === "Escape") {
          e.currentTarget.value = "";
          onDone("");
        }
      }}
    />
  );
}

function Item({
  id,
  label,
  before,
  children,
  onMove,
}: {
  id: string;
  label: string;
  before?: ReactNode;
  children: ReactNode;
  onMove: (by: number) => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const style: CSSProperties = {
    transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined,
    transition,
    zIndex: isDragging ? 2 : undefined,
    position: "relative",
  };
  return (
    <li ref={setNodeRef} style={style} data-item={id}>
      {before}
      <div className="row-with-grip">
        <button
          type="button"
          className="grip"
          {...attributes}
          {...listeners}
          aria-label={label}
          onKeyDown={(e) => {
            if (e.altKey && (e.key === "ArrowUp" || e.key === "ArrowDown")) {
              e.preventDefault();
              onMove(e.key === "ArrowUp" ? -1 : 1);
              return;
            }
            (listeners as { onKeyDown?: (e: unknown) => void } | undefined)?.onKeyDown?.(e);
          }}
        >
          <svg viewBox="0 0 12 20" width={12} height={20} aria-hidden="true">
            {[3, 10, 17].map((y) => (
              <line key={y} x1={1} x2={11} y1={y} y2={y} stroke="var(--quiet)" strokeWidth={2} />
            ))}
          </svg>
        </button>
        <div className="row-body">{children}</div>
      </div>
    </li>
  );
}
