import { createHash } from "node:crypto";
import { getPool, pictures } from "@/db";
import { shrunkPicture } from "../files/shrunkPicture";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { mustDesign } from "./mustDesign";

/** Its longer side, in pixels: twice what a form gives it room for. */
const SIDE = 1600;
/** Drawings that are programs (SVG) and papers (PDF) are read by others than what reads pictures. */
const READ: ReadonlySet<string> = new Set(["jpeg", "png", "webp", "gif"]);

const REFUSED = {
  none: "That is no picture, or one that cannot be read. JPEG, PNG, WebP and GIF are, up to 100 million pixels.",
  "not now":
    "There was no time to make this picture smaller. Try again in a moment, or choose a smaller one.",
};

/** A picture as a text names it. */
export interface AddedPicture {
  hash: string;
  width: number;
  height: number;
}

/**
 * Takes a picture in that is to stand in a text of a process's form: made no larger than it is shown, as WebP, and without
 * what the camera wrote into it.
 * @param process key of the process whose form it is for; who designs that may add one
 */
export const addPicture = defineUseCase(
  ["design"],
  async (c, process: string, bytes: Buffer): Promise<AddedPicture> => {
    await mustDesign(c, getPool(), process);
    const made = await shrunkPicture(bytes, { side: SIDE, as: { webp: 80 }, seconds: 10 }, READ);
    if (typeof made === "string")
      throw new Failed({ code: "invalid", data: { path: "", message: REFUSED[made] } });
    const hash = createHash("sha256").update(made.data).digest("hex");
    await pictures.keepPicture(getPool(), hash, made.data);
    return { hash, width: made.info.width, height: made.info.height };
  },
);

/** A picture of a text, for whoever was given the text and so knows its hash; null where there is none. */
export async function pictureOfText(hash: string): Promise<Buffer | null> {
  return /^[0-9a-f]{64}$/.test(hash) ? pictures.pictureBytes(getPool(), hash) : null;
}
