export { editRefusalSentence, formProblemSentence, refusalSentence, stuckSentence } from "./sentences";
export { trailLine, type TrailLine, type TrailNames } from "./eventLine";
export { nextInWords, pathOf, type PathStop } from "./requestPath";
export { timeLeft, type TimeLeft } from "./timeLeft";
