import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { useComponents, useDishes } from "../api/queries";
import { text } from "../text";

// Finder opens on / and goes to a dish, a component or a screen by a part of its name.
export function Finder() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      if (e.key === "/" && !typing) {
        e.preventDefault();
        setOpen(true);
      }
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
  return open ? <Find onClose={() => setOpen(false)} /> : null;
}

function Find({ onClose }: { onClose: () => void }) {
  const dishes = useDishes();
  const components = useComponents();
  const go = useNavigate();
  const [word, setWord] = useState("");
  const [at, setAt] = useState(0);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const screens = Object.entries(text.screens).map(([id, name]) => ({ to: `/${id}`, name, kind: "" }));
  const all = [
    ...(dishes.data ?? []).map((d) => ({
      to: `/dishes/${d.id}`,
      name: d.name,
      kind: text.courses[d.course],
    })),
    ...(components.data ?? []).map((c) => ({
      to: `/components/${c.id}`,
      name: c.name,
      kind: text.component.all,
    })),
    ...screens,
  ];
  const found = all.filter((x) => x.name.toLowerCase().includes(word.trim().toLowerCase())).slice(0, 9);
  const open = (i: number) => {
    const x = found[i];
    if (!x) return;
    onClose();
    void go(x.to);
  };
  return (
    <div className="finder" role="dialog" aria-label={text.find.label} onClick={onClose}>
      <div className="card-enamel" onClick={(e) => e.stopPropagation()}>
        <input
          ref={field}
          className="form-control"
          placeholder={text.find.label}
          aria-label={text.find.label}
          value={word}
          onChange={(e) => {
            setWord(e.target.value);
            setAt(0);
          }}
          onKeyDown={(e) => {
            if (e.key === "Escape") onClose();
            if (e.key === "Enter") open(at);
            if (e.key === "ArrowDown") setAt(Math.min(found.length - 1, at + 1));
            if (e.key === "ArrowUp") setAt(Math.max(0, at - 1));
          }}
        />
        <ul>
          {found.map((x, i) => (
            <li key={x.to}>
              <button type="button" aria-current={i === at} onClick={() => open(i)}>
                {x.name} <span className="quiet">{x.kind}</span>
              </button>
            </li>
          ))}
          {found.length === 0 && <li className="quiet p-2">{text.find.none}</li>}
        </ul>
      </div>
    </div>
  );
}
