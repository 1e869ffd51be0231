import type { ComponentProps } from "react";
import { Button as Plain } from "react-bootstrap";
import { text } from "../text";

type Look = "primary" | "outline-primary" | "outline-danger";

// Button allows only the looks that the theme has.
export function Button({
  look = "outline-primary",
  ...rest
}: Omit<ComponentProps<typeof Plain>, "variant"> & { look?: Look }) {
  return <Plain variant={look} {...rest} />;
}

// Drop takes one thing out of a list.
export function Drop({ onClick }: { onClick: () => void }) {
  return (
    <Button look="outline-danger" onClick={onClick}>
      {text.chain.drop}
    </Button>
  );
}
