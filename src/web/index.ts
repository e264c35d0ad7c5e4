export { answerOf, type Answer } from "./answer";
export { bytesUpTo, fileHeaders } from "./fileAnswers";
export { ownPath } from "./ownPath";
export { fromOurPage, NOT_OURS } from "./origin";
export { clearSession, currentActor, isDemo, requireActor, setSession, signingIn } from "./session";
export { pageNumber } from "./pageNumber";
