import { sha256 } from "@noble/hashes/sha2";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils";
import { emailKey } from "./emailKey";
import { VISITOR } from "./party";

/** Digits of what an account is made of; the longest id a person has is sixty characters. */
const DIGITS = 40;

/**
 * The account of somebody outside whom a request asks: the same for one address however often, and in whatever procedure
 * of it, they are asked, so that one person has one vote; and another in every other request, so that a link to one leads
 * to nothing of another.
 * @param number of the request
 */
export const outsideAccount = (number: string, email: string): string =>
  `${VISITOR}${bytesToHex(sha256(utf8ToBytes(`${number}\n${emailKey(email)}`))).slice(0, DIGITS)}`;
