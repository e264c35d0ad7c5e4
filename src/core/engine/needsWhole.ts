/** What was read of a large request is not enough to decide a command: it is to be decided again with all of it. */
export class NeedsWhole extends Error {}
