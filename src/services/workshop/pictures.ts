import { createHash } from "node:crypto";
import { inTransaction, getPool, pictures } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { mustDesign } from "./mustDesign";

/** Its longer side, in pixels: twice what a form gives it room for. */
const SIDE = 1600;
/** A picture of more is not read: a few kilobytes can say that they are a picture of a million by a million. */
const MOST_PIXELS = 100_000_000;
const SECONDS = 10;
const READ: ReadonlySet<string> = new Set(["jpeg", "png", "webp", "gif"]);

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
    const made = await readPicture(bytes).catch(() => null);
    if (!made)
      throw new Failed({
        code: "invalid",
        data: {
          path: "",
          message:
            "That is no picture, or one that cannot be read. JPEG, PNG, WebP and GIF are, up to 100 million pixels.",
        },
      });
    const hash = createHash("sha256").update(made.data).digest("hex");
    await inTransaction((db) => pictures.keepPicture(db, hash, made.data));
    return { hash, width: made.info.width, height: made.info.height };
  },
);

async function readPicture(bytes: Buffer) {
  const { default: sharp } = await import("sharp");
  const from = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: "error" });
  // Drawings that are programs (SVG) and papers (PDF) are read by others than what reads pictures.
  if (!READ.has((await from.metadata()).format ?? "")) return null;
  return from
    .rotate()
    .resize({ width: SIDE, height: SIDE, fit: "inside", withoutEnlargement: true })
    .timeout({ seconds: SECONDS })
    .webp({ quality: 80 })
    .toBuffer({ resolveWithObject: true });
}

/** A picture of a text, for whoever was given the text and so knows its hash; null where there is none. */
export async function pictureOfText(hash: string): Promise<Buffer | null> {
  return /^[0-9a-f]{64}$/.test(hash) ? pictures.pictureBytes(getPool(), hash) : null;
}
