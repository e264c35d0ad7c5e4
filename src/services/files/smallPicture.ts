import { looksLike } from "@/core/form";

/** Its longer side, in pixels: twice what is shown, for screens with two to a point. */
const SIDE = 160;
/** A picture of more is not drawn: a few kilobytes can say that they are a picture of a million by a million. */
const MOST_PIXELS = 100_000_000;
const SECONDS = 5;

/**
 * A picture made small, as WebP, turned as the camera was held and without what the camera wrote into it; null for what
 * is no picture, or none that can be read.
 * @param type its media type, as its name says; what it holds is found out by reading it
 */
export async function smallPicture(type: string, bytes: () => Promise<Buffer>): Promise<Buffer | null> {
  if (looksLike(type) !== "picture") return null;
  // Loaded where somebody looks: the job process and most pages never do.
  const { default: sharp } = await import("sharp");
  try {
    return await sharp(await bytes(), { limitInputPixels: MOST_PIXELS, failOn: "error" })
      .rotate()
      .resize({ width: SIDE, height: SIDE, fit: "inside", withoutEnlargement: true })
      .timeout({ seconds: SECONDS })
      .webp({ quality: 70 })
      .toBuffer();
  } catch {
    return null;
  }
}
