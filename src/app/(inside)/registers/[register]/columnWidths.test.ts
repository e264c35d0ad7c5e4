import { readWidths, widenedView } from "./columnWidths";

it.each([
  ["", {}],
  ["title.240,site.90", { title: 240, site: 90 }],
  ["title.5,site.9999", { title: 60, site: 900 }],
  ["title.-5,<b>.9,__proto__.90,title.1e3,site,site.,.40", {}],
])("of %s so much is read", (text, widths) => {
  expect(readWidths(text)).toEqual(widths);
});
it("one column's width is put beside the others', and taken away", () => {
  expect(widenedView("q=a&wide=title.240", "site", 99.6)).toBe("q=a&wide=title.240%2Csite.100");
  expect(widenedView("q=a&wide=title.240", "title", 10)).toBe("q=a&wide=title.60");
  expect(widenedView("q=a&wide=title.240", "title", null)).toBe("q=a");
  expect(widenedView("q=a&wide=junk", "title", null)).toBe("q=a");
});
