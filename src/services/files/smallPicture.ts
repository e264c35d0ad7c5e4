import { looksLike } from "@/core/form";

/** Its longer side, in pixels: twice what is shown, for screens with two to a point. */
const SIDE = 160;
/** A picture of more is not drawn: a few kilobytes can say that they are a picture of a million by a million. */
const MOST_PIXELS = 100_000_000;
const SECONDS = 5;

/**
 * A picture made small, as WebP, turned as the camera was held and without what the camera wrote into it. "none": it is no
 * picture, or one that cannot be read, and will not come to be one. "not now": there was no time for it.
 * @param type its media type, as its name says; what it holds is found out by reading it
 */
export async function smallPicture(
  type: string,
  bytes: () => Promise<Buffer>,
): Promise<Buffer | "none" | "not now"> {
  if (looksLike(type) !== "picture") return "none";
  // Loaded where somebody looks: the job process and most pages never do.
  const { default: sharp } = await import("sharp");
  // What cannot be fetched says nothing of what it holds.
  const all = await bytes();
  try {
    return await sharp(all, { limitInputPixels: MOST_PIXELS, failOn: "error" })
      .rotate()
      .resize({ width: SIDE, height: SIDE, fit: "inside", withoutEnlargement: true })
      .timeout({ seconds: SECONDS })
      .webp({ quality: 70 })
      .toBuffer();
  } catch (e) {
    return e instanceof Error && /^timeout/i.test(e.message) ? "not now" : "none";
  }
}
