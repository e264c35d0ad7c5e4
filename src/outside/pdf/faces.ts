import { join } from "node:path";
import { openSync } from "fontkit";

/** A cut of a typeface that has some of the letters, as its package parts them. */
export interface Face {
  /** By which the printer knows it. */
  name: string;
  files: { normal: string; bold: string; italics: string; bolditalics: string };
  has(codePoint: number): boolean;
}

/** @param cuts the parts of the family, the plain letters first: what several have is theirs */
function facesOf(family: string, cuts: readonly string[], normal: number, bold: number): Face[] {
  const file = (cut: string, weight: number, style: string) =>
    join(
      process.cwd(),
      "node_modules/@fontsource",
      family,
      "files",
      `${family}-${cut}-${weight}-${style}.woff`,
    );
  return cuts.map((cut) => {
    const files = {
      normal: file(cut, normal, "normal"),
      bold: file(cut, bold, "normal"),
      italics: file(cut, normal, "italic"),
      bolditalics: file(cut, bold, "italic"),
    };
    // The ranges its package names are wider than the letters that are drawn.
    const font = openSync(files.normal);
    return {
      name: `${family} ${cut}`,
      files,
      has: (c) => "hasGlyphForCodePoint" in font && font.hasGlyphForCodePoint(c),
    };
  });
}

let made: { headings: Face[]; work: Face[] } | null = null;

/** The faces of the application: one for headings, one for work; what one has no letters for is set in the other. */
export function faces(): { headings: Face[]; work: Face[] } {
  if (made) return made;
  const serif = facesOf("alegreya", ["latin", "latin-ext", "greek", "cyrillic"], 500, 700);
  const sans = facesOf("atkinson-hyperlegible-next", ["latin", "latin-ext"], 400, 700);
  return (made = { headings: [...serif, ...sans], work: [...sans, ...serif] });
}
