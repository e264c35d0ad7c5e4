import type { SheetRow } from "@/core/sheets";

/** The rows of a file as they stand, by their line. */
export type Lines = { ok: true; lines: SheetRow[]; notes: string[] } | { ok: false; why: string };
