import fc from "fast-check";
import { labelPlace, type LabelSheet } from "@/core/paper";
import { pdfPages, pdfTexts } from "../../../tests/pdfPages";
import { fitted, labelsPdf } from "./labelsPdf";

jest.setTimeout(60_000);
const sheet = (more: Partial<LabelSheet> = {}): LabelSheet => ({
  title: "Labels: Objects",
  language: "en-IE",
  across: 3,
  down: 8,
  skip: 0,
  margin: 8,
  labels: [],
  ...more,
});

describe("a text on a label", () => {
  const measure = (t: string) => [...t].length;
  it("keeps to its lines and their width, and is whole or ends with an ellipsis", () => {
    const word = fc.string({ unit: fc.constantFrom("a", "b", "ł"), minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(
        fc.array(word, { maxLength: 12 }),
        fc.integer({ min: 2, max: 20 }),
        fc.nat(4),
        (words, width, most) => {
          const lines = fitted(words.join(" "), width, most, measure);
          expect(lines.length).toBeLessThanOrEqual(most);
          for (const l of lines) expect(measure(l)).toBeLessThanOrEqual(width);
          const all = lines.join("").replace(/ /g, "");
          const whole = words.join("");
          if (all.endsWith("…")) expect(whole.startsWith(all.slice(0, -1))).toBe(true);
          else if (most > 0) expect(all).toBe(whole);
        },
      ),
      { numRuns: 1000, endOnFailure: true },
    );
  });
  it("of a text without an end is measured no further than a label goes", () => {
    const long = "x".repeat(1_000_000);
    let measured = 0;
    const lines = fitted(long, 30, 2, (t) => ((measured += t.length), t.length));
    expect(lines).toEqual(["x".repeat(30), `${"x".repeat(29)}…`]);
    expect(measured).toBeLessThan(500_000);
  });
});

it("puts each label in its own place, whatever stands on it, behind those that are used", async () => {
  const words = "Brig, fully rigged, of bone and baleen, with all her boats and a case of glass";
  const labels = Array.from({ length: 30 }, (_, i) => ({
    heading: `QH.${1800 + i}.004.3 ${words}`,
    lines: [words, "Łódź", "x".repeat(300), "one", "two", "three", "four", "five"],
  }));
  const s = sheet({ labels, skip: 5, margin: 10 });
  const pages = pdfTexts(await labelsPdf(s));
  expect(pages).toHaveLength(2);
  const margin = (10 * 72) / 25.4;
  const [width, height] = [(595.28 - 2 * margin) / 3, (841.89 - 2 * margin) / 8];
  for (const [i, l] of labels.entries()) {
    const { sheet: page, row, column } = labelPlace(i, s);
    const [left, top] = [margin + column * width, 841.89 - margin - row * height];
    const here = pages[page]!.filter(
      (t) => t.x >= left && t.x < left + width && t.y < top && t.y >= top - height && t.text.trim() !== "",
    );
    expect(here[0]!.text.startsWith(l.heading.slice(0, 8))).toBe(true);
    // Nothing of it leaves the label.
    for (const t of here) expect(t.x + t.width).toBeLessThanOrEqual(left + width + 0.5);
  }
  // All of what is there is on some label.
  const placed = pages.flat().filter((t) => t.text.trim() !== "");
  const used = pages[0]!.filter(
    (t) => t.text.trim() !== "" && t.y > 841.89 - margin - height && t.x < margin + 3 * width,
  );
  expect(used).toEqual([]);
  expect(placed.length).toBeGreaterThan(30 * 4);
});

it("of nothing is an empty sheet", async () => {
  expect(pdfPages(await labelsPdf(sheet()))).toEqual([""]);
});
