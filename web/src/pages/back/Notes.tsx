import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { newId } from "../../api/live";
import { useHouse } from "../../api/queries";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { BookOptions } from "./BookOptions";

type Note = Schemas["NoteView"];
type Where = { night?: string; dish?: string; component?: string; step?: string; for?: string };

const useNotes = (where: Where) =>
  useQuery({
    queryKey: keys.notes(JSON.stringify(where)),
    queryFn: () => settle(api.GET("/api/notes", { params: { query: where } })),
  });

// usePutAway keeps a note from coming up again.
function usePutAway() {
  const queries = useQueryClient();
  return (n: Note) =>
    void settle(api.DELETE("/api/notes/{number}", { params: { path: { number: n.number } } })).then(() =>
      queries.invalidateQueries({ queryKey: keys.notes() }),
    );
}

function Line({ n, away }: { n: Note; away: (n: Note) => void }) {
  const words = text.back;
  return (
    <li className={n.done ? "quiet" : undefined}>
      <span>
        {n.kind !== "night" && <b>{n.name}: </b>}
        {n.text}
        <small className="quiet"> {[n.person, n.night].filter(Boolean).join(", ")}</small>
      </span>
      {n.done ? (
        <small className="quiet">{words.isAway}</small>
      ) : (
        <Button onClick={() => away(n)}>{words.putAway}</Button>
      )}
    </li>
  );
}

// NotesHere are the notes that belong to what is shown; nothing where there are none.
export function NotesHere({ where, bare = false }: { where: Where; bare?: boolean }) {
  const notes = useNotes(where).data ?? [];
  const away = usePutAway();
  if (notes.length === 0) return null;
  return (
    <section className={bare ? "notes bare" : "card-enamel notes"} aria-label={text.back.notes}>
      {!bare && <h2>{text.back.notes}</h2>}
      <ul>
        {notes.map((n) => (
          <Line key={n.number} n={n} away={away} />
        ))}
      </ul>
    </section>
  );
}

// NightNotes are those of one night, and where another is written.
export function NightNotes({
  service,
  groups,
  steps,
}: {
  service: string;
  groups: string[];
  steps: readonly Schemas["StepSum"][];
}) {
  const words = text.back;
  const queries = useQueryClient();
  const list = useNotes({ night: service }).data ?? [];
  const away = usePutAway();
  const named = useHouse().data;
  const [about, setAbout] = useState("night/");
  const [said, setSaid] = useState("");
  const [problem, setProblem] = useState("");
  const write = () => {
    const [kind = "night", ...rest] = about.split("/");
    void settle(
      api.POST("/api/notes", {
        body: { id: newId(), service, kind: kind as Note["kind"], about: rest.join("/"), text: said },
      }),
    )
      .then(() => {
        setSaid("");
        setProblem("");
        return queries.invalidateQueries({ queryKey: keys.notes() });
      })
      .catch((e: unknown) => setProblem((e as Error).message));
  };
  if (!named) return null;
  return (
    <section className="card-enamel notes">
      <h2>{words.notes}</h2>
      <ul>
        {list.map((n) => (
          <Line key={n.number} n={n} away={away} />
        ))}
      </ul>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          write();
        }}
      >
        <select
          className="form-select"
          aria-label={words.about}
          value={about}
          onChange={(e) => setAbout(e.target.value)}
        >
          <option value="night/">{words.aboutNight}</option>
          <BookOptions />
          <optgroup label={words.steps}>
            {steps.map((s) => (
              <option key={`${s.component}/${s.step}`} value={`step/${s.component}/${s.step}`}>
                {s.what}, {s.act}
              </option>
            ))}
          </optgroup>
          <optgroup label={words.groups}>
            {groups.map((g) => (
              <option key={g} value={`group/${g}`}>
                {g}
              </option>
            ))}
          </optgroup>
        </select>
        <input
          className="form-control"
          aria-label={words.note}
          placeholder={words.note}
          maxLength={500}
          value={said}
          onChange={(e) => setSaid(e.target.value)}
        />
        <Button look="primary" type="submit" disabled={said.trim() === ""}>
          {words.writeNote}
        </Button>
      </form>
      {problem && <p className="mark-late">▲ {problem}</p>}
      <p className="quiet">{words.notesNote}</p>
    </section>
  );
}
