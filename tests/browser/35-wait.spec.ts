import { expect, test } from "@playwright/test";
import { accessible, addStep, be, closeOver, focusOn, newProcess } from "./people";

test("a Wait and a Jump back to it are built by keyboard, a request sleeps there, and its owner lets it go on", async ({
  page,
}) => {
  await newProcess(page, "Quiet time", "QUIET", ["Opening", "Remarks"]);
  await page.getByLabel("Kind of Opening").selectOption("date");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();

  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("wait");
  await page.keyboard.press("Enter");
  const wait = page.getByRole("group", { name: /^2, Wait/ });
  await expect(wait).toContainText("for 1 working day");
  await focusOn(wait.getByRole("button", { name: /^What is waited for/ }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Length 1: amount").fill("90");
  await page.getByLabel("Length 1: amount").press("Enter");
  await page.getByLabel("Length 1: unit").selectOption("days");
  await page.getByRole("button", { name: "Or for something else, if that comes first" }).click();
  await page.getByLabel("What 2 is").selectOption("date");
  const until = page.getByLabel("Until 2", { exact: true });
  await until.fill("Remarks");
  await until.press("Enter");
  await expect(page.getByText(/This comes to text; a date is needed here/).first()).toBeVisible();
  await until.fill("Opening");
  await until.press("Enter");
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(wait).toContainText("for 90 days, or until Opening");

  // Where it was put off meanwhile, it sleeps again.
  await page.getByRole("button", { name: "Add a step after 2", exact: true }).click();
  await page.getByLabel("Kind of step").fill("jump");
  await page.keyboard.press("Enter");
  const jump = page.getByRole("group", { name: /^3, Jump/ });
  await jump.getByRole("button", { name: /^Go on with/ }).click();
  await page.getByRole("list", { name: "Steps" }).getByRole("button", { name: "2 Pause" }).click();
  await jump.getByRole("button", { name: /^When/ }).click();
  const when = page.getByLabel("When it goes there");
  await when.fill("Opening > today()");
  await when.press("Enter");
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(jump).toContainText("2 Pause");
  await expect(jump).toContainText("when Opening > today()");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  // With no date the length counts; nobody has anything to do meanwhile.
  await be(page, "lucia.penrose", "/ask/quiet-time");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/QUIET-/);
  const number = page.url().split("/").at(-1)!;
  await expect(page.getByText(/, sleeps until /)).toBeVisible();
  await expect(page.getByText("under way", { exact: true })).toBeVisible();
  await accessible(page);

  await be(page, "tobias.marrin", `/requests/${number}`);
  await page.getByRole("button", { name: /^Look after it/ }).click();
  await expect(page.getByText(/^Pause: sleeps until /)).toBeVisible();
  await page.getByRole("menuitem", { name: "Go on without waiting…" }).click();
  await page.getByRole("dialog").getByRole("textbox").fill("The wing opens early.");
  await accessible(page);
  await page
    .getByRole("dialog")
    .getByRole("button", { name: /^Go on/ })
    .click();
  await expect(page.getByText("The wing opens early.")).toBeVisible();
  await expect(page.getByText("finished: Done").or(page.getByText("Finished: Done")).first()).toBeVisible();
});

test("a Wait until something is so is built by keyboard, refuses the clock, and shows what it waits for", async ({
  page,
}) => {
  await newProcess(page, "Courier", "COUR", ["Van", "Outcome"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await addStep(page, "wait");
  const wait = page.getByRole("group", { name: /^2, Wait/ });
  const what = wait.getByRole("button", { name: /^What is waited for/ });
  await focusOn(what);
  await page.keyboard.press("Enter");
  await page.getByLabel("What 1 is").selectOption("holds");
  const until = page.getByLabel("Until 1", { exact: true });
  await until.fill("Van = string(today())");
  await until.press("Enter");
  await expect(
    page.getByText(/Nothing tells when a condition over the clock comes true/).first(),
  ).toBeVisible();
  await until.fill('Van = "here"');
  await until.press("Enter");
  await accessible(page);
  await closeOver(page, what);
  await expect(wait).toContainText('until Van = "here"');
  await expect(wait).toContainText("waits for as long as this does not hold");
  await what.click();
  await page.getByRole("button", { name: "Or for something else, if that comes first" }).click();
  await page.getByLabel("Length 2: amount").fill("3");
  await page.getByLabel("Length 2: amount").press("Enter");
  await closeOver(page, what);
  await expect(wait).toContainText('until Van = "here", or for 3 working days');
  // What is done where it does not come in time has a way of its own.
  await what.click();
  await page.getByRole("combobox", { name: /^If it does not come/ }).selectOption("way");
  await closeOver(page, what);
  const late = page.getByRole("group", { name: /^2a/ });
  await expect(late).toContainText("when it does not come");
  await focusOn(late);
  await addStep(page, "tell");
  await expect(page.getByRole("group", { name: /^2a\.1, Tell/ })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("group", { name: /^2a\.1, Tell/ })).toBeHidden();
  await focusOn(wait);
  await addStep(page, "work out");
  const work = page.getByRole("group", { name: /^3, Work out/ });
  await work.getByRole("button", { name: /^Values/ }).click();
  await page.getByRole("button", { name: "Set another value" }).click();
  await page.getByLabel("Value 1: field").selectOption({ label: "Outcome" });
  await page.getByLabel("Value 1", { exact: true }).fill('if Pause.came then "in time" else "too late"');
  await page.getByLabel("Value 1", { exact: true }).press("Enter");
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await be(page, "lucia.penrose", "/ask/courier");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/COUR-/);
  const number = page.url().split("/").at(-1)!;
  await expect(page.getByText(/waits until it is so, no later than /)).toBeVisible();
  await accessible(page);
  await be(page, "tobias.marrin", `/requests/${number}`);
  await page.getByRole("button", { name: /^Look after it/ }).click();
  await expect(page.getByText(/^Pause: waits until it is so, no later than /)).toBeVisible();
  await page.keyboard.press("Escape");
  await be(page, "lucia.penrose", "/ask/courier");
  await page.getByLabel("Van").fill("here");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/COUR-/);
  await expect(page.getByText("in time").first()).toBeVisible();
  await expect(page.getByText(/what it waits for was so already/).first()).toBeVisible();
});
