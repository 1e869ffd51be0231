import { useQueryClient } from "@tanstack/react-query";
import { Dropdown } from "react-bootstrap";
import { useNavigate, useSearchParams } from "react-router";
import { api, sendFile, settle, type Schemas } from "../../api/client";
import { text } from "../../text";
import { keepAnswer } from "./useDish";

type Act = Schemas["DishAct"]["act"];

// Life is what can be done to a dish as a whole: a draft beside what the kitchen works
// from, on and off the menu, a copy, another name, a picture.
export function Life({
  view,
  drafting,
  address,
  send: guard,
}: {
  view: Schemas["DishView"];
  drafting: boolean;
  address: (path: string) => string;
  send: (work: () => Promise<unknown>) => Promise<unknown>;
}) {
  const d = view.dish;
  const queries = useQueryClient();
  const go = useNavigate();
  const [params, setParams] = useSearchParams();
  const show = (draft: boolean) => {
    const next = new URLSearchParams(params);
    if (draft) next.set("draft", "1");
    else next.delete("draft");
    setParams(next, { replace: true });
  };
  const act = (a: Act) =>
    guard(async () => {
      const answer = await settle(
        api.POST("/api/dishes/{id}/life", {
          params: { path: { id: d.id } },
          body: { version: view.version, act: a },
        }),
      );
      keepAnswer(queries, answer);
      show(a === "start-draft");
    });
  const ask = (question: string, was: string) => window.prompt(question, was)?.trim();
  const rename = () => {
    const name = ask(text.life.rename, d.name);
    if (name && name !== d.name)
      void guard(() =>
        settle(
          api.PUT("/api/dishes/{id}", {
            params: { path: { id: d.id } },
            body: { version: view.version, dish: { ...d, name } },
          }),
        ),
      );
  };
  const copy = () => {
    const name = ask(text.life.copyName, `${d.name} 2`);
    if (name)
      void guard(async () => {
        const made = await settle(
          api.POST("/api/dishes/{id}/copy", { params: { path: { id: d.id } }, body: { name } }),
        );
        await go(`/dishes/${made.dish.id}`);
      });
  };
  const picture = () => {
    const input = document.createElement("input");
    input.type = "file";
    input.accept = "image/png,image/jpeg";
    input.onchange = () => {
      const file = input.files?.[0];
      if (file) void guard(() => sendFile(`/api/dishes/${d.id}/photograph`, "PUT", file));
    };
    input.click();
  };
  return (
    <>
      {d.draft && (
        <div className="variants" role="group" aria-label={text.life.which}>
          <button
            type="button"
            className={`btn btn-${drafting ? "outline-primary" : "primary"}`}
            aria-pressed={!drafting}
            onClick={() => show(false)}
          >
            {text.life.inUse}
          </button>
          <button
            type="button"
            className={`btn btn-${drafting ? "primary" : "outline-primary"}`}
            aria-pressed={drafting}
            onClick={() => show(true)}
          >
            {text.life.draft}
          </button>
        </div>
      )}
      {drafting && (
        <button type="button" className="btn btn-primary" onClick={() => void act("use-draft")}>
          {text.life.useDraft}
        </button>
      )}
      {d.state === "draft" && (
        <button type="button" className="btn btn-primary" onClick={() => void act("put-on-menu")}>
          {text.life.putOn}
        </button>
      )}
      <Dropdown align="end">
        <Dropdown.Toggle variant="outline-primary">{text.life.more}</Dropdown.Toggle>
        <Dropdown.Menu>
          {!d.draft && d.state === "current" && (
            <Dropdown.Item onClick={() => void act("start-draft")}>{text.life.startDraft}</Dropdown.Item>
          )}
          {d.draft && (
            <Dropdown.Item onClick={() => void act("drop-draft")}>{text.life.dropDraft}</Dropdown.Item>
          )}
          {d.draft && (
            <Dropdown.Item onClick={() => void go(`/dishes/${d.id}/versions?was=${view.version}&is=0`)}>
              {text.life.compareDraft}
            </Dropdown.Item>
          )}
          <Dropdown.Item onClick={() => void go(`/dishes/${d.id}/versions`)}>
            {text.life.versions}
          </Dropdown.Item>
          <Dropdown.Item onClick={rename}>{text.life.renameItem}</Dropdown.Item>
          <Dropdown.Item onClick={copy}>{text.life.copy}</Dropdown.Item>
          <Dropdown.Item onClick={picture}>{text.life.picture}</Dropdown.Item>
          <Dropdown.Item href={address("card.pdf?size=A4")} target="_blank">
            {text.plate.cardA4}
          </Dropdown.Item>
          <Dropdown.Item href={address("plate.svg")}>{text.plate.svg}</Dropdown.Item>
          <Dropdown.Item onClick={() => window.print()}>{text.life.print}</Dropdown.Item>
          {d.state === "current" && (
            <Dropdown.Item onClick={() => void act("retire")}>{text.life.retire}</Dropdown.Item>
          )}
          {d.state === "retired" && (
            <Dropdown.Item onClick={() => void act("put-on-menu")}>{text.life.putBack}</Dropdown.Item>
          )}
        </Dropdown.Menu>
      </Dropdown>
    </>
  );
}
