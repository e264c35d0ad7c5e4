import { ownSheetWidths } from "@/services";
import { answerOf, requireActor } from "@/web";
import { FormSheetHost } from "./FormSheetHost";

export default async function Page() {
  const kept = await answerOf(await ownSheetWidths(await requireActor()));
  return <FormSheetHost kept={kept.ok ? kept.value : {}} />;
}
