import { expect, test } from "@playwright/test";
import { accessible, addStep, be, closeOver, focusOn, newProcess } from "./people";

test("what was found is what can be picked, and only the columns that are read are fetched", async ({
  page,
}) => {
  await newProcess(page, "Bench for a talk", "BENCH", ["Lowest fee", "Chosen piece"]);
  await page.getByLabel("Kind of Chosen piece").selectOption("look-up");
  await page.getByLabel("More about Chosen piece").click();
  await page.getByLabel("Looks in").selectOption("objects");
  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await addStep(page, "find");
  const find = page.getByRole("group", { name: /^2, Find/ });
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Dear pieces");
  await page.keyboard.press("Enter");
  const what = find.getByRole("button", { name: /^What is found/ });
  await focusOn(what);
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: /^Register/ }).selectOption("objects");
  const where = page.getByLabel("Which records are meant");
  await where.fill('Insured value > Lowest fee and Status = "on show"');
  await where.press("Enter");
  const most = page.getByLabel("How many at most, up to 5000");
  await most.fill("3");
  await most.press("Enter");
  await expect(
    page.getByText("Accession number, Title, Status, Insured value", { exact: true }),
  ).toBeVisible();
  await page.getByRole("combobox", { name: /^Columns/ }).selectOption("all");
  await expect(page.getByText(/^\d+ columns: Accession number, Title/)).toBeVisible();
  await accessible(page);
  await page.getByRole("combobox", { name: /^Columns/ }).selectOption("read");
  await closeOver(page, what);

  await focusOn(find);
  await addStep(page, "complete");
  const task = page.getByRole("group", { name: /^3, Complete/ });
  await expect(task).toBeVisible();
  // Nothing can be offered in a field that is not filled in at the step.
  await expect(task).not.toContainText("choosing");
  await page.getByRole("link", { name: "Form sheet" }).click();
  await page.getByRole("button", { name: "Who sees what" }).click();
  await page.getByRole("button", { name: /^Chosen piece at Task: see/ }).click();
  await page.getByRole("button", { name: /^Chosen piece at Task: hide/ }).click();
  await page.getByRole("button", { name: /^Chosen piece at Start: edit/ }).click();
  await page.getByRole("link", { name: "Route sheet" }).click();
  const chip = task.getByRole("button", { name: /^What can be chosen/ });
  await expect(chip).toContainText("any Chosen piece");
  await focusOn(chip);
  await page.keyboard.press("Enter");
  const of = page.getByLabel("What can be chosen as Chosen piece", { exact: true });
  await of.fill("Dear pieces");
  await of.press("Enter");
  await accessible(page);
  await closeOver(page, chip);
  await expect(chip).toContainText("Chosen piece from Dear pieces");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await be(page, "lucia.penrose", "/ask/bench-for-a-talk");
  await page.getByLabel("Lowest fee").fill("1000");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/BENCH-/);
  await page.getByRole("link", { name: "Answer" }).click();
  await page.waitForURL(/\/desk\/BENCH-/);
  const piece = page.getByRole("combobox", { name: "Chosen piece" });
  await focusOn(piece);
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("option")).toHaveCount(3);
  await accessible(page);
  const first = (await page.getByRole("option").first().textContent())!;
  await page.keyboard.press("Enter");
  await expect(piece).toContainText(first);
  await page.getByRole("button", { name: "Done" }).click();
  await page.waitForURL((u) => !u.pathname.startsWith("/desk/BENCH"));
});
