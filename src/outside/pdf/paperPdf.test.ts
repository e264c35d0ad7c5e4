import type { Paper } from "@/core/paper";
import { pdfPages } from "../../../tests/pdfPages";
import { faces } from "./faces";
import { paperPdf } from "./paperPdf";
import { runsOf } from "./runsOf";

jest.setTimeout(60_000);
const { work } = faces();
const runs = (text: string) => {
  const missing = new Set<string>();
  return { runs: runsOf(text, work, missing), missing: [...missing] };
};

describe("a text in faces", () => {
  it("stands in the first face that has each letter", () => {
    const { runs: all, missing } = runs("Łódź, Ωμέγα and Анна");
    expect(all.map((r) => r.text).join("")).toBe("Łódź, Ωμέγα and Анна");
    expect(new Set(all.map((r) => r.font)).size).toBe(4);
    expect(missing).toEqual([]);
  });
  it("writes otherwise what no face has, and tells what cannot be written at all", () => {
    const { runs: all, missing } = runs("1\u202f240 → ≥ 漢字漢");
    expect(all.map((r) => r.text).join("")).toMatch(/^1\u00a0240 -> (≥|>=) \?\?\?$/);
    expect(missing).toEqual(["漢", "字"]);
  });
  it("takes an accent apart from its letter, and marks that are not seen, for what they are", () => {
    const { runs: all, missing } = runs("e\u0301te\u0301\r\nsoft\u00adly \ufeffgone\u200d");
    expect(all.map((r) => r.text).join("")).toBe("été\nsoftly gone");
    expect(missing).toEqual([]);
  });
  it("keeps lines, and marks words that fit on none", () => {
    const word = "x".repeat(40);
    const { runs: all } = runs(`one\ntwo ${word} three`);
    expect(all.map((r) => r.text).join("")).toBe(`one\ntwo ${word} three`);
    expect(all.filter((r) => r.long).map((r) => r.text)).toEqual([word]);
  });
});

describe("a paper as a PDF", () => {
  const paper = (blocks: Paper["blocks"]): Paper => ({
    title: "Key of the tower",
    above: "KEY-0001 · Store key",
    foot: "printed by Una",
    language: "en-IE",
    blocks,
  });
  it("has its text to be searched and read, its foot and the head of a table on each page", async () => {
    const rows = Array.from({ length: 120 }, (_, i) => [String(i + 1), `Item ${i + 1}`]);
    const pages = pdfPages(
      await paperPdf(
        paper([
          { is: "facts", facts: [{ name: "Asked by", value: "Łukasz" }] },
          { is: "heading", text: "Lines", level: 2 },
          {
            is: "table",
            head: [
              { name: "No.", figures: true },
              { name: "Thing", figures: false },
            ],
            rows,
            sums: ["", "all of it"],
          },
          { is: "list", items: ["first", "second"] },
          { is: "text", text: "漢" },
        ]),
      ),
    );
    expect(pages.length).toBeGreaterThan(2);
    for (const [i, page] of pages.entries()) {
      expect(page).toContain("printed by Una");
      expect(page).toContain(`${i + 1} / ${pages.length}`);
      if (i < pages.length - 1) expect(page).toContain("Thing");
    }
    const all = pages.join(" ");
    for (const part of [
      "Key of the tower",
      "KEY-0001",
      "Asked by",
      "ukasz",
      "Item 120",
      "all of it",
      "second",
    ])
      expect(all).toContain(part);
    expect(all).toContain("One letter is in no typeface");
  });
});
