import { expect, test } from "@playwright/test";
import { accessible, askForKey, be } from "./people";

test("registers: search, filter, sort and page two thousand objects", async ({ page }) => {
  await be(page, "maeve.dunlea", "/registers");
  await accessible(page);
  await page.getByRole("link", { name: /Objects The collection/ }).click();
  await expect(page.getByText("1 to 40 of 2,000 objects")).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "Next page" }).click();
  await expect(page.getByText("41 to 80 of 2,000 objects")).toBeVisible();
  await page.getByRole("link", { name: "Insured value" }).click();
  await expect(page.getByRole("columnheader", { name: /Insured value/ })).toHaveAttribute(
    "aria-sort",
    "ascending",
  );
  await page.getByLabel("Search Objects").fill("sextant");
  await expect(page).toHaveURL(/q=sextant/);
  await expect(page.getByText(/of \d+ objects/)).toBeVisible();
  await page.getByRole("button", { name: "Filter…" }).click();
  await page.getByLabel("Column").selectOption("status");
  await page.locator("#filter-value").selectOption("on show");
  await page.getByRole("button", { name: "Show these" }).click();
  await expect(page.getByRole("button", { name: /Remove filter Status/ })).toBeVisible();
  await expect(page.getByRole("cell", { name: "in store", exact: true })).toHaveCount(0);
  await page.getByLabel("Search Objects").fill("zzzz");
  await expect(page.getByText("No object matches")).toBeVisible();
});

test("a ladder happens as the clock is moved: reminded, then handed over to the manager", async ({
  page,
  browser,
}) => {
  const number = await askForKey(page, "siobhan.carrow", "Quarantine room, Tower");
  const desk = await (await browser.newContext({ baseURL: process.env["BASE_URL"] })).newPage();
  await be(desk, "tobias.marrin");
  await expect(page.getByText(/Aoife Lanigan has it/).first()).toBeVisible();
  await page.getByRole("button", { name: /Clock/ }).click();
  // Past two working days and the rung behind them, whatever weekend or holidays lie between.
  for (let i = 0; i < 4; i++) {
    await page.getByRole("button", { name: "3 days" }).click();
    await expect(page.getByText(/The clock stands at/)).toBeVisible();
  }
  await page.keyboard.press("Escape");
  // Nobody touches the page: the worker fires the rungs, and the trail shows them.
  await expect(page.getByText("A reminder was sent")).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/Handed over to Orla Fennimore, as the ladder says/)).toBeVisible({
    timeout: 60_000,
  });
  await be(page, "aoife.lanigan");
  await page.getByRole("button", { name: /Notices/ }).click();
  await expect(page.getByText(`Reminder: Manager decides for ${number}`)).toBeVisible();
  await desk.context().close();
});

test("owners see all requests of theirs in Progress; others see why it is empty", async ({ page }) => {
  await be(page, "tobias.marrin", "/progress?view=ended");
  await expect(page.getByText(/of [\d,]+ requests/)).toBeVisible();
  await accessible(page);
  await page.getByLabel("Search number or title").fill("KEY-0001");
  await expect(page.getByRole("row")).toHaveCount(2);
  await be(page, "lucia.penrose", "/progress");
  await expect(page.getByText("You own no process")).toBeVisible();
});
