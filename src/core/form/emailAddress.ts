/** Longest address that mail servers take (RFC 5321 §4.5.3.1.3, without its angle brackets). */
const LONGEST = 254;
const PARTS =
  /^[^\s@<>(),;:"\\[\]\p{Cc}]{1,64}@[^\s@<>(),;:"\\[\].\p{Cc}]+(\.[^\s@<>(),;:"\\[\].\p{Cc}]+)+$/u;

/**
 * Whether a text is one address and nothing else: no list, no name beside it, no line break that would become a header
 * or another receiver.
 */
export const isEmailAddress = (text: string): boolean => text.length <= LONGEST && PARTS.test(text);
