import fc from "fast-check";
import { fileHeaders } from "./fileAnswers";
import { fromOurPage } from "./origin";

describe("the headers of a file", () => {
  const of = (name: string) => fileHeaders({ name, type: "text/html", size: 5 });
  it.each([
    ["Offer.pdf", `attachment; filename="Offer.pdf"; filename*=UTF-8''Offer.pdf`],
    [
      'a "b" \\ 100%.pdf',
      `attachment; filename="a _b_ _ 100_.pdf"; filename*=UTF-8''a%20%22b%22%20%5C%20100%25.pdf`,
    ],
    [
      "Gemälde (2) d'été*.png",
      `attachment; filename="Gem_lde (2) d'_t_*.png"; filename*=UTF-8''Gem%C3%A4lde%20%282%29%20d%27%C3%A9t%C3%A9%2A.png`,
    ],
  ])("say %s for saving", (name, want) => expect(of(name)["content-disposition"]).toBe(want));

  it("never let a file run under our address, whatever it is called", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 40 }), (name) => {
        const h = of(name);
        expect(h).toMatchObject({
          "x-content-type-options": "nosniff",
          "content-security-policy": "default-src 'none'; sandbox",
        });
        // One line, printable ASCII, two quotes: nothing of the name can end the value or start another header.
        expect(h["content-disposition"]).toMatch(
          /^attachment; filename="[^"\\%]*"; filename\*=UTF-8''[A-Za-z0-9\-._~!%]*$/,
        );
        expect(h["content-disposition"]).toMatch(/^[\x20-\x7e]*$/);
        expect(decodeURIComponent(h["content-disposition"]!.split("''")[1]!)).toBe(name);
      }),
      { seed: 3, numRuns: 500 },
    );
  });
});

it.each<[string | null, string | null, boolean]>([
  ["http://localhost:3210", "localhost:3210", true],
  ["http://localhost:3211", "localhost:3210", false],
  ["https://elsewhere.example", "localhost:3210", false],
  [null, "localhost:3210", false],
  ["http://localhost:3210", null, false],
  ["null", "localhost:3210", false],
  ["localhost:3210", "localhost:3210", false],
])("a change from %s to %s is ours: %s", (origin, host, ours) =>
  expect(fromOurPage(origin, host, "")).toBe(ours),
);

it("an installation that says its own address takes changes from there alone, whatever host a proxy writes", () => {
  const here = "https://requests.quillhaven.example";
  expect(fromOurPage(here, "10.0.0.5:3210", `${here}/`)).toBe(true);
  expect(fromOurPage("http://requests.quillhaven.example", "10.0.0.5:3210", here)).toBe(false);
  expect(fromOurPage("http://10.0.0.5:3210", "10.0.0.5:3210", here)).toBe(false);
});
