import { expect, test } from "@playwright/test";
import { accessible, addStep, be, closeOver, focusOn, newProcess } from "./people";

test("another process is started by a step, built by keyboard, waited for, and read; rows are worked out under a heading", async ({
  page,
}) => {
  // What is started: says that others may, what is handed in and back.
  await newProcess(page, "Frame order", "FRAME", ["Wanted", "Verdict"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page.getByRole("button", { name: "Also let…" }).click();
  await page.getByRole("menuitem", { name: "steps of other processes start one" }).click();
  await expect(page.getByLabel("Which processes may start one")).toHaveValue("any");
  await accessible(page);
  await page.getByRole("link", { name: "Form sheet" }).click();
  for (const [field, hand] of [
    ["Wanted", "in"],
    ["Verdict", "out"],
  ] as const) {
    await page.getByLabel(`More about ${field}`).click();
    await page.getByLabel(`How ${field} is handed over`).selectOption(hand);
  }
  await page.getByRole("link", { name: "Route sheet" }).click();
  const start = page.getByRole("group", { name: /^1, start/ });
  await expect(start).toContainText("Handed its values by");
  await focusOn(start);
  await addStep(page, "work out");
  const price = page.getByRole("group", { name: /^2, Work out/ });
  const values = price.getByRole("button", { name: /^Values/ });
  await values.click();
  await page.getByRole("button", { name: "Keep a value" }).click();
  await page.getByLabel("Own value 1: name").fill("Words");
  await page.getByLabel("Own value 1: name").press("Enter");
  await page.getByLabel("Own value 1", { exact: true }).fill('Wanted + ", 40 euros"');
  await page.getByLabel("Own value 1", { exact: true }).press("Enter");
  await accessible(page);
  await closeOver(page, values);
  await expect(price).toContainText('Work out.Words = Wanted + ", 40 euros"');
  await focusOn(price);
  await addStep(page, "work out");
  const second = page.getByRole("group", { name: /^3, Work out/ });
  const more = second.getByRole("button", { name: /^Values/ });
  await more.click();
  await page.getByRole("button", { name: "Set another value" }).click();
  await page.getByLabel("Value 1: field").selectOption({ label: "Verdict" });
  await page.getByLabel("Value 1", { exact: true }).fill("Work out.Words");
  await page.getByLabel("Value 1", { exact: true }).press("Enter");
  await closeOver(page, more);
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  // What starts it.
  await newProcess(page, "Picture rail", "RAIL", ["Scaffold", "Outcome"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(start);
  await addStep(page, "part");
  const part = page.getByRole("group", { name: /^Part, Part/ });
  await expect(part).toBeVisible();
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("The frame");
  await page.keyboard.press("Enter");
  const heading = page.getByRole("group", { name: /^Part, The frame/ });
  await focusOn(heading);
  await addStep(page, "start request");
  const asks = page.getByRole("group", { name: /^2, Start request/ });
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Frame");
  await page.keyboard.press("Enter");
  const process = asks.getByRole("button", { name: /^Process/ });
  await focusOn(process);
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: "Which process" }).selectOption({ label: "Frame order" });
  await accessible(page);
  await closeOver(page, process);
  const asker = asks.getByRole("button", { name: /^Who asks/ });
  await focusOn(asker);
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: "Who asks for the other request" }).selectOption("process");
  await expect(page.getByText("Nobody has it in their list")).toBeVisible();
  await accessible(page);
  await page.getByRole("combobox", { name: "Who asks for the other request" }).selectOption("asker");
  await closeOver(page, asker);
  await expect(asks).toContainText("asked for by whoever asked");
  const over = asks.getByRole("button", { name: /^What is handed over/ });
  await focusOn(over);
  await page.keyboard.press("Enter");
  const given = page.getByLabel("Wanted is given", { exact: true });
  await given.fill('"For " + Scaffold');
  await given.press("Enter");
  await closeOver(page, over);
  await expect(asks).toContainText("afterwards there is Frame.number, Frame.result, Frame.Verdict");
  await focusOn(asks);
  await addStep(page, "work out");
  const work = page.getByRole("group", { name: /^3, Work out/ });
  const answer = work.getByRole("button", { name: /^Values/ });
  await answer.click();
  await page.getByRole("button", { name: "Set another value" }).click();
  await page.getByLabel("Value 1: field").selectOption({ label: "Outcome" });
  await page.getByLabel("Value 1", { exact: true }).fill("Frame.Verdict");
  await page.getByLabel("Value 1", { exact: true }).press("Enter");
  await closeOver(page, answer);
  // It folds, and opens again where somebody goes to what stands in it.
  await focusOn(heading);
  await page.keyboard.press("ArrowLeft");
  await expect(asks).toBeHidden();
  await expect(heading).toContainText("2 steps");
  await accessible(page);
  await page.keyboard.press("ArrowRight");
  await expect(asks).toBeVisible();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await be(page, "lucia.penrose", "/ask/picture-rail");
  await page.getByLabel("Scaffold").fill("the harbour");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/RAIL-/);
  await expect(page.getByText("For the harbour, 40 euros").first()).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole("heading", { name: "Other requests" })).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: /^FRAME-/ }).click();
  await page.waitForURL(/\/requests\/FRAME-/);
  await expect(page.getByText("The request was started by another one")).toBeVisible();
  await expect(page.getByRole("link", { name: /^RAIL-/ })).toBeVisible();
  await accessible(page);
});
