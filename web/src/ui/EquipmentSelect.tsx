import { text } from "../text";
import { Select } from "./fields";

// EquipmentSelect chooses a kind of equipment, or none.
export function EquipmentSelect({
  label,
  kind,
  kinds,
  onSave,
}: {
  label: string;
  kind: string | undefined;
  kinds: string[];
  onSave: (kind: string | undefined) => void;
}) {
  return (
    <Select
      label={label}
      value={kind ?? ""}
      options={[
        ["", text.chain.noEquipment] as const,
        ...kinds.map((k) => [k, k.replace("-", " ")] as const),
      ]}
      onSave={(k) => onSave(k || undefined)}
    />
  );
}
