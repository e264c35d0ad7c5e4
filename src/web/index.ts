export { answerOf, type AnewSeen, type Answer } from "./answer";
export { formAnswer } from "./formAnswer";
export { fileHeaders } from "./fileAnswers";
export { added, asksSmall, handedFile, noFile } from "./handFile";
export { packFiles } from "./packFiles";
export { Slots } from "./pace";
export { takeFile, takeUpload } from "./takeUpload";
export { ownPath } from "./ownPath";
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
export { queryOnce } from "./queryOnce";
export { pageNumber } from "./pageNumber";
export { signInAfter } from "./signInAfter";
