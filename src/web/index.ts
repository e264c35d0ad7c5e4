export { answerOf, type Answer } from "./answer";
export { clearSession, currentActor, isDemo, requireActor, setSession, SESSION_COOKIE } from "./session";
