import { useEffect, type ReactNode } from "react";
import { Navigate, NavLink, Outlet, useLocation, useNavigate } from "react-router";
import { useHouse } from "../api/queries";
import { useNotReached } from "../api/reach";
import { useEntrance, useSession, type Session } from "../api/session";
import { JoinRing, type Arc } from "../charts/JoinRing";
import { text } from "../text";
import { DayLine } from "./DayLine";
import { DemoClock } from "./DemoClock";
import { Finder } from "./Finder";
import { Offers } from "./Offers";
import { SignInPage } from "./SignInPage";
import { Who } from "./Who";

// The screens, each with an operation that whoever sees it may do.
const screens = [
  ["dishes", text.screens.dishes, "list-dishes"],
  ["prep", text.screens.prep, "get-prep"],
  ["fire", text.screens.fire, "get-fire"],
  ["pass", text.screens.pass, "service-due"],
  ["back", text.screens.back, "look-back"],
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

// Start is where somebody begins: a paired screen at its place, anybody else at the first screen that they may see.
export function Start() {
  const session = useSession().data;
  if (!session) return null;
  const { may, device } = session;
  if (device && !session.signed_in)
    return (
      <Navigate
        to={device.role === "section" ? `/section/${device.section ?? ""}` : `/${device.role}`}
        replace
      />
    );
  if (session.role === "floor" || session.role === "board")
    return <Navigate to={`/${session.role}`} replace />;
  const first = screens.find(([, , id]) => may.includes(id));
  return <Navigate to={`/${first?.[0] ?? "pass"}`} replace />;
}

// useInside is who is here; null, with what is shown instead, while that is not known or nobody may be.
function useInside(): { session: Session } | { instead: ReactNode } {
  const session = useSession();
  const where = useLocation().pathname;
  useEntrance();
  if (!session.data) return { instead: <main className="page">{session.error && <NotReached />}</main> };
  if (session.data.role === "" || where === "/sign-in")
    return { instead: <SignInPage session={session.data} /> };
  return { session: session.data };
}

// Shell lets in whoever may be here, or asks them to sign in.
export function Shell() {
  const inside = useInside();
  return "instead" in inside ? inside.instead : <Frame session={inside.session} />;
}

// Inside is Shell for the screens in service, which have no frame around them.
export function Inside() {
  const inside = useInside();
  return "instead" in inside ? inside.instead : <Outlet />;
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
        {house.data && !house.data.empty && <DemoClock />}
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
