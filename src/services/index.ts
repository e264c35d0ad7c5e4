export { actorOf, type Actor } from "./actor";
export { nowMs } from "./clock";
export { loadDirectory, personName, bumpDirectory, type Directory } from "./directory";
export { fail, Failed, ok, outcome, type Failure, type Outcome } from "./failure";
export { failureStatus, sentenceOf } from "./sentence";
export { can } from "./policy";
export { act, deliverNotice, fireTimers, startRequest, type Occasion } from "./requests";
export {
  askPage,
  catalogue,
  dropAskDraft,
  myRequests,
  saveAskDraft,
  type AskPage,
  type CatalogueEntry,
} from "./ask";
export {
  requestView,
  saveTaskDraft,
  taskView,
  timeIn,
  type RequestView,
  type TaskView,
  type WaitingFor,
} from "./requestView";
export {
  badges,
  desk,
  leftText,
  named,
  noticesOf,
  progress,
  readNotices,
  type Badges,
  type DeskRow,
  type ProgressRow,
} from "./desk";
export { addFile, MAX_FILE_BYTES, readFile, sweepFiles } from "./files";
export { find, type Found } from "./find";
export {
  lookUp,
  recordPage,
  registerList,
  registerPage,
  type RecordPage,
  type RegisterPage,
} from "./registers";
export {
  createProcess,
  draftProblems,
  draftView,
  editDraft,
  putDraft,
  releaseDraft,
  releasePage,
  workshopList,
  type DraftView,
  type ReleasePage,
  type WorkshopOffice,
} from "./workshop";
export { actorOfSession, becomePerson, hashPassword, signIn, signOut } from "./signIn";
export {
  actorOfKey,
  addService,
  listKeys,
  listServices,
  makeKey,
  moveClock,
  officePage,
  revokeKey,
  setService,
  type KeyRow,
  type OfficePage,
} from "./office";
export type { FormPage } from "./formPage";
export { onChanges } from "./changes";
export { healthy } from "./health";
export { nowFor, peopleOfDemo } from "./demoPeople";
