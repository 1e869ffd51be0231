import { useState } from "react";
import { collect } from "../api/outcome";
import { whyOf, type Problem } from "../api/problem";
import { text } from "../text";

// useKept holds what was typed until it is saved: after a save that failed it stays, with why
// beside it and a press to try again.
export function useKept() {
  const [draft, setDraft] = useState<string | null>(null);
  const [failed, setFailed] = useState<Problem | null>(null);
  const [saving, setSaving] = useState(false);
  const keep = (typed: string, begin: () => void) => {
    setSaving(true);
    setFailed(null);
    void collect(begin).then((problem) => {
      setSaving(false);
      if (problem) setFailed(problem);
      else setDraft((d) => (d === typed ? null : d)); // what was typed meanwhile stays
    });
  };
  const drop = () => {
    setDraft(null);
    setFailed(null);
  };
  const type = (v: string) => {
    setDraft(v);
    setFailed(null);
  };
  return { draft, type, keep, drop, failed, saving };
}

// NotSaved stands beside a field whose save failed.
export function NotSaved({ problem, onAgain }: { problem: Problem | null; onAgain: () => void }) {
  if (!problem) return null;
  const why = problem.status === 409 ? text.errors.changedMeanwhile : whyOf(problem);
  return (
    <span className="not-saved" role="alert">
      {text.errors.notSaved} {why}
      <button type="button" onMouseDown={(e) => e.preventDefault()} onClick={onAgain}>
        {text.errors.onceMore}
      </button>
    </span>
  );
}
