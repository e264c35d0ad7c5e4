import { expect, test } from "@playwright/test";
import { accessible, be, closeOver, focusOn, newProcess } from "./people";

test("a register is made, its columns and a rule set up, and its records kept by whoever looks after it", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/registers");
  await page.getByRole("button", { name: "New register" }).click();
  await page.getByLabel("What it is called").fill("Ladders");
  await page.getByLabel("One record is called").fill("ladder");
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("heading", { name: "Columns of Ladders" })).toBeVisible();

  // Two columns and a rule, by keyboard from what is focused.
  await page.getByRole("button", { name: "Add a column" }).press("Enter");
  await page.getByLabel("Name of the column").last().fill("State");
  await page.getByLabel("Kind of State").selectOption("choice");
  await page.getByLabel("Choices, one a line").fill("sound\nbroken");
  await page.getByRole("button", { name: "Add a column" }).press("Enter");
  await page.getByLabel("Name of the column").last().fill("Rungs");
  await page.getByLabel("Kind of Rungs").selectOption("number");
  await page.getByRole("button", { name: "Add a rule" }).press("Enter");
  await expect(page.getByText("Say when the rule holds", { exact: false })).toBeVisible();
  await page.getByLabel("Condition of rule 1").click();
  await page.keyboard.type('State = "broken" and Rungs = null');
  await page.keyboard.press("Enter");
  await page.getByLabel("What rule 1 says").fill("A broken ladder says how many rungs it has left.");
  await accessible(page);
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Ladders is changed.")).toBeVisible();

  // A record: the rule refuses it, nothing typed is lost, then it is kept.
  await page.goto("/registers/ladders");
  await page.getByRole("link", { name: "New ladder" }).click();
  await page.getByLabel("Name").fill("Loft ladder");
  await page.getByLabel("State").selectOption("broken");
  await page.getByRole("button", { name: "Add this ladder" }).click();
  await expect(page.getByText("A broken ladder says how many rungs it has left.")).toBeVisible();
  await expect(page.getByRole("status").filter({ hasText: "Kept." })).toBeVisible();
  await page.reload();
  await expect(page.getByText("This is what you had typed before.", { exact: false })).toBeVisible();
  await page.getByLabel("Rungs").fill("7");
  await page.getByRole("button", { name: "Add this ladder" }).click();
  await expect(page.getByRole("heading", { name: "Loft ladder" })).toBeVisible();
  await accessible(page);

  // A second; then a cell by keyboard, and one column of both.
  await page.goto("/registers/ladders/new");
  await page.getByLabel("Name").fill("Step ladder");
  await page.getByRole("button", { name: "Add this ladder" }).click();
  await expect(page.getByRole("heading", { name: "Step ladder" })).toBeVisible();
  await page.goto("/registers/ladders");
  const cell = page.locator('[data-at="0 2"]');
  await focusOn(page.locator('[data-at="0 0"]'));
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await expect(cell).toBeFocused();
  await page.keyboard.press("Enter");
  await page.getByLabel("Rungs of Loft ladder").fill("5");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Loft ladder: Rungs is kept.")).toBeVisible();
  await expect(cell).toHaveText("5");
  await page.getByLabel("Choose all of this page").check();
  await page.getByLabel("Set which column").selectOption("Rungs");
  await page.getByLabel("Rungs of all that are chosen").fill("9");
  await page.getByRole("button", { name: "Change 2" }).click();
  await expect(page.getByText("2 changed.")).toBeVisible();
  await expect(cell).toHaveText("9");
  await accessible(page);

  // One change is put back, and a record goes.
  await page.getByRole("link", { name: "Loft ladder" }).click();
  await page
    .getByRole("button", { name: /^Put back/ })
    .first()
    .click();
  await expect(page.getByText("It is as it was before that change.")).toBeVisible();
  await expect(page.getByRole("definition").filter({ hasText: /^5$/ })).toBeVisible();
  await page.getByRole("button", { name: "Remove…" }).click();
  await page.getByRole("button", { name: "Remove this ladder" }).click();
  await expect(page).toHaveURL(/\/registers\/ladders$/);
  await expect(page.getByRole("link", { name: "Loft ladder" })).toHaveCount(0);
});

test("an object that goes into treatment starts Gallery works, which can be paused", async ({ page }) => {
  await be(page, "sorcha.lind", "/registers/objects?is.status=in%20store");
  const first = page.locator('[data-at="0 0"] a');
  const name = (await first.textContent())!;
  await first.click();
  await page.getByRole("link", { name: "Change", exact: true }).click();
  await page.getByLabel("Status").selectOption("in treatment");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText("The object is changed.")).toBeVisible();
  await be(page, "katya.brody", "/desk");
  const task = page.getByRole("link", { name: new RegExp(name.replaceAll(".", "\\.")) });
  await expect(task).toBeVisible({ timeout: 60_000 });
  await task.click();
  await expect(page.getByText("Gallery works", { exact: false }).first()).toBeVisible();

  await be(page, "sorcha.lind", "/workshop/gallery-works/about");
  await expect(page.getByRole("heading", { name: "How its starts fare" })).toBeVisible();
  await page.getByRole("button", { name: "Pause, and catch up later" }).press("Enter");
  await expect(page.getByText("taken up when it goes on", { exact: false })).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Let it go on" }).press("Enter");
  await expect(page.getByRole("button", { name: "Pause, and catch up later" })).toBeVisible();
});

test("a start by a date is set up in a sentence, and says what is missing", async ({ page }) => {
  await newProcess(page, "Dust round", "DUSTY", ["Why"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page.getByRole("button", { name: "Also let…" }).press("Enter");
  await page.getByRole("menuitem", { name: "it start when a date of a record comes near" }).press("Enter");
  await expect(
    page.getByText("Say of which register a date starts it.", { exact: false }).first(),
  ).toBeVisible();
  const chip = page.getByRole("button", { name: /^Which date starts it/ });
  await chip.press("Enter");
  await page.getByLabel("A record of").selectOption("Objects");
  await page.getByLabel("by its").selectOption("Next check");
  await page.getByLabel("How many before or after it", { exact: false }).fill("14");
  await page.keyboard.press("Tab");
  await page.getByLabel("What is counted").selectOption("working days");
  await page.getByLabel("At which time").fill("06:30");
  await closeOver(page, chip);
  await expect(chip).toContainText("14 working days before Next check of Objects, at 06:30");
  await page.getByRole("button", { name: /^What it fills in/ }).press("Enter");
  await page.getByLabel("Fill in a field").selectOption("Why");
  await expect(
    page.getByText("What Why begins with").or(page.getByLabel("What Why begins with")).first(),
  ).toBeVisible();
  await page.keyboard.press("Escape");
  await accessible(page);
});
