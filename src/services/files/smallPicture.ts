import { looksLike } from "@/core/form";
import { shrunkPicture } from "./shrunkPicture";

/** Bytes of a picture that is made small: all of it is read into memory for that. */
const MOST_BYTES = 40_000_000;
/** Its longer side, in pixels: twice what is shown, for screens with two to a point. */
const SIDE = 160;

/**
 * A picture made small, as `shrunkPicture` makes it.
 * @param type its media type, as its name says; what it holds is found out by reading it
 * @param size how many bytes it has
 * @param bytes a rejection says nothing of what it holds, and is passed on
 */
export async function smallPicture(
  type: string,
  size: number,
  bytes: () => Promise<Buffer>,
): Promise<Buffer | "none" | "not now"> {
  if (looksLike(type) !== "picture" || size > MOST_BYTES) return "none";
  const made = await shrunkPicture(await bytes(), { side: SIDE, as: { webp: 70 }, seconds: 5 });
  return typeof made === "string" ? made : made.data;
}
