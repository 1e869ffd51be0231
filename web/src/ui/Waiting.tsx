import type { ReactNode } from "react";
import { text } from "../text";

// Waiting keeps the place of what is being worked out anew. What stood there belongs to what was asked before: it is
// not shown beside the new question.
export function Waiting({ on, children }: { on: boolean; children: ReactNode }) {
  return (
    <div className={on ? "waiting" : undefined} aria-busy={on}>
      {on && (
        <p className="busy" role="status">
          {text.workingItOut}
        </p>
      )}
      <div className="answer-of" inert={on}>
        {children}
      </div>
    </div>
  );
}
