import { expect, test, type Page } from "@playwright/test";
import { accessible, addStep, be, closeOver, focusOn, newProcess, pick } from "./people";

/** Sets a price by hand, as whoever keeps the list does. */
async function costs(page: Page, item: string, price: string): Promise<void> {
  await be(page, "tobias.marrin", `/registers/price_list?q=${encodeURIComponent(item)}`);
  await page.getByRole("link", { name: item }).first().click();
  await page.getByRole("link", { name: "Change", exact: true }).click();
  await page.getByLabel(/^Price/).fill(price);
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByRole("link", { name: "Change", exact: true })).toBeVisible();
}

test("a price that rose while an order was decided is seen before the answer counts, by mouse and by keyboard", async ({
  page,
}) => {
  await be(page, "piet.hanlon", "/ask/supplies");
  await page.getByLabel(/^Project/).fill("Rope walk, treads");
  await page.getByRole("button", { name: "Add a line" }).click();
  await pick(page, "Item, line 1", "hygrometer");
  await page.getByLabel("Quantity, line 1").fill("10");
  await page.getByLabel(/^Reason/).fill("The old ones drift.");
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page).toHaveURL(/\/requests\//);
  const number = /SUP-\d+/.exec(page.url())![0];
  await costs(page, "Hygrometer", "80");
  await be(page, "sorcha.lind");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  const approve = page.getByRole("button", { name: "Approve", exact: true });
  await approve.click();
  const dialog = page.getByRole("dialog", { name: "These values are others now" });
  await expect(dialog).toContainText("Unit price of Hygrometer");
  await expect(dialog.getByRole("row", { name: /^Total/ })).toContainText("800.00");
  await accessible(page);
  // Not yet: nothing has happened, and what stands in the form is as it was.
  await dialog.getByRole("button", { name: "Not yet" }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText("800.00")).toHaveCount(0);
  // It moves once more while they think.
  const other = await page.context().browser()!.newPage();
  await costs(other, "Hygrometer", "81");
  await other.close();
  await focusOn(approve);
  await page.keyboard.press("Enter");
  await expect(dialog.getByRole("row", { name: /^Total/ })).toContainText("810.00");
  await focusOn(dialog.getByRole("button", { name: "Approve, with these values" }));
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/desk$/);
  await be(page, "piet.hanlon", `/requests/${number}`);
  await expect(page.getByText("read values anew with the answer")).toBeVisible();
  await expect(page.getByText("810.00").first()).toBeVisible();
  await costs(page, "Hygrometer", "74.5");
});

test("its owner says what an answer reads anew and what is fixed, and is told where that does not fit", async ({
  page,
}) => {
  await newProcess(page, "Price of a tread", "TREAD", ["Timber", "Cost"]);
  await page.getByLabel("Kind of Timber").selectOption("look-up");
  await page.getByLabel("More about Timber").click();
  await page.getByLabel("Looks in").selectOption("price_list");
  await page.getByLabel("Kind of Cost").selectOption("money");
  const worked = page.getByLabel("Cost: worked out as", { exact: true });
  await worked.fill("Timber.Price");
  await worked.press("Enter");
  await page.getByLabel("More about Cost").click();
  const keeps = page.getByRole("combobox", { name: "How long Cost keeps its value" });
  await keeps.selectOption("copied");
  await page.getByRole("link", { name: "Route sheet", exact: true }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await addStep(page, "decide");
  const answer = page.getByRole("button", { name: /^Answer: Approve/ }).first();
  await focusOn(answer);
  await page.keyboard.press("Enter");
  await focusOn(page.getByRole("checkbox", { name: "Cost" }));
  await page.keyboard.press("Space");
  await accessible(page);
  await closeOver(page, answer);
  await expect(page.getByRole("button", { name: /^Values read anew/ })).toContainText("Cost");
  await page.getByRole("link", { name: "Form sheet" }).click();
  await page.getByLabel("More about Cost").click();
  // Where it is used is told, with the way there.
  await expect(page.getByText("reads it anew with “Approve”")).toBeVisible();
  await expect(page.getByRole("link", { name: /^Route sheet, 2 “Decision”/ })).toBeVisible();
  await accessible(page);
  await keeps.selectOption("live");
  await page.getByRole("link", { name: "Route sheet", exact: true }).click();
  await expect(page.getByText(/reads "Cost" anew, which is no copy and not fixed/).first()).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByText(/reads "Cost" anew, which is no copy/)).toHaveCount(0);
  await page.getByRole("link", { name: "Form sheet" }).click();
  await page.getByLabel("More about Cost").click();
  await keeps.selectOption("fixed");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});
