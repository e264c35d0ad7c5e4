import { expect, test } from "@playwright/test";
import { accessible, addStep, be, closeOver, focusOn, newProcess } from "./people";

test("a Find is built by keyboard, released, and what it finds is read by the steps behind it", async ({
  page,
}) => {
  await newProcess(page, "Shelf list", "SHELF", ["Lowest fee", "Titles", "Number of things"]);
  await expect(page.getByLabel("Kind of Number of things")).toHaveValue("whole number");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();

  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("find");
  await page.keyboard.press("Enter");
  const find = page.getByRole("group", { name: /^2, Find/ });
  await expect(find).toBeVisible();
  await expect(find.getByText("Error: Say in which register it looks.")).toBeHidden();
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Dear things");
  await page.keyboard.press("Enter");
  await focusOn(find.getByRole("button", { name: /^What is found/ }));
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: /^Register/ }).selectOption("objects");
  const where = page.getByLabel("Which records are meant");
  await where.fill('Insured value > Lowest fee and Status = "on show"');
  await where.press("Enter");
  await page.getByLabel("Sort by another column").selectOption("insured_value");
  await page.getByLabel("Direction of 1").selectOption("down");
  const most = page.getByLabel("How many at most, up to 5000");
  await most.fill("0");
  await most.press("Enter");
  await expect(most).toHaveAttribute("aria-invalid", "true");
  await most.fill("3");
  await most.press("Enter");
  await accessible(page);
  await expect(page.getByText("Keep a sample to see what is found for it.")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(find).toContainText(
    'up to 3 of Objects where Insured value > Lowest fee and Status = "on show", by Insured value, going down',
  );

  // A way of its own for nothing found, which there is one of.
  await find.getByRole("button", { name: /^What is found/ }).click();
  await page.getByRole("combobox", { name: /^If there is none/ }).selectOption("way");
  await page.keyboard.press("Escape");
  const none = page.getByRole("group", { name: /^2a/ });
  await expect(none).toContainText("when nothing is found");
  await focusOn(none);
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("finish");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: /^2a\.1, Finish/ })).toBeVisible();

  // What was found is read by the name of the step.
  await page.getByRole("button", { name: "Add a step after 2", exact: true }).click();
  await page.getByLabel("Kind of step").fill("work out");
  await page.keyboard.press("Enter");
  const work = page.getByRole("group", { name: /^3, Work out/ });
  await work.getByRole("button", { name: /^Values/ }).click();
  for (const [i, name, formula] of [
    [1, "Number of things", "count(Dear things)"],
    [2, "Titles", 'string join(Dear things.Title, "; ")'],
  ] as const) {
    await page.getByRole("button", { name: "Set another value" }).click();
    await page.getByLabel(`Value ${i}: field`).selectOption({ label: name });
    const value = page.getByLabel(`Value ${i}`, { exact: true });
    await value.fill(formula);
    await value.press("Enter");
  }
  await page.keyboard.press("Escape");
  await accessible(page);
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await be(page, "lucia.penrose", "/ask/shelf-list");
  await page.getByLabel("Lowest fee").fill("1000");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/SHELF-/);
  await expect(page.getByText(/^Dear things: found 3 of more: .+/)).toBeVisible();
  await expect(page.locator("[data-field]", { hasText: /^Number of things/ })).toContainText("3");
  await accessible(page);
});

test("people of the office are found by rows that go together in one's own way, and each is asked", async ({
  page,
}) => {
  await newProcess(page, "Roll call", "ROLL", ["Outcome"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await addStep(page, "find");
  const find = page.getByRole("group", { name: /^2, Find/ });
  const what = find.getByRole("button", { name: /^What is found/ });
  await focusOn(what);
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: /^Register/ }).selectOption("@people");
  const where = page.getByLabel("Which records are meant");
  await where.fill('Department = "Registry" and (Site = "Old Ropeworks" or Site = "Harbour Store")');
  await page.getByRole("button", { name: "As rows" }).click();
  const logic = page.getByLabel("How they go together");
  await expect(logic).toHaveValue("1 and (2 or 3)");
  await logic.fill("1 and 2");
  await expect(page.getByText("Row 3 does not stand in it.")).toBeVisible();
  await logic.fill("1 and not (2 or 3)");
  await expect(where).toHaveText(
    'Department = "Registry" and not(Site = "Old Ropeworks" or Site = "Harbour Store")',
  );
  await accessible(page);
  await where.press("Enter");
  await closeOver(page, what);
  await expect(find).toContainText("of the people of the office where Department");
  await focusOn(find);
  await addStep(page, "work out");
  const work = page.getByRole("group", { name: /^3, Work out/ });
  await work.getByRole("button", { name: /^Values/ }).click();
  await page.getByRole("button", { name: "Set another value" }).click();
  await page.getByLabel("Value 1: field").selectOption({ label: "Outcome" });
  await page.getByLabel("Value 1", { exact: true }).fill('string join(Found.name, "; ")');
  await page.getByLabel("Value 1", { exact: true }).press("Enter");
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();
  await be(page, "lucia.penrose", "/ask/roll-call");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/ROLL-/);
  await expect(page.getByText(/Found: found 2/)).toBeVisible();
  await expect(page.getByText(/Ines Corrigan; Maeve Dunlea/).first()).toBeVisible();
  await page.getByText("what was asked").click();
  await expect(page.getByText('Department = "Registry"').first()).toBeVisible();
});
