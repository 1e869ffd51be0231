import { useSyncExternalStore } from "react";

// reach is whether the server answers, and when it last did.
let last: Date | null = null;
let lost = false;
const hearing = new Set<() => void>();

const tell = () => hearing.forEach((f) => f());

export function reached() {
  last = new Date();
  if (lost) {
    lost = false;
    tell();
  }
}

export function notReached() {
  if (!lost) {
    lost = true;
    tell();
  }
}

// useNotReached is since when the server has not answered, as HH:MM of this screen's clock:
// null while it does, "" when it never did.
export function useNotReached(): string | null {
  return useSyncExternalStore(
    (f) => {
      hearing.add(f);
      return () => hearing.delete(f);
    },
    () =>
      lost
        ? last
          ? `${String(last.getHours()).padStart(2, "0")}:${String(last.getMinutes()).padStart(2, "0")}`
          : ""
        : null,
  );
}
