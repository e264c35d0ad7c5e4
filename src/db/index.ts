export {
  at,
  closePool,
  getPool,
  holding,
  inTransaction,
  openHolder,
  type Holder,
  type Client,
  type Db,
} from "./pool";
export { callerNow, forCaller, type Caller } from "./caller";
export { searching } from "./search";
export { listen, type Listening } from "./listen";
export { whyUnavailable, type Unavailable } from "./unavailable";
export { bumpDuties, directoryVersion, ROLE_HOLDERS } from "./directoryVersion";
export { migrate, pendingMigrations } from "./migrate";
export { grantToApp } from "./grantToApp";
export * as people from "./people";
export * as officeEdits from "./officeEdits";
export * as sessions from "./sessions";
export * as apiKeys from "./apiKeys";
export * as signInPace from "./signInPace";
export * as passwords from "./passwords";
export * as identities from "./identities";
export * as officeLog from "./officeLog";
export { setSheetWidths, sheetWidths } from "./sheetWidths";
export * as settings from "./settings";
export * as registers from "./registers";
export { recordsLinked } from "./recordsLinked";
export * as processes from "./processes";
export * as owners from "./owners";
export * as requests from "./requests";
export * as recordStarts from "./recordStarts";
export * as sheetImports from "./sheetImports";
export * as requestChildren from "./requestChildren";
export * as erasure from "./erasure";
export * as jobs from "./jobs";
export * as deadJobs from "./deadJobs";
export * as notices from "./notices";
export * as answerLinks from "./answerLinks";
export * as outside from "./outside";
export { findInLetters } from "./findInLetters";
export { keptLadders, keptLetters, type KeptThings } from "./keptThings";
export * as keptTemplates from "./keptTemplates";
export * as outlets from "./outlets";
export * as templates from "./templates";
export * as turns from "./turns";
export * as documentSources from "./documentSources";
export type { DocumentSource, SignedBy } from "./documentSources";
export * as chat from "./chat";
export * as mailboxes from "./mailboxes";
export * as messages from "./messages";
export * as recordNotes from "./recordNotes";
export * as formDrafts from "./formDrafts";
export * as files from "./files";
export * as contents from "./contents";
export type { ContentPlace, ContentRow } from "./contents";
export { databaseSize, fileSizes, otherSizes, type FileSizesRow } from "./fileSizes";
export * as pictures from "./pictures";
export type { PersonRow } from "./people";
export type { RecordPlace, RecordSearch, RecordRow, HistoryRow } from "./registers";
export type { RecordNoteRow } from "./recordNotes";
export type { DraftRow, ProcessListRow, ReleaseInUse, ReleaseRow } from "./processes";
export type { RequestFilter, RequestListRow, RequestRow, TaskListRow } from "./requests";
export type { ChatRoomRow } from "./chat";
export type { MailboxRow, MailSecurity } from "./mailboxes";
export type { LetterRow, MessageRow, MessageState, Missed } from "./messages";
export type { Job } from "./jobs";
export type { FileRow } from "./files";
export type { ApiKeyRow } from "./apiKeys";
export type { LogRow } from "./officeLog";
export { MOST_COUNTED, MOST_FOUND, mostCounted } from "./cappedCount";
