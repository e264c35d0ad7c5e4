export * from "./field";
export { MAIL_SCOPE, mailNames, type MailFacts } from "./mailNames";
export { isEmailAddress } from "./emailAddress";
export { ADDRESS_PARTS, addressFrom, addressText, keptAddress, type PostalAddress } from "./postalAddress";
export { arrangedFields, fillableIn, type AnswersAt, type FormShows, type StepForm } from "./stepForm";
export { fieldsOfPart, guideParts, placeInGuide, type GuidePart } from "./guide";
export { choicesText, optionNamed, readsTwice } from "./optionNamed";
export { likeBefore } from "./likeBefore";
export { prose, type ProseBlock, type ProsePart } from "./prose";
export { lengthText, readLength } from "./readLength";
export { emailKey } from "./emailKey";
export { outsideAccount } from "./outsideAccount";
export {
  accountOf,
  behind,
  colleagueOf,
  followerOf,
  hearerOf,
  isOutside,
  VISITOR,
  isAccount,
  isOwnRequest,
  NO_PARTY,
  partyForgotten,
  partyName,
  partyShown,
  partyValue,
  personParty,
  sameParty,
  type Party,
  type Someone,
} from "./party";
export * from "./registerShape";
export * from "./sheetCell";
export { REQUESTS } from "./requestLinks";
export { PEOPLE, PEOPLE_COLUMNS, PEOPLE_SORTED, peopleScope, type PeopleColumn } from "./people";
export { isAmong, type Audience, type Onlooker, type StartAudience } from "./audience";
export {
  closedRegister,
  EVERYBODY,
  factsSeen,
  hiddenOfRecords,
  readsHidden,
  readsHiddenFromAny,
  NOBODY,
  recordRights,
  mayBeOpened,
  registerOpened,
  registerSeen,
  type RecordRights,
  type RegisterRights,
} from "./registerRights";
export {
  factsFrom,
  holdersOf,
  personValue,
  fieldValue,
  type Facts,
  type FactsData,
  type FileFacts,
  type OfficeFacts,
  type PersonFacts,
} from "./facts";
export {
  columnScope,
  fieldType,
  formScope,
  rowType,
  recordScope,
  recordType,
  REQUEST_SCOPE,
  type FormSurrounding,
} from "./formScope";
export {
  pickedFrom,
  prepareForm,
  aroundRecords,
  type FieldFormulaProblem,
  type FieldPlace,
  mapFieldFormulas,
  type PreparedForm,
} from "./prepare";
export { compileForm, type FormProgram } from "./compileForm";
export type { Access, AccessOf } from "./access";
export { evaluateForm, type FormResult } from "./evaluate";
export { keptAs } from "./keptAs";
export { linksToOne, pointedAtBy, pointerTo } from "./pointers";
export { MOST_RECORDS, mostRecords } from "./mostRecords";
export { tooLarge } from "./tooLarge";
export { BETWEEN, byLine, joinedByLine } from "./byLine";
export { notOffered } from "./notOffered";
export { startingValues } from "./startingValues";
export { circles } from "./circles";
export { keptRows } from "./keptRows";
export { RowValue } from "./rowValue";
export { wellFormed, withoutUnfit } from "./wellFormed";
export type { FormProblem, ValueMistake } from "./formProblem";
export { readNumber, readsBothWays } from "./readNumber";
export { endingProblems } from "./endingProblems";
export { looksLike } from "./looks";
export { fileMistakes, megabytes, numberMistakes } from "./valueMistakes";
export { mergeEdits, withoutHidden } from "./merge";
export { formForReader, type ReaderForm } from "./forReader";
export { fieldsFromRows, tidyName, type PastedFields } from "./guess";
export {
  isPicked,
  mayOffer,
  registersOf,
  targetsOf,
  isSaidInALine,
  type FieldBehaviour,
  type FieldKinds,
  type FieldProperties,
  type RecordLinks,
  type RecordRef,
  type TypedField,
  type ValueFacts,
} from "./fieldBehaviour";
export { readerNames } from "./readerNames";
export { amongMistakes, columnAmong, isOneOfAmong, mayBeAmong } from "./among";
export { openAccess, type OpenTo } from "./openAccess";
export { saysItsPlace, type AfterSending } from "./afterSending";
export {
  fieldsToSign,
  fingerprint,
  type SignatureShown,
  type Signed,
  type SignedDocument,
  signaturesShown,
} from "./signing";
export { valueChanges, type ValueChange } from "./valueChanges";
export {
  checkOfPass,
  MAX_REASON,
  notPassed,
  passedBy,
  passedShown,
  type Passed,
  type PassedShown,
} from "./passing";
export { isKeptValue } from "./copies";
export { FORM_ENTRY, formAround, overRecordsScope, scopeOfRecords } from "./overRecords";
export type { FormAnswer, FormQuestion, Offered } from "./formQuestion";
export type { RecordsAnswer, RecordsAsked } from "./recordsAsked";
export { rebase, type Clash, type Rebased } from "./rebase";
export { fieldsRead, hiddenReads } from "./fieldsRead";
export { sampleMailFacts, sampleMailFiles, type SampleMail } from "./sampleMail";
