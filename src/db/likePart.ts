/** A text as LIKE looks for it: its percent signs, underscores and backslashes stand for themselves. */
export const likeText = (text: string): string => text.replace(/[\\%_]/g, "\\$&");

/** The pattern that fits whatever holds this text. */
export const likePart = (text: string): string => `%${likeText(text)}%`;
