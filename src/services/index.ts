export { actorOf, SYSTEM, type Actor } from "./kernel/actor";
export { fail, failureOf, ok, PROVIDER_WHYS, type Failure, type Outcome } from "./kernel/failure";
export { failureStatus, sentenceOf } from "./kernel/sentence";
export { EFFECT_PAYLOAD } from "./requests/effectPayload";
export {
  act,
  fireTimers,
  goOn,
  lookAt,
  lookEverywhere,
  queueDueTimers,
  startRequest,
} from "./requests/requests";
export { deliver } from "./requests/deliver";
export {
  bringTemplate,
  keepTemplate,
  keptTemplateList,
  makeFirstTemplate,
  previewDocument,
  removeKeptTemplate,
  takeTemplate,
  templateAsNow,
  templateVersions,
  type BroughtTemplate,
  type TemplateVersion,
} from "./documents";
export { mailNotOut, settleMail, type MailShown, type MailNotOut } from "./mail/conversation";
export {
  mailboxList,
  putMailbox,
  removeMailbox,
  tryMailbox,
  type MailboxInput,
  type MailboxShown,
} from "./mail/mailboxes";
export {
  chatRoomShown,
  putChatRoom,
  removeChatRoom,
  tryChatRoom,
  type ChatRoomInput,
  type ChatRoomShown,
} from "./chat/chatRoom";
export {
  askChatCode,
  chatAccount,
  tieChatAccount,
  untieChatAccount,
  type ChatAccountShown,
} from "./chat/chatAccount";
export { sealChatToken, sealSigningKey } from "./chat/chatServer";
export { forgetInChat, showInChat } from "./chat/postChat";
export { pressedInChat, type PressAnswer } from "./chat/pressedInChat";
export { answerByLink, answerLink, type AnswerLink } from "./mail/answerLink";
export { mailOfNone, settleMailOfNone, startByMail, type MailOfNone } from "./mail/startByMail";
export { mailsToTry, sampleOfMail, sampleOfMailFile, type MailToTry } from "./workshop/sampleMail";
export type { KeptForAll } from "./workshop/keptForAll";
export {
  keepLadder,
  keepLetter,
  keptLadderList,
  keptLetterList,
  removeKeptLadder,
  removeKeptLetter,
} from "./workshop/keptThings";
export { answerOnPage } from "./mail/answerOnPage";
export { letterByHand, sendByHand, type LetterByHand, type LetterDraft } from "./mail/writeByHand";
export type { MayWrite } from "./mail/mayWrite";
export { sealMailPassword } from "./mail/mailbox";
export { sendMails, sendMessage } from "./mail/sendMessage";
export { watchMailboxes } from "./mail/watchMailboxes";
export type { RecordRow } from "@/db";
export type { Consequences, Occasion } from "./requests/keep";
export { callOff, requestEnded } from "./requests/otherRequests";
export { startByTimetable } from "./requests/startByTimetable";
export { startFromRecords } from "./requests/startFromRecords";
export { leaveNote, removeNote, type NoteLeft, type RecordNote } from "./registers/recordNotes";
export { agreeReshape, reshapeOf, stopReshape, type Reshape } from "./registers/reshape";
export { sweepColumns } from "./registers/leaving";
export { workReshape } from "./registers/workReshape";
export { removedRecords, type RemovedRecord } from "./registers/removedRecords";
export type { OfferedPress } from "./requests/pressed";
export { askOthers } from "./requests/askOthers";
export { requestView, timeIn, type RequestView, type WaitingFor, type Way } from "./requests/requestView";
export { printedProcess } from "./printing/printedProcess";
export { printedRequest } from "./printing/printedRequest";
export {
  lateTask,
  saveTaskDraft,
  taskView,
  type AskedBeside,
  type LateTask,
  type TaskView,
} from "./requests/taskView";
export type { FormPage } from "./requests/formPage";
export { askAtStart } from "./ask/askAtStart";
export { askAtTask } from "./requests/askAtTask";
export { keepSheetWidths, ownSheetWidths } from "./workshop/sheetWidths";
export { askAtSample } from "./workshop/askAtSample";
export { sentPage, type SentPage } from "./ask/sentPage";
export { askPage, catalogue, dropAskDraft, saveAskDraft, type AskPage, type CatalogueEntry } from "./ask/ask";
export {
  desk,
  covered,
  leftText,
  myRequests,
  MOST_IN_VIEW,
  ownedProcesses,
  progress,
  progressCounts,
  type CoveredTask,
  type DeskRow,
  type ProgressRow,
} from "./desk/desk";
export { managers, type Managers } from "./office/managers";
export type { TreeNode } from "./office/managerTree";
export { answerSeveral, type AnsweredSeveral, type AnsweredTogether } from "./desk/answerSeveral";
export { badges, noticesOf, readNotices, type Badges, type Notice } from "./desk/notices";
export { chooseNews, chooseQuietHours, newsChosen, type NewsChosen } from "./desk/newsChosen";
export { sendNews } from "./desk/sendNews";
export { MOST_COUNTED, MOST_FOUND, mostCounted } from "@/db";
export { removeDueFiles } from "./files/removeDue";
export { keptFiles, type KeptFiles } from "./files/keptFiles";
export { requestFiles, type PackedFile } from "./files/requestFiles";
export { addFile, MAX_FILE_BYTES, openFile, readSmall, sweepFiles, type OpenedFile } from "./files/files";
export { checkContents } from "./files/contents/checkContents";
export { clearFolder } from "./files/contents/clearFolder";
export { filesTrouble } from "./files/contents/filesTrouble";
export { moveContents } from "./files/contents/moveContents";
export { Spool, spooled, type Spooled } from "./files/contents/spool";
export { sweepContents } from "./files/contents/sweepContents";
export { addPicture, pictureOfText, type AddedPicture } from "./workshop/pictures";
export { findPeople, type FoundPerson } from "./find/findPeople";
export { find, type Found } from "./find/find";
export {
  indexRegisters,
  lookUp,
  recordPage,
  registerGroups,
  registerList,
  registerNames,
  registerPage,
  type RecordPage,
  type RegisterGroups,
  type ListSearch,
  type RegisterPage,
} from "./registers/registers";
export {
  bringSheet,
  planSheet,
  refusedRows,
  sheetFar,
  sheetPage,
  sheetsOf,
  stopSheet,
  writeSheet,
  type SheetPage,
} from "./sheets/bringSheet";
export { exportRecords, type ExportAs } from "./sheets/exportRecords";
export { makeOfSheet, newSheetPage, type NewSheetPage } from "./sheets/makeOfSheet";
export { workSheet } from "./sheets/workSheet";
export { keepView, keptViews, removeView, type KeptView } from "./registers/keptViews";
export { lookDates } from "./registers/lookDates";
export { dropRecordDraft, recordForm, saveRecordDraft, type RecordForm } from "./registers/recordForm";
export {
  changeRecords,
  putBack,
  removeRecord,
  removeRecords,
  saveRecord,
  type ManyChanged,
} from "./registers/editRecords";
export {
  changeRegister,
  columnSheet,
  makeRegister,
  shapeHits,
  type RegisterChanged,
} from "./registers/changeRegister";
export type { LostValues, ShapeHits } from "./registers/shapeHits";
export { maySayRights, rightsPage, setRegisterRights, type RightsPage } from "./registers/rights";
export { closeProcess, deleteProcess, openProcess, releasedDefinition } from "./workshop/processLife";
export { pauseStart, startsFaring, type StartFares } from "./workshop/recordStarts";
export { usesOf } from "./workshop/usesOf";
export { whereUsed, type Broken, type UsedBy } from "./workshop/whereUsed";
export { beginProcedure, beginProcess, copyProcess, createProcess } from "./workshop/createProcess";
export { draftSince, editDraft, type DraftEdit, type EditedDraft } from "./workshop/editDraft";
export {
  draftProblems,
  draftView,
  releaseDraft,
  releasePage,
  workshopList,
  type WorkshopRow,
  type DraftView,
  type ReleasePage,
  type WorkshopOffice,
} from "./workshop/workshop";
export { startPreview } from "./workshop/startPreview";
export { stepPreview } from "./workshop/stepPreview";
export { sampleValues, type SampleValues } from "./workshop/sampleValues";
export type { Preview } from "@/steps/executor";
export {
  actorOfSession,
  becomePerson,
  hashPassword,
  proveAnew,
  signIn,
  signOut,
  type SignedIn,
  type SigningIn,
} from "./office/signIn";
export { changePassword, linkPerson, makePasswordLink, setPasswordByLink } from "./office/passwords";
export { endOwnSession, ownSessions, type OwnSession } from "./office/ownSessions";
export { readSettings, settingsNow, type Settings } from "./kernel/settings";
export {
  answerProposal,
  nameOwner,
  ownersView,
  proposalsForMe,
  proposeOwners,
  type OwnersView,
  type ProposalForMe,
} from "./workshop/owners";
export { exportLog, logPage, type LogPage } from "./log/logPage";
export {
  actorOfKey,
  addService,
  listKeys,
  listServices,
  makeKey,
  moveClock,
  officePage,
  PEOPLE_PAGE,
  revokeKey,
  setService,
  type KeyRow,
  type OfficePage,
} from "./office/office";
export { nowFor, peopleOfDemo } from "./office/demoPeople";
export { onChanges } from "./live/changes";
export { showsOf } from "./live/showsOf";
export { healthOf, type Health } from "./live/health";
import { callerNow } from "@/db";
export { forCaller } from "@/db";
/** The address of whoever this runs for. */
export const callerAddress = (): string | undefined => callerNow()?.address;
export { sweepEnded } from "./office/sweepEnded";
export { addPerson, changePerson, openPerson, setRights } from "./office/keepPeople";
export { closePerson } from "./office/closePerson";
export { holidayPlaces, type PlacesOfHolidays } from "./office/holidayPlaces";
export { addAway, awayTimes, removeAway, type Away } from "./office/absences";
export { placesPage, renamePlace, type Place, type PlaceKind } from "./office/places";
export { addDuty, removeDuty } from "./office/duties";
export { putGroup, removeGroup } from "./office/groups";
export { putCalendar, removeCalendar } from "./office/calendars";
export { bringPeople, previewPeople, type ImportPreview } from "./office/bringPeople";
export { newPerson, personPage, type PersonPage } from "./office/personPage";
export { blankDue, erasePerson, type Erased } from "./requests/erase";
export {
  outletsShown,
  putOutlet,
  removeOutlet,
  tryOutlet,
  type OutletInput,
  type OutletShown,
} from "./outlets/keepOutlets";
export { sealOutletSecret } from "./outlets/outletServer";
export { deadJobs, settleJob } from "./office/deadJobs";
export { beginOffice, isDemoDatabase, markDemo } from "./office/beginOffice";
export { replayRequests, type Replayed } from "./requests/replay";
export { comeBack, goToProvider, providerName } from "./office/providerSignIn";
export { sendAddressCode } from "./outside/addressCode";
export {
  addFollowedFile,
  askFollowed,
  followed,
  followedFile,
  followedSmall,
  followedView,
  keepChanged,
  sayFollowed,
  sendChanged,
  withdrawFollowed,
  writeFollowed,
  type Followed,
} from "./outside/followed";
export { askedOutside, answerOutside, type AnswerOutside, type AskedOutside } from "./outside/askedOutside";
export { linkedBy } from "./outside/linkedBy";
export { openCatalogue, type OpenEntry } from "./outside/openCatalogue";
export { addOpenFile } from "./outside/openFile";
export { askAtOpen, openForm, type OpenPage } from "./outside/openForm";
export { sendOpenForm, type OpenSending } from "./outside/sendOpenForm";
export { sweepVisitors } from "./outside/sweepVisitors";
export { callBackLinks, followerBy } from "./outside/trackingLink";
export { passerBy, visitorBy } from "./outside/visitor";
