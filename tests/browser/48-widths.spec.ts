import { expect, test } from "@playwright/test";
import { accessible, be } from "./people";

test("a column is drawn wider by its edge, narrower by keys, and as it needs again", async ({ page }) => {
  await be(page, "lucia.penrose", "/registers/objects");
  const head = page.getByRole("columnheader", { name: "Title", exact: true }).first();
  const wide = async () => Math.round((await head.boundingBox())!.width);
  const before = await wide();
  const edge = (await page.locator('[data-grip="title"]').boundingBox())!;
  await page.mouse.move(edge.x + 3, edge.y + 8);
  await page.mouse.down();
  await page.mouse.move(edge.x + 103, edge.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect(page).toHaveURL(new RegExp(`wide=title\\.${before + 100}`));
  await expect.poll(wide).toBe(before + 100);
  await accessible(page);

  // The same by keys; it stays with order and page, and with a view that is kept.
  await page.getByRole("button", { name: "View…" }).press("Enter");
  const size = page.getByRole("combobox", { name: "Width of Title" });
  await expect(size.locator("option:checked")).toHaveText(`${before + 100} px`);
  await size.selectOption("narrow");
  await accessible(page);
  await page.getByRole("button", { name: "Show it so" }).press("Enter");
  await expect.poll(wide).toBe(120);
  await page.getByRole("link", { name: "Next page" }).click();
  await expect(page).toHaveURL(/wide=title\.120.*page=2|page=2.*wide=title\.120/);
  await expect.poll(wide).toBe(120);
  await page.locator('[data-grip="title"]').dblclick();
  await expect(page).not.toHaveURL(/wide/);
  await expect.poll(wide).toBeGreaterThan(150);
});
