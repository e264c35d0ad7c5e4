export {
  postMessage,
  replaceMessage,
  tryChat,
  type ChatMessage,
  type ChatServer,
  type ChatTo,
  type Posted,
} from "./chatServer";
export { signatureMistake, type SignedCall } from "./signature";
