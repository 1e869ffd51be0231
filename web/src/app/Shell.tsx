import { useEffect } from "react";
import { Navigate, NavLink, Outlet, useLocation, useNavigate } from "react-router";
import { useHouse } from "../api/queries";
import { useNotReached } from "../api/reach";
import { useEntrance, useSession, type Session } from "../api/session";
import { JoinRing, type Arc } from "../charts/JoinRing";
import { text } from "../text";
import { DayLine } from "./DayLine";
import { Finder } from "./Finder";
import { Offers } from "./Offers";
import { SignInPage } from "./SignInPage";
import { Who } from "./Who";

// The screens, each with an operation that whoever sees it may do.
const screens = [
  ["dishes", text.screens.dishes, "list-dishes"],
  ["prep", text.screens.prep, "get-prep"],
  ["fire", text.screens.fire, "get-fire"],
  ["pass", text.screens.pass, "get-fire"],
  ["back", text.screens.back, "get-fire-join"],
] as const;

const mark: Arc[] = [1, 1, 1, 1, 0.9].map((share, i) => ({ share, state: i < 4 ? "ready" : "waiting" }));

// NotReached says since when the server has not answered.
function NotReached() {
  const since = useNotReached();
  if (since === null) return null;
  return (
    <p className="not-reached" role="alert">
      <b>
        <span className="mark-late">▲</span> {text.errors.notReached}
        {since && ` ${text.errors.since} ${since}`}.
      </b>{" "}
      {text.errors.sinceThen}
    </p>
  );
}

// Start is where somebody begins: at the first screen that they may see.
export function Start() {
  const may = useSession().data?.may;
  if (!may) return null;
  const first = screens.find(([, , id]) => may.includes(id));
  return <Navigate to={`/${first?.[0] ?? "pass"}`} replace />;
}

// Shell lets in whoever may be here, or asks them to sign in.
export function Shell() {
  const session = useSession();
  const where = useLocation().pathname;
  useEntrance();
  if (!session.data) return <main className="page">{session.error && <NotReached />}</main>;
  if (session.data.role === "" || where === "/sign-in") return <SignInPage session={session.data} />;
  return <Frame session={session.data} />;
}

// Frame is around every page: the screens on the left, the day across the head.
function Frame({ session }: { session: Session }) {
  const house = useHouse();
  const go = useNavigate();
  const { may } = session;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      const screen = screens[Number(e.key) - 1];
      if (!typing && screen && may.includes(screen[2]) && !e.ctrlKey && !e.metaKey && !e.altKey)
        void go(`/${screen[0]}`);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [go, may]);
  return (
    <div className="frame">
      <nav className="rail" aria-label={text.screensLabel}>
        <div className="mark">
          <JoinRing list={mark} size={46} label="Jointime" />
        </div>
        {screens.map(
          ([to, name, id]) =>
            may.includes(id) && (
              <NavLink key={to} to={`/${to}`}>
                {name}
              </NavLink>
            ),
        )}
        {may.includes("list-components") && (
          <NavLink className="foot" to="/kitchen">
            {text.screens.kitchen}
          </NavLink>
        )}
      </nav>
      <div className="head">
        {house.data && <DayLine house={house.data} />}
        {house.data && !house.data.empty && <Who session={session} />}
      </div>
      <Finder />
      <main className="page">
        <NotReached />
        {house.data && !house.data.empty && <Offers />}
        <Outlet />
      </main>
    </div>
  );
}
