import { expect, test } from "@playwright/test";
import { accessible, be, focusOn } from "./people";

test("a care note is left about a treatment, is done, and the treatment goes under way by it", async ({
  page,
}) => {
  await be(page, "sorcha.lind", "/registers/treatments/new");
  await page.getByRole("combobox", { name: "Object", exact: true }).press("Enter");
  await page.keyboard.type("QH.1893");
  await page
    .getByRole("option", { name: /QH\.1893/ })
    .first()
    .click();
  await page.getByRole("button", { name: "Add this treatment" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("QH.1893");
  const title = (await page.getByRole("heading", { level: 1 }).innerText()).split(" · ")[0]!;

  // By keyboard: what is typed finds in all registers it may lead to, each said.
  await page.goto("/registers/care_notes/new");
  await page.getByLabel("Text").fill("Mount is too short");
  const about = page.getByRole("combobox", { name: "About" });
  await focusOn(about);
  await page.keyboard.type("1893");
  const options = page.getByRole("option");
  await expect(options.filter({ hasText: "Objects" }).first()).toBeVisible();
  await expect(options.filter({ hasText: "Treatments" }).first()).toBeVisible();
  await accessible(page);
  await options.filter({ hasText: "Treatments" }).last().click();
  await expect(about).toContainText(title);
  await page.getByRole("button", { name: "Add this care note" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Mount is too short" })).toBeVisible();
  await expect(page.getByRole("link", { name: title })).toBeVisible();
  await expect(page.getByText("treatment", { exact: true })).toBeVisible();

  // It is ticked off in its cell; what begins by that is seen on the treatment.
  await page.goto("/registers/care_notes?q=Mount");
  const cell = page.getByRole("row").filter({ hasText: "Mount is too short" }).getByRole("cell").last();
  await cell.press("Enter");
  await page.getByRole("radiogroup", { name: "Done of Mount is too short" }).getByLabel("Yes").check();
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Mount is too short: Done is kept.")).toBeVisible();
  await page
    .getByRole("row")
    .filter({ hasText: "Mount is too short" })
    .getByRole("link", { name: title })
    .click();
  await expect(page).toHaveURL(/\/registers\/treatments\/\d+$/);
  await expect(page.getByRole("link", { name: "Care notes", exact: true })).toBeVisible();
  await expect(async () => {
    await page.reload();
    await expect(page.getByText("Work has begun: Mount is too short")).toBeVisible({ timeout: 1000 });
  }).toPass();
  await expect(page.getByText("under way", { exact: true })).toBeVisible();
  await accessible(page);
});

test("a column comes to link to several registers, which are said, and to one more", async ({ page }) => {
  await be(page, "maeve.dunlea", "/registers/loans/columns");
  await page.getByRole("button", { name: "Add a column" }).click();
  const row = page.locator("li[data-column]").last();
  await row.getByLabel("Name of the column").fill("Also lent");
  await row.getByRole("combobox", { name: /^Kind of/ }).selectOption("look-up in several");
  await expect(row.getByText('Say which registers "Also lent" looks in.')).toBeVisible();
  await row.getByRole("checkbox", { name: "Objects", exact: true }).check();
  await row.getByRole("checkbox", { name: "Treatments" }).press("Space");
  await expect(row.getByText("Say which registers")).toBeHidden();
  await accessible(page);
  // Another kind keeps where it led, as far as that can be.
  await row.getByRole("combobox", { name: /^Kind of/ }).selectOption("look-up");
  await expect(row.getByRole("combobox", { name: "Links to" })).toHaveValue("objects");
  await row.getByRole("combobox", { name: /^Kind of/ }).selectOption("look-up in several");
  await expect(row.getByRole("checkbox", { name: "Objects", exact: true })).toBeChecked();
  await expect(row.getByRole("checkbox", { name: "Treatments" })).not.toBeChecked();
});

test("a column becomes another kind: what cannot be read is told, mended or agreed to", async ({ page }) => {
  await be(page, "tobias.marrin", "/registers");
  await page.getByRole("button", { name: "New register" }).click();
  await page.getByLabel("What it is called").fill("Trestles");
  await page.getByLabel("One record is called").fill("trestle");
  await page.getByRole("button", { name: "Make it" }).click();
  await page.getByRole("button", { name: "Add a column" }).press("Enter");
  await page.getByLabel("Name of the column").last().fill("Height");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Trestles is changed.")).toBeVisible();
  for (const [name, height] of [
    ["Oak", "72,5"],
    ["Pine", "about 80"],
  ] as const) {
    await page.goto("/registers/trestles/new");
    await page.getByLabel("Name").fill(name);
    await page.getByLabel("Height").fill(height);
    await page.getByRole("button", { name: "Add this trestle" }).click();
    await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
  }
  await page.goto("/registers/trestles/columns");
  await page.getByLabel("Kind of Height").selectOption("number");
  await expect(
    page.getByText('1 of 2 records keep what they hold in "Height"', { exact: false }),
  ).toBeVisible();
  await expect(page.getByText("about 80", { exact: false })).toBeVisible();
  await expect(page.getByRole("button", { name: "Keep" })).toBeDisabled();
  await accessible(page);
  await page.getByLabel("Leave it empty").press("Space");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Trestles is changed.")).toBeVisible();
  await page.goto("/registers/trestles");
  await expect(page.getByRole("row").filter({ hasText: "Oak" })).toContainText("72.5");
  await expect(page.getByRole("row").filter({ hasText: "Pine" })).not.toContainText("80");
  await page.getByRole("link", { name: "Pine" }).click();
  await expect(page.getByText("about 80")).toBeVisible();
});
