import type { Paper } from "@/core/paper";
import { Failed } from "../kernel/failure";
import { printPaper } from "./printPaper";

it("refuses what is too long before anything is laid out, with what it has and how many it may", async () => {
  const cells = Array.from({ length: 10 }, () => "x");
  const paper: Paper = {
    title: "Long",
    above: "",
    foot: "",
    language: "en-IE",
    blocks: [
      {
        is: "table",
        head: cells.map((name) => ({ name, figures: false })),
        rows: Array.from({ length: 6001 }, () => cells),
        sums: null,
      },
    ],
  };
  const failed = await printPaper(paper).catch((e: unknown) => e);
  expect(failed).toBeInstanceOf(Failed);
  expect((failed as Failed).failure).toMatchObject({
    code: "invalid",
    data: {
      message: expect.stringContaining("60,010 cells and paragraphs; a PDF is made of at most 60,000"),
    },
  });
});
