export {
  gridMistake,
  labelPlace,
  MOST_LABELS,
  sheetsOf,
  type Label,
  type LabelGrid,
  type LabelSheet,
} from "./labelSheet";
export {
  lengthOf,
  MOST_OF_A_PAPER,
  type Paper,
  type PaperBlock,
  type PaperFact,
  type PaperTable,
} from "./paper";
export { requestPaper, type PaperTrail, type PaperWords, type RequestToPrint } from "./requestPaper";
