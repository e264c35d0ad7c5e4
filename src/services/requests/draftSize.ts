import type { FormData } from "@/core/form";
import { Failed } from "../kernel/failure";

/** As much as a program may send at once. */
const MOST_CHARACTERS = 4_000_000;

/** @throws where a form holds more than is kept of one that is not sent yet */
export function mustBeKept(data: FormData): void {
  const size = JSON.stringify(data).length;
  if (size > MOST_CHARACTERS)
    throw new Failed({
      code: "invalid",
      data: {
        path: "",
        message: `This form holds ${Math.ceil(size / 1_000_000)} million characters; up to 4 million are kept before it is sent. Shorten its longest texts, or add them as files.`,
      },
    });
}
