import { getPool, setSheetWidths, sheetWidths } from "@/db";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";

const own = (c: Call) =>
  c.must({ action: "use own", person: c.actor.id }, { code: "not-allowed", data: { action: "do this" } });

/** Columns a sheet has at most; what is kept of one that has them no more does no harm. */
const MOST_COLUMNS = 20;
/** Pixels: no column of any screen is wider. */
const WIDEST = 10_000;

/** How wide whoever asks drew the columns of the form sheet, by column as they were kept; the sheet knows its columns. */
export const ownSheetWidths = defineUseCase(["use own"], async (c): Promise<Record<string, unknown>> => {
  own(c);
  return sheetWidths(getPool(), c.actor.id);
});

/** Keeps that, wherever they sign in next. @param widths in pixels by column; none takes all back */
export const keepSheetWidths = defineUseCase(
  ["use own"],
  async (c, widths: Readonly<Record<string, number>>): Promise<null> => {
    own(c);
    const all = Object.values(widths);
    if (all.length > MOST_COLUMNS || all.some((px) => !Number.isInteger(px) || px < 0 || px > WIDEST))
      throw new Failed({
        code: "invalid",
        data: { path: "Widths", message: `A width is a whole number of pixels, at most ${WIDEST}.` },
      });
    await setSheetWidths(getPool(), c.actor.id, widths);
    return null;
  },
);
