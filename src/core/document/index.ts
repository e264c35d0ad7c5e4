export {
  ITEM,
  ITEM_NUMBER,
  MOST_MM,
  MOST_OF_DOCUMENT,
  MOST_OF_TEMPLATE,
  type DocumentTag,
  type DocumentTemplate,
  type Piece,
  type TagSaid,
  type TagSpot,
  type TemplateFile,
} from "./document";
export { firstTemplate, type FirstPart } from "./firstTemplate";
export { firstsOf, type FirstOf } from "./firstsOf";
export { picturesIn, withSignature, type Filled } from "./filled";
export { plainly, readTag, tagText, UNSEEN } from "./readTag";
export { tagTree, type TagMistake, type TagNode, type TreeTag } from "./tagTree";
