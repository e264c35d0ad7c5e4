export { askedBy } from "./askedBy";
export { editRefusalSentence, formProblemSentence, refusalSentence, stuckSentence } from "./sentences";
export { trailLine, trailLines, type TrailLine, type TrailNames } from "./eventLine";
export { nextInWords } from "./nextInWords";
export { pathOf, type PathRound, type PathRounds, type PathStop } from "./requestPath";
export { NEWS_KINDS, newsLine, type NewsNames } from "./newsLine";
export { timeLeft, type TimeLeft } from "./timeLeft";
export { becauseWords, chainWords, circleWords, dayWords, untoldStart } from "./startWords";
export { pointedWords, writeRefusalSentence } from "./writeRefusalSentence";
