/**
 * Stands in the place of a register's key where requests are meant, by their numbers; no register can be called so. What
 * is known of them stands among records: process, status, result, and when they started and ended.
 */
export const REQUESTS = "@requests";
