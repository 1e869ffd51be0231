import { text } from "../text";

// Later says what a screen will be for.
export function Later({ screen }: { screen: string }) {
  const [title, say] = text.later[screen] ?? ["", ""];
  return (
    <div className="empty card-enamel">
      <h1>{title}</h1>
      <p>{say}</p>
    </div>
  );
}
