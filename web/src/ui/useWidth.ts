import { useLayoutEffect, useState, type RefObject } from "react";

// useWidth follows the width of an element, in CSS pixels.
export function useWidth(ref: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(800);
  useLayoutEffect(() => {
    const el = ref.current;
    if (!el) return;
    setWidth(el.clientWidth);
    const watch = new ResizeObserver(() => setWidth(el.clientWidth));
    watch.observe(el);
    return () => watch.disconnect();
  }, [ref]);
  return width;
}
