import { expect, test } from "@playwright/test";
import { accessible, be } from "./people";

test("a register is made from pasted rows, and grows by a sheet whose refused rows are mended", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/registers");
  await page.getByRole("button", { name: "New register" }).click();
  await page.getByRole("link", { name: "Make it from a sheet of rows" }).click();
  await page
    .getByLabel("or its rows")
    .fill("Code;Hung on;Worth;Sound\nW1;13/04/2026;1.250,50;yes\nW2;14/04/2026;80,00;no");
  await page.getByRole("button", { name: "Look at these" }).click();
  await expect(page.getByLabel("Kind of Hung on")).toHaveValue("date");
  await expect(page.getByLabel("Kind of Worth")).toHaveValue("money");
  await expect(page.getByLabel("Kind of Sound")).toHaveValue("yes or no");
  await page.getByLabel("What the register is called").fill("Wreaths");
  await page.getByLabel("One record is called").fill("wreath");
  await accessible(page);
  await page.getByRole("button", { name: "Make the register" }).click();

  // Its rows are tried; nothing is there before they are brought in.
  await expect(page.getByText("Of 2 rows, 2 are added.")).toBeVisible();
  await expect(page.getByText("Worth: 1250.50", { exact: false })).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Bring it in" }).click();
  await expect(page.getByText("None was refused")).toBeVisible();

  // A second sheet: changed where it is found again, refused where it does not fit.
  await page.getByRole("link", { name: "Wreaths" }).click();
  await page.getByRole("button", { name: "Sheets…" }).click();
  await page.getByRole("menuitem", { name: "Bring in a sheet" }).click();
  await expect(page.getByRole("link", { name: "Pasted rows" })).toBeVisible();
  await page.getByLabel("or its rows").fill("code,worth,smell\nW1,90,sweet\nW3,dear,dull\nW2,80,none");
  await page.getByRole("button", { name: "Look at these" }).click();
  await expect(page.getByText("Of 3 rows, 2 are added, 1 refused.")).toBeVisible();
  await page.getByLabel("Records are found again by").selectOption("code");
  await expect(page.getByText("Of 3 rows, 1 changed, 1 is so already, 1 refused.")).toBeVisible();
  await page.getByRole("link", { name: "Refused 1" }).click();
  await expect(page.getByRole("row", { name: /W3/ })).toContainText("dear");
  await expect(page.getByRole("row", { name: /W1/ })).toBeHidden();
  await page.getByRole("button", { name: "Bring it in" }).click();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Save them as a file" }).click(),
  ]);
  expect(file.suggestedFilename()).toBe("Pasted rows refused.csv");

  // The list, and what it is as a file.
  await page.goto("/registers/wreaths?where=Worth+%3E+85");
  await expect(page.getByRole("row", { name: /W1/ })).toContainText("90");
  await page.getByRole("button", { name: "Sheets…" }).press("Enter");
  const [saved] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("menuitem", { name: "As plain rows (CSV)" }).press("Enter"),
  ]);
  const text = (await (await saved.createReadStream()).toArray()).join("");
  expect(text).toBe("\ufeffCode,Hung on,Worth,Sound\r\nW1,2026-04-13,90,Yes\r\n");
});

test("a register is looked at by groups, and a view of it kept for everybody", async ({ page }) => {
  await be(page, "maeve.dunlea", "/registers/objects?sort=-insured_value");
  await page.getByRole("button", { name: "View…" }).click();
  await page.getByLabel("Grouped by").selectOption({ label: "Status" });
  await page.getByRole("button", { name: "Show it so" }).click();
  const table = page.getByRole("table", { name: "Objects by Status" });
  await expect(table.getByRole("row", { name: /in store/ })).toBeVisible();
  await expect(table.getByRole("columnheader", { name: "Insured value, in sum" })).toBeVisible();
  const said = await table
    .getByRole("row", { name: /on loan/ })
    .getByRole("cell")
    .nth(1)
    .innerText();

  // By keyboard: the view is kept, then a group opened, which has as many records as was said.
  await page.getByRole("button", { name: "View…" }).press("Enter");
  await page.getByLabel("Keep the view as it is now").fill("By status");
  await page.getByLabel("for everybody who sees Objects").press("Space");
  await page.getByRole("button", { name: "Keep this view" }).press("Enter");
  await expect(page.getByText("The view By status is kept.")).toBeVisible();
  await page.keyboard.press("Escape");
  await accessible(page);
  await table.getByRole("link", { name: "on loan" }).press("Enter");
  await expect(page.getByText(`of ${said} objects`)).toBeVisible();
  // What was searched for leaves order and columns as they are.
  await page.getByLabel("Search Objects").fill("oil");
  await expect(page).toHaveURL(/sort=-insured_value.*q=oil/);

  await be(page, "sorcha.lind", "/registers/objects");
  await page.getByRole("button", { name: "View…" }).click();
  await page.getByRole("link", { name: "By status" }).click();
  await expect(page.getByRole("table", { name: "Objects by Status" })).toBeVisible();
  await expect(page.getByRole("button", { name: "View: By status" })).toBeVisible();
});

test("a list is narrowed in the row below its heads, by typing and by picking, and widened again", async ({
  page,
}) => {
  await be(page, "maeve.dunlea", "/registers/objects?sort=-insured_value");
  const table = page.getByRole("table", { name: "Objects" });
  await table.getByLabel("Only where Title is").pressSequentially("tile");
  await expect(page).toHaveURL(/is\.title=tile/);
  await expect(table.getByLabel("Only where Title is")).toBeFocused();
  await table.getByLabel("Only where Status is").selectOption("on show");
  await expect(page).toHaveURL(/sort=-insured_value.*is\.title=tile.*is\.status=on\+show/);
  const rows = table.locator("tr[data-row]");
  await expect(rows.first()).toContainText(/tile/i);
  for (const text of await rows.allInnerTexts()) expect(text).toMatch(/tile[\s\S]*on show/i);
  await accessible(page);
  // Where nothing matches the row stays, so that it can be said otherwise.
  await table.getByLabel("Only where Title is").fill("zzz nothing");
  await expect(page.getByText("No object matches")).toBeVisible();
  await table.getByLabel("Only where Title is").press("Escape");
  await expect(page).not.toHaveURL(/is\.title/);
  await expect(rows.first()).toContainText("on show");
});

test("whoever may not write is not offered to bring anything in", async ({ page }) => {
  await be(page, "tobias.marrin", "/registers/objects");
  await page.getByRole("button", { name: "Sheets…" }).click();
  await expect(page.getByRole("menuitem", { name: "As a spreadsheet (XLSX)" })).toBeVisible();
  await expect(page.getByRole("menuitem", { name: "Bring in a sheet" })).toBeHidden();
  await page.goto("/registers/objects/import");
  await expect(page.getByText("You may neither add nor change Objects.")).toBeVisible();
});
