export { answerOf, type Answer } from "./answer";
export { bytesUpTo, fileHeaders } from "./fileAnswers";
export { fromOurPage, NOT_OURS } from "./origin";
export { clearSession, currentActor, isDemo, requireActor, setSession } from "./session";
