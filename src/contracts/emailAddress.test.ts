import fc from "fast-check";
import { emailAddress, emailKey } from "./emailAddress";

it.each([
  ["Una.Quirke@Quillhaven.Example", "una.quirke@quillhaven.example"],
  ["  una@quillhaven.example ", "una@quillhaven.example"],
  ["İnci@quillhaven.example", "i̇nci@quillhaven.example"],
  ["ＵＮＡ@quillhaven.example", "una@quillhaven.example"],
])("%s is kept as %s", (said, kept) => expect(emailAddress.parse(said)).toBe(kept));

it.each([
  "una",
  "una@",
  "@quillhaven.example",
  "a b@c.example",
  "una@quillhaven",
  "una@x.example, b@x.example",
  "<una@x.example>",
])("%s is no address", (said) => expect(emailAddress.safeParse(said).success).toBe(false));

it("there is one rule: a key is its own key, whatever was typed", () => {
  fc.assert(
    fc.property(fc.string({ unit: "binary", maxLength: 20 }), (s) => {
      expect(emailKey(emailKey(s))).toBe(emailKey(s));
      expect(emailKey(s.toUpperCase()) === emailKey(s) || /[^\u0000-\u007f]/.test(s)).toBe(true);
    }),
    { numRuns: 2000 },
  );
});
