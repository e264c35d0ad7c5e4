import { expect, test } from "@playwright/test";
import { accessible, be, focusOn, newProcess, pick, touchable } from "./people";

test("several records are picked by name and by ticking, worked with, and read on the request", async ({
  page,
}) => {
  await newProcess(page, "Cover them", "COVERS", ["Objects", "How many"]);
  await page.getByLabel("Kind of Objects").selectOption("several records");
  await page.getByLabel("More about Objects").click();
  await page.getByRole("combobox", { name: "Looks in" }).selectOption("objects");
  await page.getByLabel("Most of Objects").fill("4");
  await page.keyboard.press("Tab");
  await page.getByLabel("Kind of How many").selectOption("number");
  await page.getByLabel("How many: worked out as").click();
  await page.keyboard.type("count(Objects)");
  await page.keyboard.press("Enter");
  await pick(page, /^Objects$/, "QH.1893");
  await expect(page.getByText("1", { exact: true }).last()).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page.getByRole("button", { name: "Step", exact: true }).click();
  await page.getByLabel("Kind of step").fill("finish");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText(/1\.0\.0 is live/).first()).toBeVisible();

  await be(page, "lucia.penrose", "/ask");
  await page.getByRole("link", { name: "Cover them" }).click();
  const objects = page.getByRole("combobox", { name: "Objects", exact: true });
  const list = page.getByRole("list", { name: "Chosen: Objects" });
  // By keyboard: a part of the name, Enter, and on with the next.
  await focusOn(objects);
  await page.keyboard.type("QH.1893");
  await expect(page.getByRole("option").first()).toContainText("QH.1893");
  await page.keyboard.press("Enter");
  await expect(list.getByRole("listitem")).toHaveCount(1);
  await expect(objects).toBeFocused();
  // Two more at once, one of those there already said to be.
  await page.getByRole("button", { name: "Add several…" }).click();
  const several = page.getByRole("dialog");
  await several.getByLabel("Search").fill("QH.1893");
  await expect(several.getByText("chosen already")).toBeVisible();
  // What was listed before this was typed is gone.
  await expect(several.getByRole("checkbox", { name: /QH\.1893/ }).first()).toBeVisible();
  await expect(several.getByRole("checkbox", { name: /QH\.(?!1893)/ })).toHaveCount(0);
  await several.getByRole("checkbox").nth(1).check();
  await several.getByRole("checkbox").nth(2).check();
  await accessible(page);
  await several.getByRole("button", { name: "Add 2 records" }).click();
  await expect(list.getByRole("listitem")).toHaveCount(3);
  await expect(page.getByText("3", { exact: true }).last()).toBeVisible();
  await list.getByRole("button").nth(1).click();
  await expect(list.getByRole("listitem")).toHaveCount(2);
  await expect(objects).toBeFocused();
  await expect(page.getByText(/Kept\. You can leave/)).toBeVisible();
  await page.reload();
  await expect(list.getByRole("listitem")).toHaveCount(2);
  await accessible(page);
  const titles = await list.getByRole("listitem").allInnerTexts();
  await page.getByRole("button", { name: "Send request" }).press("Enter");
  await expect(page).toHaveURL(/\/requests\/COVERS-0001/);
  await expect(page.getByText(titles.map((t) => t.trim()).join(", ")).first()).toBeVisible();
  await accessible(page);
});

test("on a phone several records are picked in a line as well", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await be(page, "tomas.wexley", "/ask/acquisition-offers");
  await page.getByRole("button", { name: "Add a line" }).click();
  await pick(page, /^Alike here, line 1/, "QH.1893");
  const list = page.getByRole("list", { name: /^Chosen: Alike here/ });
  await expect(list.getByRole("listitem")).toHaveCount(1);
  await touchable(page);
  await accessible(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
