import type { OutputInfo } from "sharp";

/** A picture of more is not drawn: a few kilobytes can say that they are a picture of a million by a million. */
const MOST_PIXELS = 100_000_000;

interface Shrinking {
  /** Its longer side at most, in pixels; a smaller one stays as it is. */
  side: number;
  /** As what it is kept: WebP, of a quality from 1 to 100, or PNG. */
  as: { webp: number } | "png";
  seconds: number;
}

/**
 * A picture made anew, turned as the camera was held and without what the camera wrote into it. "none": it is no picture, or
 * one that cannot be read, and will not come to be one. "not now": there was no time for it.
 * @param from formats that are read, as sharp names them; all it knows where none is said
 */
export async function shrunkPicture(
  bytes: Buffer,
  { side, as, seconds }: Shrinking,
  from?: ReadonlySet<string>,
): Promise<{ data: Buffer; info: OutputInfo } | "none" | "not now"> {
  // Loaded where somebody looks: the job process and most pages never do.
  const { default: sharp } = await import("sharp");
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: "error" });
    if (from && !from.has((await picture.metadata()).format ?? "")) return "none";
    const small = picture
      .rotate()
      .resize({ width: side, height: side, fit: "inside", withoutEnlargement: true })
      .timeout({ seconds });
    const made = as === "png" ? small.png() : small.webp({ quality: as.webp });
    return await made.toBuffer({ resolveWithObject: true });
  } catch (e) {
    return e instanceof Error && /^timeout/i.test(e.message) ? "not now" : "none";
  }
}
