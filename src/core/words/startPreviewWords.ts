import { DAYS_AHEAD, type StartPreview } from "../records";

type Told = Extract<StartPreview, { ok: true }>;

/** How many of today's records a start of a draft would take, as a sentence. */
export function startPreviewWords({ says, count, more, register, firstLook }: Told): string {
  const all = `${more ? "more than " : ""}${count.toLocaleString("en")}`;
  switch (says) {
    case "holds":
      return count === 0
        ? `It holds for none of ${register} today.`
        : `It holds for ${all} of ${register} today; a change by which it newly holds starts one.`;
    case "offered":
      return count === 0
        ? `It is offered on none of ${register} today.`
        : `It is offered on ${all} of ${register} today.`;
    case "each":
      return count === 0
        ? `On each of its days it takes none of ${register}, as they are today.`
        : `On each of its days it takes ${all} of ${register}, as they are today.`;
    case "near":
      if (count === 0) return `No date of ${register} comes near within ${DAYS_AHEAD} days.`;
      return `The first look takes ${firstLook === 0 ? "none" : firstLook.toLocaleString("en")} of ${register}; ${more ? "more than " : ""}${(count - firstLook).toLocaleString("en")} come near within the ${DAYS_AHEAD} days after.`;
  }
}
