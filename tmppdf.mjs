// tests/browser/papers.ts
import sharp from "sharp";
var picture = (width, height, background) => sharp({ create: { width, height, channels: 3, background } }).jpeg().toBuffer();
function pdf(pages) {
  const kids = pages.map((_, i) => `${4 + 2 * i} 0 R`).join(" ");
  const objects = [
    "<< /Type /Catalog /Pages 2 0 R >>",
    `<< /Type /Pages /Kids [${kids}] /Count ${pages.length} >>`,
    "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
    ...pages.flatMap((text, i) => {
      const drawn = `0.1 0.1 0.1 rg 100 500 300 200 re f BT /F1 24 Tf 100 400 Td (${text}) Tj ET`;
      return [
        `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Resources << /Font << /F1 3 0 R >> >> /Contents ${5 + 2 * i} 0 R >>`,
        `<< /Length ${drawn.length} >>
stream
${drawn}
endstream`
      ];
    })
  ];
  let out = "%PDF-1.4\n";
  const at = objects.map((o, i) => {
    const here = out.length;
    out += `${i + 1} 0 obj
${o}
endobj
`;
    return here;
  });
  const table = at.map((x) => `${String(x).padStart(10, "0")} 00000 n 
`).join("");
  out += `xref
0 ${objects.length + 1}
0000000000 65535 f 
${table}`;
  out += `trailer << /Size ${objects.length + 1} /Root 1 0 R >>
startxref
${out.indexOf("xref\n0")}
%%EOF
`;
  return Buffer.from(out, "latin1");
}
export {
  pdf,
  picture
};
