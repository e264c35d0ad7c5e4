import { expect, test } from "@playwright/test";
import { accessible, be } from "./people";

test("anything is found by keyboard from anywhere, and gone to", async ({ page }) => {
  await be(page, "tobias.marrin", "/progress");
  const box = page.getByRole("combobox", { name: "Find" });
  // The page may still be waking up.
  await expect(async () => {
    await page.keyboard.press("Control+k");
    await expect(box).toBeFocused({ timeout: 1500 });
  }).toPass();
  const option = (name: string | RegExp) =>
    page.getByRole("dialog", { name: "Find" }).getByRole("option", { name });
  await expect(option(/^Desk/)).toBeVisible();
  await accessible(page);
  await page.keyboard.type("budget holder dec");
  await expect(option(/^Budget holder decides/)).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/workshop\/supplies\/route#step-budget$/);
  await expect(page.getByRole("group", { name: /Budget holder decides/ })).toBeFocused();
  // Over another dialog's keys too, and nothing found says so.
  await page.keyboard.press("Control+k");
  await expect(box).toBeFocused();
  await page.keyboard.type("no such thing");
  await expect(page.getByText("Nothing you may see is called “no such thing”.")).toBeVisible();
  await box.fill("dark");
  await page.keyboard.press("Enter");
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await page.keyboard.press("Control+k");
  await box.fill("light");
  await page.keyboard.press("Enter");
  await expect(page.locator("html")).toHaveAttribute("data-theme", "light");
  await page.keyboard.press("Control+k");
  await expect(box).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(box).toBeHidden();
});
