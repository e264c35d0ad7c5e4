import { ANY, context, listOf, type Type } from "../expression";
import { fieldType, type FormSurrounding } from "../form";
import type { Port } from "../kinds";

/** What a formula must come to that is handed over: of line items any list, whose things give the rows. */
export const takenType = (p: Port, around: FormSurrounding): Type =>
  p.kind === "lines" ? listOf(ANY) : fieldType(p, around);

/** What is handed back, as formulas read it. */
export const givenType = (p: Port, around: FormSurrounding): Type =>
  p.kind === "lines"
    ? listOf(context(Object.fromEntries((p.columns ?? []).map((c) => [c.name, fieldType(c, around)]))))
    : fieldType(p, around);
