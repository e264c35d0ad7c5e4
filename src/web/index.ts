export { answerOf, type Answer } from "./answer";
export { fileHeaders } from "./fileAnswers";
export { PAUSE_MS, readBody, WHOLE_MS } from "./readBody";
export { Slots } from "./pace";
export { ownPath } from "./ownPath";
export { fromOurPage, NOT_OURS } from "./origin";
export {
  clearSession,
  currentActor,
  isDemo,
  requireActor,
  setGoing,
  setSession,
  signingIn,
  takeGoing,
} from "./session";
export { pageNumber } from "./pageNumber";
export { signInAfter } from "./signInAfter";
