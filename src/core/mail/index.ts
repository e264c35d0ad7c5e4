export { filledByMail, mailStartProgram, takesMail, type MailStartProgram } from "./mailStart";
export { readReply, type ReplyRead } from "./readReply";
export { wordsOf } from "./replyWords";
