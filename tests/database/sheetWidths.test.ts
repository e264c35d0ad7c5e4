import { keepSheetWidths, ownSheetWidths } from "@/services";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
jest.setTimeout(60_000);
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

it("widths are kept with the person who drew them, wherever they sign in, the last counts, and are theirs alone", async () => {
  const [tobias, maeve] = await Promise.all(["tobias.marrin", "maeve.dunlea"].map(person));
  expect(value(await ownSheetWidths(tobias!))).toEqual({});
  value(await keepSheetWidths(tobias!, { name: 300, worked: 420 }));
  value(await keepSheetWidths(tobias!, { name: 310 }));
  expect(value(await ownSheetWidths(tobias!))).toEqual({ name: 310 });
  expect(value(await ownSheetWidths(maeve!))).toEqual({});
  const many = Object.fromEntries(Array.from({ length: 21 }, (_, i) => [`c${i}`, 1]));
  for (const bad of [{ name: 1.5 }, { name: -1 }, { name: 1e6 }, { name: Number.NaN }, many])
    expect(await keepSheetWidths(tobias!, bad)).toMatchObject({ ok: false, failure: { code: "invalid" } });
  value(await keepSheetWidths(tobias!, {}));
  expect(await sql("select widths from sheet_widths")).toEqual([{ widths: {} }]);
});
