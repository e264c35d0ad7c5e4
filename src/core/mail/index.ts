export { readReply, type ReplyRead } from "./readReply";
export { wordsOf } from "./replyWords";
