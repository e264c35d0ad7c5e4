import { clamped, readWidths, sheetTracks } from "./sheetColumns";

it("gives each column what it needs, and those that somebody drew just that", () => {
  expect(sheetTracks({})).toEqual({
    columns: "minmax(11.5rem, 1fr) 8.2rem 4.8rem minmax(8.5rem, 1fr) minmax(11rem, 1.25fr) 2.3rem",
    width: "calc(11.5rem + 8.2rem + 4.8rem + 8.5rem + 11rem + 2.3rem)",
  });
  expect(sheetTracks({ name: 300, kind: 90 })).toEqual({
    columns: "300px 90px 4.8rem minmax(8.5rem, 1fr) minmax(11rem, 1.25fr) 2.3rem",
    width: "calc(300px + 90px + 4.8rem + 8.5rem + 11rem + 2.3rem)",
  });
});
it("reads back what was kept, and nothing else", () => {
  expect(readWidths({ name: 200, worked: 400.4 })).toEqual({ name: 200, worked: 400 });
  expect(readWidths({ name: 1, kind: 1e9, shown: "200", other: 5, needed: null })).toEqual({
    name: 60,
    kind: 900,
  });
  expect(readWidths({})).toEqual({});
  expect(readWidths({ name: Number.NaN, kind: Number.POSITIVE_INFINITY, constructor: 5 })).toEqual({});
  expect([clamped(10), clamped(99.6), clamped(5000)]).toEqual([60, 100, 900]);
});
