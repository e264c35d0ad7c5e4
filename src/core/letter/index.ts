export {
  EACH_NAME,
  type Letter,
  type LetterPart,
  type LetterText,
  type Look,
  type PlainPart,
  type Run,
  type WhenInEach,
} from "./letter";
export {
  letterPage,
  partsOfText,
  safeLink,
  writtenHtml,
  writtenText,
  type WrittenLetter,
  type WrittenPart,
  type WrittenRun,
} from "./written";
