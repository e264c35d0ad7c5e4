export { About } from "./About";
export { DraftProvider, useDraft, type DraftStart, type SaveEdits } from "./draft/DraftProvider";
export { WorkshopFrame } from "./draft/WorkshopFrame";
export { FormSheet } from "./form/FormSheet";
export { RouteSheet } from "./route/RouteSheet";
