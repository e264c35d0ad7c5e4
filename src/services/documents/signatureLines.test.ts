import { signatureLines } from "./signatureLines";

const AT = Date.UTC(2026, 6, 3, 13, 4, 5);
const said = (more: Partial<Parameters<typeof signatureLines>[0]> = {}) =>
  signatureLines({
    by: { name: "Orla Fennimore", email: "orla@quillhaven.example" },
    at: AT,
    zone: "Europe/Dublin",
    picture: "Signature.png",
    shown: { name: "Agreement.pdf", pages: 3, sha256: "ab".repeat(32) },
    ...more,
  });

it("says who signed, when where the process is at home, how, and the fingerprint of the pages they saw", () => {
  expect(said()).toEqual([
    "Orla Fennimore, orla@quillhaven.example",
    "Fri 3 Jul 2026, 14:04:05 GMT+01:00 (Europe/Dublin)",
    "Drawn on the screen, signed in under this name",
    "Shown to be signed: Agreement.pdf, 3 pages",
    `Fingerprint of those pages (SHA-256): ${"ab".repeat(32)}`,
  ]);
});
it("says whom they stood in for", () => {
  expect(said({ standsFor: "Maeve Dunlea" }).slice(0, 2)).toEqual([
    "Orla Fennimore, orla@quillhaven.example",
    "Standing in for Maeve Dunlea",
  ]);
});
it("says a typed name, one page, and somebody who left", () => {
  const [who, , how, shown] = said({
    by: undefined,
    picture: "O. Fennimore.png",
    shown: { name: "A.pdf", pages: 1, sha256: "" },
  });
  expect([who, how, shown]).toEqual([
    "Somebody who is not known any more",
    "Typed as “O. Fennimore”, signed in under this name",
    "Shown to be signed: A.pdf, 1 page",
  ]);
});
