import { expect, test } from "@playwright/test";
import { Document, Packer, Paragraph, TextRun } from "docx";
import { pdfTexts } from "../pdfPages";
import { accessible, be, focusOn, newProcess } from "./people";

const DOCX = "application/vnd.openxmlformats-officedocument.wordprocessingml.document";
const words = async (pdf: Buffer) =>
  (await pdfTexts(pdf))
    .flat()
    .map((t) => t.text)
    .join(" ");

test("a template is brought in, mended tag by tag, seen as the sample's document, released and drawn up", async ({
  page,
}) => {
  await newProcess(page, "Lending out", "LEND", ["Thing", "Papers"]);
  await page.getByLabel("Thing", { exact: true }).fill("Oval frame");
  await page.getByRole("button", { name: "Keep as sample" }).click();

  await page.getByRole("link", { name: "Templates", exact: true }).click();
  await expect(page.getByText("No templates yet")).toBeVisible();
  await accessible(page);
  const bring = page.getByLabel("DOCX to be brought in");
  await bring.setInputFiles({ name: "Slip.docx", mimeType: DOCX, buffer: Buffer.from("no document") });
  await expect(
    page.getByRole("alert").filter({ hasText: "It is no DOCX of a word processor" }),
  ).toBeVisible();
  // A word processor cuts a tag in two wherever somebody stopped typing.
  const slip = new Document({
    sections: [
      {
        children: [
          new Paragraph({
            children: ["Lent out: {Th", "nig}, by {Requester.name}"].map((text) => new TextRun(text)),
          }),
          new Paragraph("{if Thing = “Oval frame”}With care.{end}"),
        ],
      },
    ],
  });
  await bring.setInputFiles({ name: "Slip.docx", mimeType: DOCX, buffer: await Packer.toBuffer(slip) });
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Slip");
  await expect(page.getByRole("button", { name: "Slip (error)" })).toBeVisible();
  // Mended where it stands, without the word processor.
  const tags = page.getByRole("region", { name: "Tags", exact: true });
  await expect(tags).toContainText('Nothing here is called "Thnig". Did you mean "Thing"?');
  await tags.getByRole("button", { name: /Thing/ }).click();
  await expect(page.getByRole("button", { name: "Slip", exact: true })).toBeVisible();
  const pages = page.getByRole("region", { name: "The finished document" });
  await expect(pages).toContainText("Lent out: Oval frame, by");
  await expect(pages).toContainText("With care.");
  await expect(tags).toContainText("Oval frame");
  await accessible(page);
  // Called otherwise on the form sheet, it is called so in the template.
  await page.getByRole("button", { name: "Versions", exact: true }).click();
  await expect(page.getByRole("list", { name: "Versions" })).toContainText("this one");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();

  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: "1, start" }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("draw up");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: /^Template: / }).click();
  await page.getByLabel("Which template").selectOption({ label: "Slip" });
  await accessible(page);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^Field that keeps it: / }).click();
  await page.getByLabel("Which field keeps it").selectOption({ label: "Papers" });
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await be(page, "lucia.penrose", "/ask/lending-out");
  await page.getByLabel("Thing").fill("Square frame");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/LEND-/);
  const number = /LEND-\d+/.exec(page.url())![0];
  // Made by a worker; the page shows it by itself.
  const file = page.getByRole("link", { name: `${number}.pdf` });
  await expect(file).toBeVisible();
  const made = await page.request.get((await file.getAttribute("href"))!);
  const text = await words(Buffer.from(await made.body()));
  expect(text).toContain("Lent out: Square frame, by Lucia Penrose");
  expect(text).not.toContain("With care");
  await accessible(page);

  // Kept for all, it is taken by another process as it is then.
  await be(page, "tobias.marrin", "/workshop/lending-out/templates");
  await page.getByRole("button", { name: "Keep for all processes" }).click();
  await expect(page.getByRole("button", { name: "Keep it as it is for all processes, too" })).toBeVisible();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.goto("/workshop/ticketing-terms/templates");
  await focusOn(page.getByRole("button", { name: "One kept for all …" }));
  await page.keyboard.press("Enter");
  await page.getByRole("menuitem", { name: "Slip" }).click();
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Slip");
  // What it reads is not there in this process, and is told.
  await expect(page.getByText('Nothing here is called "Thing".').first()).toBeVisible();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.goto("/office/letters");
  const kept = page.getByRole("region", { name: "Slip" });
  await expect(kept).toContainText("In Lending out, Ticketing terms.");
  await accessible(page);
  await kept.getByRole("button", { name: "Take away: Slip" }).click();
  await expect(kept).toHaveCount(0);
  await page.goto("/workshop/ticketing-terms/templates");
  await page.getByRole("button", { name: "Take this template away" }).click();
  await expect(page.getByText("No templates yet")).toBeVisible();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});
