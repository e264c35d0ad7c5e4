import type { PictureOfText } from "@/core/form";

/** A picture of a text, at half its pixels: for screens with two to a point it is as sharp as the words. */
export const TextPicture = ({ picture }: { picture: PictureOfText }) => (
  <img
    src={`/api/pictures/${picture.hash}`}
    alt={picture.says}
    width={Math.ceil(picture.width / 2)}
    height={Math.ceil(picture.height / 2)}
    loading="lazy"
    className="mt-2 mb-4 h-auto max-w-full rounded-sm"
  />
);
