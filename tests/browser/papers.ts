import sharp from "sharp";

/** A picture of one colour. */
export const picture = (width: number, height: number, background: string): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background } })
    .jpeg()
    .toBuffer();

/** A PDF of pages with one line of text each, and a dark square above it. */
export function pdf(pages: readonly string[]): Buffer {
  const kids = pages.map((_, i) => `${4 + 2 * i} 0 R`).join(" ");
  const objects = [
    "<< /Type /Catalog /Pages 2 0 R >>",
    `<< /Type /Pages /Kids [${kids}] /Count ${pages.length} >>`,
    "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
    ...pages.flatMap((text, i) => {
      const drawn = `0.1 0.1 0.1 rg 100 500 300 200 re f BT /F1 24 Tf 100 400 Td (${text}) Tj ET`;
      return [
        `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Resources << /Font << /F1 3 0 R >> >> /Contents ${5 + 2 * i} 0 R >>`,
        `<< /Length ${drawn.length} >>\nstream\n${drawn}\nendstream`,
      ];
    }),
  ];
  let out = "%PDF-1.4\n";
  const at = objects.map((o, i) => {
    const here = out.length;
    out += `${i + 1} 0 obj\n${o}\nendobj\n`;
    return here;
  });
  const table = at.map((x) => `${String(x).padStart(10, "0")} 00000 n \n`).join("");
  out += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}`;
  out += `trailer << /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${out.indexOf("xref\n0")}\n%%EOF\n`;
  return Buffer.from(out, "latin1");
}
