import { expect, test, type Page } from "@playwright/test";
import { accessible, be, focusOn } from "./people";

const limitOf = (page: Page, text: RegExp) => page.getByRole("button", { name: text });
const undoAll = async (page: Page) => {
  const undo = page.getByRole("button", { name: "Undo" });
  while (await undo.isEnabled()) await undo.click();
};

test("a limit is written by the keyboard: until a day, at most so long, and what it comes to for the samples", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/workshop/store-key/route");
  const chip = limitOf(page, /^Limit: 1 working day, ladder of 2/).first();
  await focusOn(chip);
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Asked now, the limit falls on/)).toBeVisible();
  await focusOn(page.getByRole("button", { name: "Another length by rule" }));
  await page.keyboard.press("Enter");
  const kind = page.getByRole("combobox", { name: "Length by rule 1: how it is said" });
  await focusOn(kind);
  await page.keyboard.type("until a day");
  await expect(kind).toHaveValue("day");
  const formula = page.getByRole("textbox", { name: "Length by rule 1: formula" });
  await focusOn(formula);
  await page.keyboard.type('Until - duration("P1D")');
  await page.keyboard.press("Tab");
  const samples = page.getByRole("list", { name: "Limits of other samples" });
  await expect(samples.getByText(/“Dov, no training yet”:/)).toBeVisible();
  await focusOn(page.getByRole("checkbox", { name: "at most" }));
  await page.keyboard.press("Space");
  await expect(page.getByRole("textbox", { name: "Length by rule 1: at most: amount" })).toHaveValue("2");
  await focusOn(page.getByRole("checkbox", { name: "only where" }).first());
  await page.keyboard.press("Space");
  await focusOn(page.getByRole("textbox", { name: "Rung 1: only where" }));
  await page.keyboard.type("Exception");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Escape");
  await expect(limitOf(page, /^Limit: 1 working day, by rule, ladder of 2/).first()).toBeVisible();
  await expect(page.getByText("No problems")).toBeVisible();
  await undoAll(page);
  await expect(limitOf(page, /^Limit: 1 working day, by rule/)).toHaveCount(0);
});

test("a ladder is kept by name, used by two limits, changed once for both, and taken away without losing its rungs", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/workshop/store-key/route");
  const ladder = page.getByRole("combobox", { name: "Ladder it goes by" });
  const name = page.getByRole("textbox", { name: "Name of the ladder" });
  await focusOn(limitOf(page, /^Limit: \d working days, ladder of 3/).first());
  await page.keyboard.press("Enter");
  // A rung of it gives an answer of that step alone.
  await expect(page.getByRole("button", { name: "Keep these rungs by name" })).toBeDisabled();
  await page.keyboard.press("Escape");
  await focusOn(limitOf(page, /^Limit: 1 working day, ladder of 2/).last());
  await page.keyboard.press("Enter");
  await focusOn(page.getByRole("button", { name: "Keep these rungs by name" }));
  await page.keyboard.press("Enter");
  await expect(name).toHaveValue("Ladder of Hand over the key");
  await focusOn(name);
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Remind, then up");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  const list = page.getByRole("list", { name: "Ladders kept by name" });
  await expect(list.getByText(/used by \d+ Hand over the key/)).toBeVisible();

  await focusOn(limitOf(page, /^Limit: \d working days, ladder of 3/).first());
  await page.keyboard.press("Enter");
  // The limit itself has the focus once it is open.
  await expect(page.getByRole("textbox", { name: "Length: amount" })).toBeFocused();
  await ladder.selectOption({ label: "“Remind, then up”" });
  await expect(name).toHaveValue("Remind, then up");
  await expect(
    page.getByText(/changed for all that go by it: \d+ Manager decides, \d+ Hand over the key/),
  ).toBeVisible();
  await focusOn(page.getByRole("button", { name: "Add a rung" }));
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await expect(
    list.getByText(/^3 rungs · used by \d+ Manager decides, \d+ Hand over the key$/),
  ).toBeVisible();
  await accessible(page);

  await focusOn(list.getByRole("button", { name: "Take away the ladder Remind, then up" }));
  await page.keyboard.press("Enter");
  await expect(list.getByText("Remind, then up")).toHaveCount(0);
  await expect(limitOf(page, /^Limit: 1 working day, ladder of 3/)).toHaveCount(1);
  await expect(limitOf(page, /^Limit: \d working days, ladder of 3/)).toHaveCount(1);
  await undoAll(page);
  await expect(limitOf(page, /^Limit: 1 working day, ladder of 2/).first()).toBeVisible();
});

test("a ladder kept for all processes is taken by another, which keeps its own", async ({ page }) => {
  await be(page, "tobias.marrin", "/office/letters");
  await expect(page.getByRole("region", { name: "Remind, then the manager" })).toContainText(
    "In Object loan, Store key.",
  );
  await accessible(page);
  await page.goto("/workshop/ticketing-terms/route");
  await focusOn(page.getByRole("button", { name: /^Limit: / }).first());
  await page.keyboard.press("Enter");
  const ladder = page.getByRole("combobox", { name: "Ladder it goes by" });
  await ladder.selectOption({ label: "“Remind, then the manager”" });
  await expect(page.getByRole("textbox", { name: "Name of the ladder" })).toHaveValue(
    "Remind, then the manager",
  );
  await expect(page.getByRole("button", { name: "Keep it as it is for all processes, too" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("list", { name: "Ladders kept by name" })).toContainText("2 rungs · used by");
  await undoAll(page);
});

test("a rung is drawn along the strip of days: what it would be is said, and kept where it is let go", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/workshop/store-key/route");
  await limitOf(page, /^Limit: \d working days, ladder of 3/)
    .first()
    .click();
  const amount = page.getByRole("textbox", { name: "Rung 1: amount" });
  await expect(amount).toHaveValue("4");
  const mark = page.locator('[data-mark="remind"]');
  const box = (await mark.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x - 60, box.y + box.height / 2, { steps: 4 });
  await expect(page.getByText(/^Rung 1: [\d.]+ working hours before the limit$/)).toBeVisible();
  await expect(amount).toHaveValue("4");
  await page.mouse.up();
  await expect(amount).not.toHaveValue("4");
  expect(Number(await amount.inputValue())).toBeGreaterThan(4);
  await page.keyboard.press("Escape");
  await undoAll(page);
});

test("the loan of objects goes by one ladder at three steps, and the key is due back on its day", async ({
  page,
}) => {
  await be(page, "maeve.dunlea", "/workshop/object-loan/route");
  await expect(
    page.getByText(/used by \d+ Registry checks, .* Conservation decides, .* Security decides/),
  ).toBeVisible();
  await be(page, "tobias.marrin", "/workshop/store-key/route");
  await limitOf(page, /^Limit: 10 working days, by rule/).click();
  await expect(page.getByRole("textbox", { name: "Length by rule 1: formula" })).toHaveValue("Until");
});
