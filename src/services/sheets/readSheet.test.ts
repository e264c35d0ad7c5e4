import ExcelJS from "exceljs";
import { deflateRawSync } from "node:zlib";
import { readSheet } from "./readSheet";

const sheetOf = async (bytes: Buffer | string) => {
  const r = await readSheet(Buffer.from(bytes as Buffer));
  if (!r.ok) throw new Error(r.why);
  return r.sheet;
};
const whyOf = async (bytes: Buffer | string) => {
  const r = await readSheet(Buffer.from(bytes as Buffer));
  return r.ok ? "" : r.why;
};
const texts = (s: Awaited<ReturnType<typeof sheetOf>>) =>
  s.rows.map((r) => [r.line, ...r.cells.map((c) => c.text)]);

describe("CSV", () => {
  it.each([
    ["commas", "Code,Name\nA1,Rope\n"],
    ["semicolons, with a mark before them", "\ufeffCode;Name\r\nA1;Rope\r\n"],
    ["tabs", "Code\tName\nA1\tRope"],
    ["bars", "Code|Name\nA1|Rope"],
  ])("%s", async (_, text) => {
    const s = await sheetOf(text);
    expect(s.headings).toEqual(["Code", "Name"]);
    expect(texts(s)).toEqual([[2, "A1", "Rope"]]);
    expect(s.notes).toEqual([]);
  });
  it("quotes, lines within cells, empty lines: lines are counted as the file has records", async () => {
    const s = await sheetOf('Code,Words\n\nA1,"one\ntwo, ""three"""\n');
    expect(texts(s)).toEqual([[3, "A1", 'one\ntwo, "three"']]);
  });
  it("other encodings are read, and said where they were guessed", async () => {
    const utf16 = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from("Code,Name\nA1,Café", "utf16le")]);
    expect(texts(await sheetOf(utf16))).toEqual([[2, "A1", "Café"]]);
    const latin = await sheetOf(Buffer.from("Code,Name\nA1,Caf\xe9", "latin1"));
    expect(texts(latin)).toEqual([[2, "A1", "Café"]]);
    expect(latin.notes[0]).toMatch(/Windows-1252/);
  });
  it("what is no sheet says so, and what to do", async () => {
    expect(await whyOf("")).toMatch(/empty/);
    expect(await whyOf("\n\n,,\n")).toMatch(/Nothing stands/);
    expect(await whyOf("Code,Name\n")).toMatch(/nothing below/);
    expect(await whyOf('Code,Name\nA1,"never closed\nA2,x')).toMatch(/quotation mark/);
    expect(await whyOf(Buffer.from([1, 0, 2, 0]))).toMatch(/neither/);
    expect(await whyOf(Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 1]))).toMatch(/\.xls/);
    expect(await whyOf(Buffer.from([0x50, 0x4b, 3, 4, 1, 2, 3]))).toMatch(/cannot be read/);
    expect(
      await whyOf(Array.from({ length: 301 }, (_, i) => `c${i}`).join(",") + "\n1" + ",".repeat(300) + "2"),
    ).toMatch(/301 columns/);
    expect(await whyOf(`a\n${"x\n".repeat(100_001)}`)).toMatch(/more than 100,000/);
    expect(await whyOf(`a\n${"x".repeat(20_001)}`)).toMatch(/line 2 has more than/);
  });
  it("two hundred columns are read", async () => {
    const s = await sheetOf(
      `${Array.from({ length: 200 }, (_, i) => `c${i}`).join(";")}\n${"1;".repeat(199)}2`,
    );
    expect([s.headings.length, s.rows[0]!.cells.length]).toEqual([200, 200]);
  });
});

async function book(fill: (b: ExcelJS.Workbook) => void): Promise<Buffer> {
  const b = new ExcelJS.Workbook();
  fill(b);
  return Buffer.from(await b.xlsx.writeBuffer());
}
describe("XLSX", () => {
  it("takes numbers, dates and yes or no as the sheet has them", async () => {
    const bytes = await book((b) => {
      const s = b.addWorksheet("One");
      s.addRow(["Code", "Sum", "Day", "Fit", "Words", "Late"]);
      s.addRow([
        "A1",
        0.1 + 0.2,
        new Date(Date.UTC(2026, 2, 4)),
        true,
        { richText: [{ text: "a" }, { text: "b" }] },
      ]);
      s.addRow(["A2", { formula: "1+1", result: 2 }, new Date(Date.UTC(2026, 2, 4, 13, 30)), false, 1890]);
      s.addRow([]);
      s.addRow(["A3", 1e-7, "soon", null, { text: "here", hyperlink: "x:y" }, 12345678901234]);
      b.addWorksheet("Two").addRow(["other"]);
    });
    const s = await sheetOf(bytes);
    expect(s.headings).toEqual(["Code", "Sum", "Day", "Fit", "Words", "Late"]);
    expect(texts(s)).toEqual([
      [2, "A1", "0.3", "2026-03-04", "true", "ab"],
      [3, "A2", "2", "2026-03-04 13:30", "false", "1890"],
      [5, "A3", "0.0000001", "soon", "", "here", "12345678901234"],
    ]);
    expect(s.rows[0]!.cells.map((c) => c.typed ?? false)).toEqual([false, true, true, true, false]);
    expect(s.notes).toEqual(["The file has 2 sheets; the first one was read."]);
  });
  it("cells far out and very many unpacked bytes are refused in little time", async () => {
    const far = await book((b) => {
      const s = b.addWorksheet("One");
      s.addRow(["Code"]);
      s.addRow(["A1"]);
      s.getCell("XFD1048576").value = "far";
    });
    expect(await whyOf(far)).toMatch(/beyond its column 300/);
    expect(await whyOf(bomb(400_000_000))).toMatch(/too large/);
    // One that says less of itself than it is.
    expect(await whyOf(bomb(50_000_000, 1000))).toMatch(/cannot be read/);
  });
});

/** An archive with one entry that unpacks to very many bytes. @param says what it says of itself */
function bomb(bytes: number, says = bytes): Buffer {
  const data = deflateRawSync(Buffer.alloc(bytes));
  const name = Buffer.from("xl/workbook.xml");
  const common = (at: number, b: Buffer) => {
    b.writeUInt16LE(20, at);
    b.writeUInt16LE(8, at + 4);
    b.writeUInt32LE(data.length, at + 14);
    b.writeUInt32LE(says, at + 18);
    b.writeUInt16LE(name.length, at + 22);
  };
  const local = Buffer.alloc(30);
  local.writeUInt32LE(0x04034b50, 0);
  common(4, local);
  const central = Buffer.alloc(46);
  central.writeUInt32LE(0x02014b50, 0);
  common(6, central);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(46 + name.length, 12);
  end.writeUInt32LE(30 + name.length + data.length, 16);
  return Buffer.concat([local, name, data, central, name, end]);
}
