import { useEffect } from "react";
import { NavLink, Outlet, useNavigate } from "react-router";
import { useHouse } from "../api/queries";
import { useNotReached } from "../api/reach";
import { JoinRing, type Arc } from "../charts/JoinRing";
import { text } from "../text";
import { DayLine } from "./DayLine";
import { Finder } from "./Finder";
import { Offers } from "./Offers";
import { Who } from "./Who";

const screens = [
  ["dishes", text.screens.dishes],
  ["prep", text.screens.prep],
  ["fire", text.screens.fire],
  ["pass", text.screens.pass],
  ["back", text.screens.back],
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

// Shell is the frame of every page: the screens on the left, the day across the
// head.
export function Shell() {
  const house = useHouse();
  const go = useNavigate();
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      const screen = screens[Number(e.key) - 1];
      if (!typing && screen && !e.ctrlKey && !e.metaKey && !e.altKey) void go(`/${screen[0]}`);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [go]);
  return (
    <div className="frame">
      <nav className="rail" aria-label={text.screensLabel}>
        <div className="mark">
          <JoinRing list={mark} size={46} label="Jointime" />
        </div>
        {screens.map(([to, name]) => (
          <NavLink key={to} to={`/${to}`}>
            {name}
          </NavLink>
        ))}
        <NavLink className="foot" to="/kitchen">
          {text.screens.kitchen}
        </NavLink>
      </nav>
      <div className="head">
        {house.data && <DayLine house={house.data} />}
        {house.data && !house.data.empty && <Who people={house.data.people} />}
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
