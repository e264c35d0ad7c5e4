import { expect, test } from "@playwright/test";
import { accessible, addStep, be, closeOver, focusOn, newProcess, pick } from "./people";

test("ways go by the value of a field, and back to conditions; a Together goes on with the first", async ({
  page,
}) => {
  await newProcess(page, "Hall hire", "HALL", ["Kind of event", "Remarks"]);
  await page.getByLabel("Kind of Kind of event").selectOption("choice");
  await page.getByLabel("More about Kind of event").click();
  const choices = page.getByLabel("Choices of Kind of event");
  await choices.fill('Concert\nTalk\nThe "other" kind');
  await choices.blur();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();

  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await addStep(page, "choose");
  const choose = page.getByRole("group", { name: /^2, Choose/ });
  await expect(choose).toContainText("the first way whose condition holds");
  await focusOn(choose.getByRole("button", { name: /^Goes by/ }));
  await page.keyboard.press("Enter");
  await page
    .getByRole("combobox", { name: /^The way is chosen by/ })
    .selectOption({ label: "the value of Kind of event" });
  await expect(choose).toContainText("by the value of Kind of event");
  // Each choice has a way, before the one for all others.
  for (const [i, value] of ["Concert", "Talk", 'The "other" kind'].entries())
    await expect(page.getByRole("group", { name: new RegExp(`^2${"abc"[i]}, `) })).toContainText(value);
  await expect(page.getByRole("group", { name: /^2d, / })).toContainText("for all others");
  await accessible(page);
  // One undo takes all of it back, and again.
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("group", { name: /^2c, / })).toHaveCount(0);
  await page.keyboard.press("Control+Shift+z");
  await expect(page.getByRole("group", { name: /^2d, / })).toBeVisible();
  await choose.getByRole("button", { name: /^Goes by/ }).click();
  await page.getByRole("combobox", { name: /^The way is chosen by/ }).selectOption("");
  await expect(page.getByLabel('The "other" kind: when')).toHaveValue(
    'Kind of event = "The \\"other\\" kind"',
  );
  await choose.getByRole("button", { name: /^Goes by/ }).click();
  await page
    .getByRole("combobox", { name: /^The way is chosen by/ })
    .selectOption({ label: "the value of Kind of event" });
  await expect(page.getByRole("group", { name: /^2e, / })).toHaveCount(0);

  // A way may be for another value, and be called otherwise.
  await page.getByRole("group", { name: /^2a, / }).getByRole("button", { name: "way: Concert" }).click();
  await page.getByLabel("Concert: value of Kind of event").selectOption("Talk");
  await page.getByLabel("Talk: value of Kind of event").selectOption("Concert");
  const called = page.getByLabel("Name of the way");
  await called.fill("Music");
  await called.press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("group", { name: /^2a, / })).toContainText("when it is “Concert”");

  // For music somebody is asked for something that the route does not wait for.
  await focusOn(page.getByRole("group", { name: /^2a, / }));
  await addStep(page, "complete");
  const errand = page.getByRole("group", { name: /^2a\.1, Complete/ });
  await expect(errand).toContainText("the route waits for it");
  const who = errand.getByRole("button", { name: /^Who/ }).first();
  await who.click();
  await page.getByRole("combobox", { name: "How people are found" }).selectOption("person");
  await pick(page, /Person/, "Piet");
  await closeOver(page, who);
  await focusOn(errand.getByRole("button", { name: /^Whether it is waited for/ }));
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: /^While this is done/ }).selectOption("stays");
  await expect(errand).toContainText("the route goes on meanwhile, and it stays after the end");
  await accessible(page);

  // Talks are looked at by two at once; the first of them suffices.
  await focusOn(page.getByRole("group", { name: /^2b, / }));
  await addStep(page, "together");
  const together = page.getByRole("group", { name: /^2b\.1, Together/ });
  await expect(together).toContainText("all are waited for");
  for (const [branch, person] of [
    ["a", "Sorcha"],
    ["b", "Piet"],
  ] as const) {
    await focusOn(page.getByRole("group", { name: new RegExp(`^2b\\.1${branch}, `) }));
    await addStep(page, "complete");
    const task = page.getByRole("group", { name: new RegExp(`^2b\\.1${branch}\\.1, Complete`) });
    const asked = task.getByRole("button", { name: /^Who/ }).first();
    await asked.click();
    await page.getByRole("combobox", { name: "How people are found" }).selectOption("person");
    await pick(page, /Person/, person);
    await closeOver(page, asked);
  }
  await focusOn(together.getByRole("button", { name: /^When it goes on/ }));
  await page.keyboard.press("Enter");
  const goesOn = page.getByRole("combobox", { name: /^Goes on/ });
  await goesOn.selectOption("until");
  await goesOn.selectOption("some");
  const many = page.getByLabel("How many of 2 branches");
  await many.fill("0");
  await many.press("Enter");
  await expect(many).toHaveAttribute("aria-invalid", "true");
  await many.fill("9");
  await many.press("Enter");
  await expect(page.getByText(/waits for 9 branches and has 2/).first()).toBeVisible();
  await goesOn.selectOption("first");
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(together).toContainText("goes on with the first; the others are called off");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await be(page, "lucia.penrose", "/ask/hall-hire");
  await page.getByLabel("Kind of event").selectOption("Talk");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/HALL-/);
  const number = page.url().split("/").at(-1)!;
  await be(page, "piet.hanlon");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  await page.getByRole("button", { name: "Done", exact: true }).click();
  await be(page, "lucia.penrose", `/requests/${number}`);
  await expect(page.getByText("Finished: Done").first()).toBeVisible();
  await expect(page.getByText("called off").first()).toBeVisible();
  await accessible(page);
  await be(page, "sorcha.lind");
  await expect(page.getByRole("link", { name: new RegExp(number) })).toHaveCount(0);

  // One for music has ended, and is done all the same.
  await be(page, "lucia.penrose", "/ask/hall-hire");
  await page.getByLabel("Kind of event").selectOption("Concert");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/HALL-/);
  const music = page.url().split("/").at(-1)!;
  await expect(page.getByText("Finished: Done").first()).toBeVisible();
  await be(page, "piet.hanlon");
  await page.getByRole("link", { name: new RegExp(music) }).click();
  await expect(page.getByText("This request has ended.")).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Done", exact: true }).click();
  await page.waitForURL(/\/desk/);
  await be(page, "lucia.penrose", `/requests/${music}`);
  await expect(page.getByText("Piet Hanlon answered: Done")).toBeVisible();
});
