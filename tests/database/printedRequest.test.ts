import {
  act,
  addFile,
  createProcess,
  printedProcess,
  printedRequest,
  releaseDraft,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { pdfPages } from "../pdfPages";
import { openWorld, orderOf, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
let piet: Actor;
let stranger: Actor;
jest.setTimeout(60_000);
beforeAll(async () => {
  world = await openWorld();
  [piet, stranger] = [await person("piet.hanlon"), await person("dov.merrick")];
});
afterAll(() => world.close());

const textOf = async (who: Actor, number: string) =>
  pdfPages(value(await printedRequest(who, number)).bytes).join(" ");

it("has the form with its lines and sums, who is waited for, and the trail, for whoever may see it", async () => {
  const { number } = value(await startRequest(piet, "supplies", orderOf(3)));
  const pdf = value(await printedRequest(piet, number));
  expect(pdf.file).toMatchObject({ name: `${number}.pdf`, type: "application/pdf", size: pdf.bytes.length });
  expect(pdf.bytes.subarray(0, 5).toString()).toBe("%PDF-");
  const [item] = await sql<{ item: string; price: string }>(
    "select item, price::text from register.price_list where id = 11",
  );
  const text = await textOf(piet, number);
  for (const part of [
    number,
    "Guild banners",
    "Needed for the banners.",
    item!.item,
    `EUR ${(3 * Number(item!.price)).toFixed(2)}`,
    "Asked by",
    "Waits for",
    "Sorcha Lind",
    "made the request",
    `${number} as Piet Hanlon sees it, printed`,
  ])
    expect(text).toContain(part);
  value(await act(piet, number, { type: "withdraw", note: "Bought elsewhere." }));
  const after = await textOf(piet, number);
  expect(after).toContain("withdrawn");
  expect(after).toContain("Bought elsewhere.");
  expect(after).not.toContain("Waits for");
});

it("form and route of a draft are printed for whoever designs it, and for nobody else", async () => {
  const owner = await person("tobias.marrin");
  const { file, bytes } = value(await printedProcess(owner, "store-key"));
  expect(file).toMatchObject({ name: "Store key.pdf", type: "application/pdf", size: bytes.length });
  const text = pdfPages(bytes).join(" ");
  for (const said of [
    "Owners Tobias Marrin",
    'Until <= From + duration("P28D")',
    "Decide · Manager decides",
    "then Security looks (with an exception) or Hand over the key (nothing special)",
    "Register Stores",
    "printed by Tobias Marrin",
  ])
    expect(text.replace(/\s+/g, " ")).toContain(said);
  expect(await printedProcess(piet, "store-key")).toMatchObject({ failure: { code: "not-found" } });
  expect(await printedProcess(owner, "nothing")).toMatchObject({ failure: { code: "not-found" } });
});

it("is made for nobody who may not see the request, and says so as its page does", async () => {
  const { number } = value(await startRequest(piet, "supplies", orderOf(1)));
  expect(await printedRequest(stranger, number)).toMatchObject({ ok: false, failure: { code: "not-found" } });
  expect(await printedRequest(piet, "SUP-99999")).toMatchObject({
    ok: false,
    failure: { code: "not-found" },
  });
});

it("is made of two thousand lines, for several at once", async () => {
  const { number } = value(await startRequest(piet, "supplies", orderOf(1)));
  const rows = Array.from({ length: 2000 }, (_, i) => ({ "#": String(i), item: "11", quantity: "1" }));
  await sql(
    "update request set state = jsonb_set(state::jsonb, '{data,items}', $2)::json where number = $1",
    [number, JSON.stringify(rows)],
  );
  const all = await Promise.all([1, 2].map(() => printedRequest(piet, number)));
  const pages = all.map((x) => pdfPages(value(x).bytes));
  expect(pages[0]).toEqual(pages[1]);
  expect(pages[0]!.length).toBeGreaterThan(30);
  expect(pages[0]!.join(" ")).toContain(" 2000 ");
});

describe("a signature", () => {
  const PNG = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  );
  beforeAll(async () => {
    value(
      await createProcess(SYSTEM, {
        format: "cobble-step/process@2",
        key: "t-signs",
        name: "Sign",
        purpose: "",
        owners: ["tobias.marrin"],
        numbering: { prefix: "SIGNS", digits: 4 },
        title: "",
        starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
        fields: [{ id: "s", name: "Signature", kind: "signature" }],
        access: {},
        samples: [],
        route: [{ id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
      }),
    );
    value(await releaseDraft(SYSTEM, "t-signs", "1.0.0", ""));
  });
  const signedBy = async (bytes: Buffer) => {
    const s = value(await addFile(piet, "signature.png", bytes)).id;
    const { number } = value(await startRequest(piet, "t-signs", { s }));
    return value(await printedRequest(piet, number)).bytes;
  };
  it("is printed with its picture, who gave it, and its fingerprint", async () => {
    const pdf = await signedBy(PNG);
    expect(pdf.includes("/Subtype /Image")).toBe(true);
    const text = pdfPages(pdf).join(" ");
    expect(text).toContain("Given with the account of Piet Hanlon");
    expect(text).toMatch(/Fingerprint [0-9a-f ]{64,}/);
    expect(text).toContain("What was signed stands as it was.");
  });
  it("whose file is no picture is said all the same", async () => {
    const pdf = await signedBy(Buffer.from("<svg onload='alert(1)'/>"));
    expect(pdf.includes("/Subtype /Image")).toBe(false);
    expect(pdfPages(pdf).join(" ")).toContain("Given with the account of Piet Hanlon");
  });
});
