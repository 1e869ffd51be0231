import { Modal } from "react-bootstrap";
import { useComponent } from "../../api/queries";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { span } from "../../ui/time";
import type { Clash } from "./useChanges";

// ClashDialog shows both versions of a step that two people changed, and lets the
// second choose.
export function ClashDialog({
  clash,
  onTheirs,
  onMine,
}: {
  clash: Clash;
  onTheirs: () => void;
  onMine: (c: Clash) => void;
}) {
  const now = useComponent(clash.component);
  const step = now.data?.component.steps.find((s) => s.id === clash.step);
  return (
    <Modal show onHide={onTheirs} centered>
      <Modal.Header>
        <Modal.Title as="h2">{text.conflict.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p className="mb-1">
          {text.conflict.theirsIs}: <b>{step ? `${step.name}: ${span(step.time.fixed.likely)}` : "…"}</b>
        </p>
        <p className="mb-0">
          {text.conflict.mineIs}: <b>{clash.mine}</b>
        </p>
      </Modal.Body>
      <Modal.Footer>
        <Button onClick={() => onMine(clash)}>{text.conflict.mine}</Button>
        <Button look="primary" onClick={onTheirs}>
          {text.conflict.theirs}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
