import { useHouse } from "../../api/queries";
import { Empty, Failed } from "../../app/Empty";
import { Faulty } from "../../ui/fields";
import { useSession } from "../../api/session";
import { AccessPart } from "./AccessPart";
import { EquipmentList } from "./EquipmentList";
import { PeopleList } from "./PeopleList";
import { SectionList } from "./SectionList";
import { HouseDiets } from "./HouseDiets";
import { Settings } from "./Settings";
import { useHouseChanges, type House } from "./useParts";
import { VesselList } from "./VesselList";

// KitchenPage is who and what there is to cook with; everything is edited in place and
// saved at once.
export function KitchenPage() {
  const house = useHouse();
  if (house.error && !house.data) return <Failed error={house.error} retry={() => void house.refetch()} />;
  if (!house.data) return null;
  if (house.data.empty) return <Empty />;
  return <Loaded h={house.data} />;
}

function Loaded({ h }: { h: House }) {
  const changes = useHouseChanges(h);
  const may = useSession().data?.may ?? [];
  return (
    <article className="kitchen-page">
      <h1>{h.kitchen.name}</h1>
      <Faulty problem={changes.problem} />
      <Settings k={h.kitchen} put={changes.settings} />
      <PeopleList h={h} part={changes.people} />
      <SectionList h={h} part={changes.sections} />
      <EquipmentList h={h} part={changes.equipment} />
      <VesselList h={h} part={changes.vessels} />
      <HouseDiets house={h} put={changes.settings} />
      {may.includes("get-access") && <AccessPart h={h} />}
    </article>
  );
}
