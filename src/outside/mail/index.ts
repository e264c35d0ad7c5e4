export { readMail, type Bounce, type InMail, type MailAddress } from "./readMail";
export { sendMail, tryServer, type CameOfSending, type NotReached, type OutMail } from "./sendMail";
export type { MailServer } from "./server";
export { watchMailbox, type Fetched } from "./watchMailbox";
