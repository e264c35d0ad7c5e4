import { expect, test } from "@playwright/test";
import { accessible, addStep, be, closeOver, focusOn, newProcedure, newProcess, pick } from "./people";

test("a procedure is made, handed to by keyboard, gone through by its people, and told of where it breaks", async ({
  page,
}) => {
  await newProcedure(page, "Safety look", ["What", "Verdict"]);
  for (const [field, hand] of [
    ["What", "in"],
    ["Verdict", "out"],
  ] as const) {
    await page.getByLabel(`More about ${field}`).click();
    await page.getByLabel(`How ${field} is handed over`).selectOption(hand);
  }
  await accessible(page);
  await page.getByLabel("What: needed when").fill("true");
  await page.getByLabel("What: needed when").press("Enter");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Route sheet" }).click();
  await expect(page.getByRole("group", { name: /^1, start/ })).toContainText("a process hands over What");
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await addStep(page, "complete");
  const look = page.getByRole("group", { name: /^2, Complete/ });
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Look at it");
  await page.keyboard.press("Enter");
  const who = look.getByRole("button", { name: /^Who/ }).first();
  await who.click();
  await page.getByRole("combobox", { name: "How people are found" }).selectOption("person");
  await pick(page, /Person/, "Piet");
  await closeOver(page, who);
  // Whoever looks writes the verdict.
  await page.getByRole("link", { name: "Form sheet" }).click();
  await page.getByRole("button", { name: "Who sees what" }).click();
  await expect(async () => {
    await page.getByRole("button", { name: /^Verdict at Look at it/ }).click();
    await expect(page.getByRole("button", { name: /^Verdict at Look at it: edit/ })).toBeVisible({
      timeout: 500,
    });
  }).toPass();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await newProcess(page, "Stage build", "STAGE", ["Scaffold", "Outcome"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await addStep(page, "hand to");
  const hand = page.getByRole("group", { name: /^2, Hand to/ });
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Safety");
  await page.keyboard.press("Enter");
  const procedure = hand.getByRole("button", { name: /^Procedure/ });
  await focusOn(procedure);
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: "Which procedure" }).selectOption({ label: "Safety look, 1.0.0" });
  await closeOver(page, procedure);
  await expect(hand).toContainText("“What” is needed by the procedure");
  const over = hand.getByRole("button", { name: /^What is handed over/ });
  await focusOn(over);
  await page.keyboard.press("Enter");
  const given = page.getByLabel("What is given", { exact: true });
  await given.fill('"The " + Scaffold');
  await given.press("Enter");
  await accessible(page);
  await closeOver(page, over);
  await expect(hand).toContainText('What: "The " + Scaffold');
  await expect(hand).toContainText("afterwards there is Safety.result, Safety.Verdict");
  // The map draws what is in it where somebody wants to see that.
  const drawing = page.getByRole("region", { name: "Drawing of the route" });
  const draws = drawing.getByRole("button", { name: /^Draw the .*steps? of Safety$/ });
  await draws.press("Enter");
  await expect(drawing.getByRole("button", { name: /^Fold away the .* of Safety$/ })).toBeVisible();
  await accessible(page);
  await focusOn(hand);
  await addStep(page, "work out");
  const work = page.getByRole("group", { name: /^3, Work out/ });
  await work.getByRole("button", { name: /^Values/ }).click();
  await page.getByRole("button", { name: "Set another value" }).click();
  await page.getByLabel("Value 1: field").selectOption({ label: "Outcome" });
  await page.getByLabel("Value 1", { exact: true }).fill("Safety.Verdict");
  await page.getByLabel("Value 1", { exact: true }).press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await be(page, "lucia.penrose", "/ask/stage-build");
  await page.getByLabel("Scaffold").fill("tower");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/STAGE-/);
  const number = page.url().split("/").at(-1)!;
  // On the path it is one step that opens.
  await expect(page.getByText("one step of it")).toBeVisible();
  await expect(page.getByText("Piet Hanlon has it.")).toBeVisible();
  await accessible(page);
  await be(page, "piet.hanlon");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  await expect(page.getByText("Safety", { exact: true }).first()).toBeVisible();
  await expect(page.getByText("The tower")).toBeVisible();
  await expect(page.getByRole("heading", { name: "Stage build" })).toBeVisible();
  await page.getByLabel("Verdict").fill("needs a rail");
  await accessible(page);
  await page.getByRole("button", { name: "Done", exact: true }).click();
  await page.waitForURL(/\/desk/);
  await be(page, "lucia.penrose", `/requests/${number}`);
  await expect(page.getByText("needs a rail").first()).toBeVisible();
  await expect(page.getByText("Finished: Done").first()).toBeVisible();

  // A release that hands nothing back says beforehand who reads it.
  await be(page, "tobias.marrin", "/workshop/safety-look/form");
  await page.getByLabel("More about Verdict").click();
  await page.getByLabel("How Verdict is handed over").selectOption("");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Release…" }).click();
  await expect(page.getByText(/“Verdict” is handed back no more/).first()).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "About" }).click();
  await expect(page.getByRole("heading", { name: "Where it is used" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Stage build" }).first()).toBeVisible();
  await accessible(page);
});
