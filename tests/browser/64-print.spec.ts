import { expect, test } from "@playwright/test";
import { readFileSync } from "node:fs";
import { pdfPages } from "../pdfPages";
import { accessible, be } from "./people";

test("a request is printed whole, in ink on white, without what is pressed, however it is looked at", async ({
  page,
  context,
}) => {
  await be(page, "maeve.dunlea", "/progress?process=object-loan");
  const number = await page.locator('a[href^="/requests/LOAN"]').first().innerText();
  await context.addCookies([{ name: "theme", value: "dark", url: page.url() }]);
  await page.goto(`/requests/${/LOAN-\d+/.exec(number)![0]}`);
  await expect(page.getByRole("button", { name: "Print" })).toBeVisible();
  await expect(page.getByText(/as Maeve Dunlea sees it/)).toBeHidden();
  await page.emulateMedia({ media: "print" });
  // An upright sheet of A4 between its margins.
  await page.setViewportSize({ width: 688, height: 1000 });
  await expect(page.getByText(/as Maeve Dunlea sees it, printed/)).toBeVisible();
  await expect(page.getByRole("heading", { name: "Trail" })).toBeVisible();
  await expect(page.getByRole("button")).toHaveCount(0);
  await expect(page.getByRole("navigation")).toHaveCount(0);
  await expect(page.getByRole("link", { name: "PDF" })).toBeHidden();
  const looks = await page.evaluate(() => {
    const { color } = getComputedStyle(document.querySelector("h1")!);
    return { ground: getComputedStyle(document.body).backgroundColor, color };
  });
  expect(looks).toEqual({ ground: "rgb(255, 255, 255)", color: "rgb(0, 0, 0)" });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(688);
  await accessible(page);
});

test("a request is kept as a PDF of its own, as whoever makes it sees it", async ({ page }) => {
  await be(page, "maeve.dunlea", "/progress?process=object-loan");
  await page.locator('a[href^="/requests/LOAN"]').first().click();
  const link = page.getByRole("link", { name: "PDF" });
  await link.focus();
  const [saved] = await Promise.all([page.waitForEvent("download"), page.keyboard.press("Enter")]);
  expect(saved.suggestedFilename()).toMatch(/^LOAN-\d+\.pdf$/);
  const text = pdfPages(readFileSync(await saved.path())).join(" ");
  expect(text).toContain(saved.suggestedFilename().replace(".pdf", ""));
  expect(text).toContain("as Maeve Dunlea sees it");
  expect(text).toContain("Trail");
});

test("form and route of a process are saved as a PDF from the route sheet", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/store-key/route");
  const [saved] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "As PDF" }).click(),
  ]);
  expect(saved.suggestedFilename()).toBe("Store key.pdf");
  expect(pdfPages(readFileSync(await saved.path())).join(" ")).toContain("Manager decides");
});

test("what is found in a register is printed as labels, beside the first sheet as it will be", async ({
  page,
}) => {
  await be(page, "maeve.dunlea", "/registers/tickets?cols=ticket,price");
  await page.getByRole("button", { name: "Sheets…" }).focus();
  await page.keyboard.press("Enter");
  await page.getByRole("menuitem", { name: "As labels…" }).press("Enter");
  const dialog = page.getByRole("dialog", { name: "Labels" });
  await dialog.getByLabel("Labels across").fill("9");
  await expect(dialog.getByRole("status")).toHaveText(
    "Labels across is a whole number from 1 to 6, for example 3.",
  );
  await dialog.getByLabel("Labels across").fill("2");
  await dialog.getByLabel("Used already").fill("3");
  await expect(dialog.getByRole("status")).toHaveText(/^\d+ labels? on 1 sheet of A4\.$/);
  await accessible(page);
  const [saved] = await Promise.all([page.waitForEvent("download"), page.keyboard.press("Enter")]);
  expect(saved.suggestedFilename()).toBe("Tickets, labels.pdf");
  const [sheet] = pdfPages(readFileSync(await saved.path()));
  expect(sheet).toContain("EUR");
  await expect(dialog).toBeHidden();
  // How the sheets are parted is known the next time; what is used of one is another.
  await page.getByRole("button", { name: "Sheets…" }).click();
  await page.getByRole("menuitem", { name: "As labels…" }).click();
  await expect(dialog.getByLabel("Labels across")).toHaveValue("2");
  await expect(dialog.getByLabel("Used already")).toHaveValue("0");
});

test("at twice the size a form is read and filled in without going sideways", async ({ page }) => {
  // 1280 by 800 at 200 %.
  await page.setViewportSize({ width: 640, height: 400 });
  for (const form of ["store-key", "supplies", "acquisition-offers"]) {
    await be(page, "lucia.penrose", `/ask/${form}`);
    await expect(page.getByRole("button", { name: "Send request" })).toBeAttached();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(640);
  }
  await page.goto("/ask/supplies");
  await page.getByRole("button", { name: "Send request" }).click();
  // What is wrong is said on top, with a way to each place, and is heard.
  const said = page.getByRole("alert").first();
  await expect(said).toBeVisible();
  await page.getByRole("button", { name: "Items needs at least one line." }).focus();
  await page.getByRole("button", { name: "Project is needed." }).press("Enter");
  await expect(page.getByLabel(/^Project/)).toBeFocused();
  await accessible(page);
});
