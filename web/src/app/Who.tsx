import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { choosePerson, entered, signOut, type Session } from "../api/session";
import { text } from "../text";
import { Button } from "../ui/Button";

// Who is who works at this screen: changes and taps carry the name. Where nobody has to sign in, and at a paired screen, it is chosen;
// whoever signed in signs out again.
export function Who({ session }: { session: Session }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const show = (s: Session) => entered(queries, s);
  if (session.signed_in)
    return (
      <div className="who">
        <span className="named" title={text.access.roles[session.role]}>
          {session.name}
        </span>
        <Button onClick={() => void signOut().then(show, () => undefined)}>{text.access.signOut}</Button>
      </div>
    );
  return (
    <div className="who">
      <label>
        <span className="visually-hidden">{text.who.label}</span>
        <select
          className="form-select"
          name="who"
          value={session.person}
          onChange={(e) => void choosePerson(e.target.value).then(show, () => undefined)}
        >
          <option value="">{text.who.nobody}</option>
          {session.people.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      </label>
      {session.device && <Button onClick={() => void go("/sign-in")}>{text.access.signIn}</Button>}
    </div>
  );
}
