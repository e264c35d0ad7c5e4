export { MOST as MOST_OF_LETTER, tooMuch } from "./bounds";
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
  writtenText,
  type WrittenLetter,
  type WrittenPart,
  type WrittenRun,
} from "./written";
