import { NavLink, Navigate, useLocation, useParams } from "react-router";
import { useDishes } from "../../api/queries";
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
  if (dishes.error) return <Failed error={dishes.error} retry={() => void dishes.refetch()} />;
  if (!dishes.data) return null;
  if (dishes.data.length === 0) return <Empty />;
  const first = dishes.data.find((d) => d.course === "main") ?? dishes.data[0];
  if (!id && first) return <Navigate to={{ pathname: `/dishes/${first.id}`, search }} replace />;
  return (
    <div className="dishes">
      <nav className="menu" aria-label={text.screens.dishes}>
        {courses.map((course) => {
          const list = dishes.data.filter((d) => d.course === course);
          return list.length === 0 ? null : (
            <div key={course}>
              <h2>{text.courses[course]}</h2>
              {list.map((d) => (
                <NavLink key={d.id} to={{ pathname: `/dishes/${d.id}`, search }}>
                  {d.name}
                </NavLink>
              ))}
            </div>
          );
        })}
        <NewDish />
      </nav>
      {id && <DishView key={id} id={id} />}
    </div>
  );
}
