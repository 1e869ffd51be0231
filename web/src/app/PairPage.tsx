import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type FormEvent } from "react";
import { useNavigate } from "react-router";
import { whyOf } from "../api/problem";
import { entered, pair } from "../api/session";
import { text } from "../text";
import { Button } from "../ui/Button";

// PairPage makes this browser a screen of the kitchen, by the code that the chef shows: typed, or in the address that its picture leads to.
// The code stands behind a #, so that it is in no log, and is taken out of the address at once.
export function PairPage() {
  const queries = useQueryClient();
  const go = useNavigate();
  const [code, setCode] = useState(() => window.location.hash.slice(1));
  const [scanned] = useState(code !== "");
  const enter = useMutation({ mutationFn: pair, onSuccess: (s) => entered(queries, s) });
  const { mutate } = enter;
  useEffect(() => {
    const shown = window.location.hash.slice(1);
    if (!shown) return;
    window.history.replaceState(null, "", "/pair");
    mutate(shown);
  }, [mutate]);
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (code.trim()) mutate(code.trim());
  };
  const is = enter.data?.device;
  return (
    <main className="entrance">
      <form className="card-enamel" onSubmit={submit} aria-label={text.access.pairTitle}>
        <h1>{text.access.pairTitle}</h1>
        {is ? (
          <>
            <p>{text.access.paired(is.name, text.access.roles[is.role] ?? "")}</p>
            <Button look="primary" onClick={() => void go("/", { replace: true })}>
              {text.access.begin}
            </Button>
          </>
        ) : (
          <>
            <label>
              {text.access.code}
              <input
                className="form-control code"
                name="code"
                autoFocus={!scanned}
                autoComplete="off"
                autoCapitalize="characters"
                spellCheck={false}
                value={code}
                onChange={(e) => setCode(e.target.value)}
              />
            </label>
            {enter.error && (
              <p className="said" role="alert">
                <span className="mark-late">▲</span> {whyOf(enter.error)}
              </p>
            )}
            <Button look="primary" type="submit" disabled={enter.isPending || !code.trim()}>
              {text.access.pairHere}
            </Button>
            <p className="quiet">{text.access.codeFrom}</p>
          </>
        )}
        {!window.isSecureContext && (
          <p className="quiet">
            {text.access.untrusted} <a href="/trust">{text.access.trustTitle}</a>
          </p>
        )}
      </form>
    </main>
  );
}
