import { expect, test } from "@playwright/test";
import { pdfTexts } from "../pdfPages";
import { accessible, be, focusOn } from "./people";

const PRINT = process.env["PRINT_URL"] ?? "";

test("labels of what is due are laid out and printed", async ({ page }) => {
  await be(page, "sorcha.lind", "/ask/check-labels");
  // A week from now is what it begins with.
  await expect(page.getByLabel(/^For the day/)).not.toHaveValue("");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/LABEL-/);
  await expect(page.getByText(/^Print them: one document brought, job P-\d+$/)).toBeVisible({
    timeout: 60_000,
  });
  const link = page.getByRole("link", { name: /^Labels .*\.pdf$/ }).first();
  const name = (await link.innerText()).trim();
  const bytes = await (await page.request.get((await link.getAttribute("href"))!)).body();
  const words = (await pdfTexts(bytes)).flat().map((t) => t.text);
  const found = await page.getByText(/^Due: found \d+/).innerText();
  const count = Number(/found (\d+)/.exec(found)![1]);
  expect(count).toBeGreaterThan(0);
  expect(words.filter((w) => /^QH\./.test(w))).toHaveLength(count);
  expect(words.filter((w) => w.startsWith("Look at it by"))).toHaveLength(count);
  await page.goto(PRINT);
  await expect(page.getByRole("link", { name })).toBeVisible();
});

test("what stands on a label, and how the page is parted, is said on the route sheet", async ({ page }) => {
  await be(page, "sorcha.lind", "/workshop/check-labels/route");
  const parted = page.getByRole("button", { name: /^How the page is parted/ });
  const says = page.getByRole("button", { name: /^What stands on a label/ });
  await parted.click();
  const across = page.getByLabel("beside each other");
  await expect(page.getByText("24 labels of 64.7 × 35.1 mm on a page of A4.")).toBeVisible();
  await across.fill("9");
  await page.keyboard.press("Escape");
  await accessible(page);
  await expect(page.getByText(/Labels across is a whole number from 1 to 6/).first()).toBeVisible();
  await parted.click();
  await across.fill("2");
  await expect(page.getByText("16 labels of 97 × 35.1 mm on a page of A4.")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByText("No problems")).toBeVisible();

  // By the keyboard, a name that is not there is told where it is written.
  await focusOn(says);
  await page.keyboard.press("Enter");
  const bold = page.getByRole("textbox", { name: "In bold on a label" });
  await bold.fill("{Acession number}");
  await expect(
    page.getByRole("status").filter({ hasText: 'Did you mean "Accession number"?' }),
  ).toBeVisible();
});
