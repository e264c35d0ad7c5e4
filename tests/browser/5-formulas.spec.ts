import { expect, test, type Page } from "@playwright/test";
import { accessible, be, focusOn } from "./people";

const editor = (page: Page) => page.getByRole("dialog", { name: "Formula editor" });

test("a condition is written by keyboard alone: completion, a mend, why, and on to the next cell", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/workshop/supplies/form");
  const cell = page.getByLabel("Reason: shown when", { exact: true });
  const box = editor(page).getByRole("textbox", { name: "Reason: shown when" });
  await focusOn(cell);
  await expect(editor(page)).toBeHidden();
  // The page may still be waking up.
  await expect(async () => {
    await cell.press("Enter", { timeout: 500 });
    await expect(box).toBeFocused({ timeout: 1500 });
  }).toPass();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Urg");
  await expect(page.getByRole("option", { name: /^Urgent/ })).toContainText("yes or no");
  await page.keyboard.press("Enter");
  await expect(box).toHaveText("Urgent");
  await page.keyboard.type(" or Totl > 5");
  await expect(editor(page).getByText('Did you mean "Total"?')).toBeVisible();
  await page.keyboard.press("Control+.");
  await expect(box).toHaveText("Urgent or Total > 5");
  await expect(editor(page).getByText(/^For “.*”: yes$/)).toBeVisible();
  await page.keyboard.press("Alt+w");
  const why = editor(page).getByRole("table", { name: "Why it comes to this" });
  await expect(why.getByRole("row").nth(1)).toContainText("no");
  await expect(why.getByRole("row").nth(2)).toContainText("yes");
  await accessible(page);
  await page.keyboard.press("Tab");
  await expect(editor(page)).toBeHidden();
  await expect(page.getByLabel("Reason: worked out as", { exact: true })).toBeFocused();
  await expect(cell).toHaveValue("Urgent or Total > 5");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  // Escape puts the old text back.
  await cell.click();
  await expect(box).toBeFocused();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("nonsense ");
  // Where a list of completions is open, the first Escape closes only that.
  await expect(async () => {
    if (await editor(page).isVisible()) await page.keyboard.press("Escape");
    await expect(editor(page)).toBeHidden({ timeout: 500 });
  }).toPass();
  await expect(cell).toHaveValue("Urgent or Total > 5");
  await expect(cell).toBeFocused();
  await page.getByRole("button", { name: "Undo" }).click();
});

test("what is typed before the editor has loaded stays in its order", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/supplies/form");
  await page.waitForLoadState("networkidle");
  const cell = page.getByLabel("Reason: worked out as", { exact: true });
  const before = await cell.inputValue();
  await cell.click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("sum(Items.", { delay: 30 });
  // Brackets typed before the editor was there are not closed by it.
  await expect(editor(page).getByRole("textbox", { name: "Reason: worked out as" })).toHaveText(
    /^sum\(Items\.\)?$/,
  );
  await expect(editor(page).getByRole("option", { name: /^Line total/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await expect(editor(page)).toBeHidden();
  await expect(cell).toHaveValue(before);
  // The same where no list stands open and one Escape closes all.
  await cell.click();
  await expect(editor(page).getByRole("textbox")).toBeFocused();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("count(Items) ");
  // Completion asks a moment after the last key; until then Escape means that.
  await page.waitForTimeout(400);
  await page.keyboard.press("Escape");
  await expect(editor(page)).toBeHidden();
  await expect(cell).toHaveValue(before);
  await expect(cell).toBeFocused();
  await page.waitForTimeout(600);
  await expect(page.getByText("Saved", { exact: true })).toBeHidden();
});

test("a condition is built by picking, and text and rows follow each other", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/supplies/form");
  await page.getByLabel("Project: shown when", { exact: true }).click();
  const box = editor(page).getByRole("textbox", { name: "Project: shown when" });
  await editor(page).getByRole("button", { name: "As rows" }).click();
  await editor(page).getByLabel("Row 1: what").selectOption("Total");
  await editor(page).getByLabel("Row 1: how").selectOption("is more than");
  await editor(page).getByLabel("Row 1: value").fill("lots");
  await expect(editor(page).getByText("Total is held against a number, for example 500.")).toBeVisible();
  await editor(page).getByLabel("Row 1: value").fill("500");
  await expect(box).toHaveText("Total > 500");
  await editor(page).getByRole("button", { name: "Add a row" }).click();
  await editor(page).getByLabel("Row 2: what").selectOption("Urgent");
  await expect(box).toHaveText("Total > 500 and Urgent");
  await editor(page).getByLabel("How the rows go together").selectOption("any");
  await expect(box).toHaveText("Total > 500 or Urgent");
  await accessible(page);
  // The other way round: what is typed shows as rows, or says that it cannot.
  await box.fill('contains(Reason, "frost")');
  await expect(editor(page).getByLabel("Row 1: what")).toHaveValue("Reason");
  await expect(editor(page).getByLabel("Row 1: how")).toHaveValue("contains");
  await expect(editor(page).getByLabel("Row 1: value")).toHaveValue("frost");
  await box.fill("sum(Items.Quantity) > 5");
  await expect(editor(page).getByText("This formula says more than rows can; it stays text.")).toBeVisible();
  // Leaving by the mouse keeps it.
  await page.getByRole("heading", { name: "Conservation supplies" }).click();
  await expect(page.getByLabel("Project: shown when", { exact: true })).toHaveValue(
    "sum(Items.Quantity) > 5",
  );
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("Project: shown when", { exact: true })).toHaveValue("");
});

test("a text with values in it is written with the same help", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/supplies/about");
  const text = page.getByRole("dialog", { name: "Text editor" });
  const box = text.getByRole("textbox", { name: "Title of a request" });
  await expect(async () => {
    await page.getByLabel("Title of a request").click({ timeout: 500 });
    await expect(box).toBeFocused({ timeout: 1500 });
  }).toPass();
  const before = (await box.textContent())!;
  await page.keyboard.press("Control+a");
  // In prose an apostrophe stays alone and nothing is offered; a brace brings the list.
  await page.keyboard.type("Somebody's order, Tot");
  await expect(text.getByRole("option")).toHaveCount(0);
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Backspace");
  await page.keyboard.type("{");
  await expect(page.getByRole("option", { name: /^Total/ })).toContainText("a number");
  await page.keyboard.type("Tot");
  await page.keyboard.press("Enter");
  await expect(box).toHaveText("Somebody's order, {Total}");
  await page.keyboard.press("End");
  await page.keyboard.type(" by {Requester.nam");
  await page.keyboard.press("Escape");
  await expect(text.getByText('Did you mean "name"?')).toBeVisible();
  await page.keyboard.press("Control+.");
  await expect(box).toHaveText("Somebody's order, {Total} by {Requester.name}");
  await expect(text.getByRole("status")).toHaveText(
    /^For “.*”: Somebody's order, [0-9.]+ by \p{L}+ \p{L}+$/u,
  );
  await page.keyboard.press("Alt+w");
  await expect(text.getByRole("table", { name: "Why it comes to this" })).toHaveCount(2);
  await accessible(page);
  await page.keyboard.press("Enter");
  await expect(text).toBeHidden();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  // What is not closed stops a release, and says where.
  await page.getByLabel("Title of a request").fill("Order {Total");
  await page.keyboard.press("Control+Enter");
  await expect(page.getByText('The brace at "{Total" is not closed.').first()).toBeVisible();
  await expect(page.getByText(/^[0-9]+ errors?$/)).toBeVisible();
  // Several lines: Enter is a line, Ctrl Enter keeps.
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page
    .getByRole("button", { name: /^Message:/ })
    .first()
    .click();
  await page.getByLabel("Text", { exact: true }).click();
  const lines = text.getByRole("textbox", { name: "Text" });
  await expect(lines).toBeFocused();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Hello {Requester.name},");
  await page.keyboard.press("Enter");
  await page.keyboard.type("it is done.");
  await expect(text.getByRole("status")).toContainText("it is done.");
  await page.keyboard.press("Control+Enter");
  await expect(text).toBeHidden();
  await expect(page.getByLabel("Text", { exact: true })).toHaveValue("Hello {Requester.name},\nit is done.");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("link", { name: "About" }).click();
  await expect(page.getByLabel("Title of a request")).toHaveValue(before);
});

test("every example of the page of functions runs, and can be changed", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/formulas");
  await expect(page.getByRole("heading", { name: "Formulas" })).toBeVisible();
  expect(await page.locator(".text-brick").count()).toBe(0);
  await accessible(page);
  await page.getByLabel("Search functions").fill("working days");
  await expect(page.getByRole("heading", { name: /^add working days/ })).toBeVisible();
  await expect(page.getByRole("heading", { name: /^sum/ })).toHaveCount(0);
  await page.getByLabel("Search functions").fill("modulo");
  await page.getByLabel("Example of modulo").fill("modulo(-12, 5)");
  await page.keyboard.press("Enter");
  await expect(page.getByText("= 3", { exact: true }).first()).toBeVisible();
  await expect(editor(page)).toBeHidden();
  await page.getByLabel("Search functions").fill("qqq");
  await expect(page.getByText("Nothing is called “qqq”")).toBeVisible();
});

test("records are found by a condition; what cannot be searched for is named, and nothing typed is lost", async ({
  page,
}) => {
  await be(page, "lucia.penrose", "/registers/objects");
  const total = async () =>
    Number(
      /of ([\d\s,.]+) objects/
        .exec((await page.getByText(/ to .* of .* objects/).textContent())!)![1]!
        .replace(/\D/g, ""),
    );
  const all = await total();
  const field = page.getByLabel("Condition", { exact: true });
  await field.click();
  await editor(page).getByRole("textbox").fill('Status = "on show" and Insured value > 1000');
  await editor(page).getByRole("textbox").press("Enter");
  await page.waitForURL(/where=/);
  await expect.poll(total).toBeLessThan(all);
  for (const row of await page
    .getByRole("row")
    .filter({ has: page.getByRole("cell") })
    .all())
    await expect(row).toContainText("on show");
  await field.fill("sqrt(Insured value) > 3");
  await editor(page).getByRole("textbox").press("Enter");
  await expect(page.getByText(/"sqrt\(Insured value\)" cannot be searched for/)).toBeVisible();
  await expect(field).toHaveValue("sqrt(Insured value) > 3");
  await accessible(page);
  await page.getByRole("button", { name: "Clear" }).click();
  await expect.poll(total).toBe(all);
});
