/** The cookie of whoever is signed in. */
export const SESSION_COOKIE = "cobble_session";
/** By it a browser shows that people have signed in with it before; it outlasts sessions. */
export const KNOWN_COOKIE = "cobble_known";
/** What a browser carries to the provider of sign-ins and back. */
export const GOING_COOKIE = "cobble_going";
