import { NavLink, Navigate, useLocation, useParams } from "react-router";
import { useDishes, useHouse } from "../../api/queries";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { DishView } from "./DishView";
import { NewDish } from "./NewDish";

const courses = ["first", "second", "main", "dessert"] as const;

// DishesPage is the menu by course, and the chosen dish beside it.
export function DishesPage() {
  const { id } = useParams();
  const { search } = useLocation();
  const dishes = useDishes();
  const house = useHouse();
  if (dishes.error && !dishes.data)
    return <Failed error={dishes.error} retry={() => void dishes.refetch()} />;
  if (!dishes.data) return null;
  if (!house.data) return null;
  if (house.data.empty) return <Empty />;
  const first = dishes.data.find((d) => d.course === "main") ?? dishes.data[0];
  if (!id && first) return <Navigate to={{ pathname: `/dishes/${first.id}`, search }} replace />;
  return (
    <div className="dishes">
      <nav className="menu" aria-label={text.screens.dishes}>
        {courses.map((course) => {
          const list = dishes.data.filter((d) => d.course === course && d.state !== "retired");
          return list.length === 0 ? null : (
            <div key={course}>
              <h2>{text.courses[course]}</h2>
              {list.map((d) => (
                <NavLink key={d.id} to={{ pathname: `/dishes/${d.id}`, search }}>
                  {d.name}
                  {d.state === "draft" && <span className="quiet"> · {text.dish.states.draft}</span>}
                </NavLink>
              ))}
            </div>
          );
        })}
        {dishes.data.some((d) => d.state === "retired") && (
          <details>
            <summary className="quiet">{text.dish.states.retired}</summary>
            {dishes.data
              .filter((d) => d.state === "retired")
              .map((d) => (
                <NavLink key={d.id} to={{ pathname: `/dishes/${d.id}`, search }}>
                  {d.name}
                </NavLink>
              ))}
          </details>
        )}
        <NavLink className="all-components" to="/components">
          {text.component.all}
        </NavLink>
        <NewDish />
      </nav>
      {id ? <DishView key={id} id={id} /> : <p className="quiet p-4">{text.empty.first}</p>}
    </div>
  );
}
