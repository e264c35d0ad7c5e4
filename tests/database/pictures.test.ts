import sharp from "sharp";
import { addPicture, pictureOfText } from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);
let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

const plain = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: "#8a5a2b" } });

it("is kept no larger than it is shown, once whoever adds it, without what the camera wrote, and given by its hash alone", async () => {
  const tobias = await person("tobias.marrin");
  const bytes = await plain(2400, 1200)
    .withExif({ IFD0: { Copyright: "where I live" } })
    .jpeg()
    .toBuffer();
  const one = value(await addPicture(tobias, "store-key", bytes));
  expect(one).toEqual({ hash: expect.stringMatching(/^[0-9a-f]{64}$/), width: 1600, height: 800 });
  expect(value(await addPicture(tobias, "supplies", bytes))).toEqual(one);
  expect(await sql("select 1 from picture")).toHaveLength(1);
  const kept = (await pictureOfText(one.hash))!;
  expect(await sharp(kept).metadata()).toMatchObject({ format: "webp", width: 1600, height: 800 });
  expect(kept.includes("where I live")).toBe(false);
  for (const odd of [one.hash.slice(1), one.hash.toUpperCase(), "", `${one.hash}'`, "0".repeat(64)])
    expect(await pictureOfText(odd)).toBeNull();
  // A small one is not made larger.
  expect(value(await addPicture(tobias, "supplies", await plain(30, 20).png().toBuffer()))).toMatchObject({
    width: 30,
    height: 20,
  });
});

it("only whoever designs a process adds one to it, and only what is a picture", async () => {
  const png = await plain(10, 10).png().toBuffer();
  const before = (await sql("select 1 from picture")).length;
  for (const [who, process] of [
    ["lucia.penrose", "store-key"],
    ["fintan.galloway", "object-loan"],
    ["fintan.galloway", "no-such-process"],
  ] as const)
    expect(await addPicture(await person(who), process, png)).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
  const tobias = await person("tobias.marrin");
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>';
  const huge = await plain(1, 1).png().toBuffer();
  // A picture that says it is 60,000 by 60,000 points.
  huge.writeUInt32BE(60_000, 16);
  huge.writeUInt32BE(60_000, 20);
  for (const bytes of [Buffer.from(svg), Buffer.from("%PDF-1.7"), Buffer.alloc(0), png.subarray(0, 40), huge])
    expect(await addPicture(tobias, "store-key", bytes)).toMatchObject({
      ok: false,
      failure: { code: "invalid", data: { message: expect.stringContaining("That is no picture") } },
    });
  expect(await sql("select 1 from picture")).toHaveLength(before);
});
