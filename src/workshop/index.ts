export { About } from "./About";
export type { DraftKeeper, DraftStart } from "./draft/draft";
export { problemPlace } from "./draft/problemPlace";
export { useDraft } from "./draft/DraftProvider";
export { WorkshopFrame } from "./draft/WorkshopFrame";
export { FormSheet } from "./form/FormSheet";
export { LettersSheet } from "./letters/LettersSheet";
export { RouteSheet } from "./route/RouteSheet";
export { WorkshopProvider } from "./WorkshopProvider";
