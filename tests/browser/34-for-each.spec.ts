import { expect, test } from "@playwright/test";
import { accessible, be, closeOver, focusOn, newProcess, pick } from "./people";

test("a For each is built by keyboard, each line is asked about by itself, and what rounds leave behind is read", async ({
  page,
}) => {
  await newProcess(page, "Wall plan", "WALL", ["Things", "Thing", "Summary"]);
  await page.getByLabel("Kind of Things").selectOption("lines");
  await page.getByLabel("Kind of Summary").selectOption("long text");
  // A line's column stands under it.
  await focusOn(page.getByLabel("Name of Thing", { exact: true }));
  await page.keyboard.press("Alt+ArrowRight");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();

  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: /^1, start/ }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("for each");
  await page.keyboard.press("Enter");
  const each = page.getByRole("group", { name: /^2, For each/ });
  await expect(each).toBeVisible();
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Hung");
  await page.keyboard.press("Enter");
  await focusOn(each.getByRole("button", { name: /^What it goes through/ }));
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: /^Goes through/ }).selectOption("lines");
  await expect(page.getByRole("combobox", { name: /^Line items/ })).toHaveValue(/.+/);
  const called = page.getByLabel("Each is called");
  await called.fill("Picture");
  await called.press("Enter");
  const at = page.getByRole("combobox", { name: "How many rounds at a time" });
  await at.selectOption("some");
  const most = page.getByLabel("At most how many at a time, up to 5000");
  await most.fill("0");
  await most.press("Enter");
  await expect(most).toHaveAttribute("aria-invalid", "true");
  await most.fill("2");
  await most.press("Enter");
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(each).toContainText("each line of Things as Picture, at most 2 at a time");

  // Its rounds hold steps like any list; there is one, which cannot be taken away.
  const round = page.getByRole("group", { name: /^2a, / });
  await expect(round).toContainText("each Picture");
  await focusOn(round);
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("decide");
  await page.keyboard.press("Enter");
  const decide = page.getByRole("group", { name: /^2a\.1, Decide/ });
  await expect(decide).toBeVisible();
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Hang it");
  await page.keyboard.press("Enter");
  const who = decide.getByRole("button", { name: /^Who/ }).first();
  await who.click();
  await page.getByRole("combobox", { name: "How people are found" }).selectOption("person");
  await pick(page, /Person/, "Sorcha");
  await closeOver(page, who);
  await focusOn(page.getByRole("group", { name: /^2a\.1b, / }));
  // A declined picture does not end the request.
  await focusOn(page.getByRole("group", { name: /^2a\.1b\.1, Finish/ }));
  await page.keyboard.press("Delete");
  await expect(page.getByRole("group", { name: /^2a\.1b\.1, Finish/ })).toHaveCount(0);

  await each.getByRole("button", { name: /^What it goes through/ }).click();
  const leaves = page.getByLabel("Each leaves behind");
  await leaves.fill('Picture.Thing + ": " + Hang it.answer');
  await leaves.press("Enter");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Add a step after 2", exact: true }).click();
  await page.getByLabel("Kind of step").fill("work out");
  await page.keyboard.press("Enter");
  const work = page.getByRole("group", { name: /^3, Work out/ });
  await work.getByRole("button", { name: /^Values/ }).click();
  await page.getByRole("button", { name: "Set another value" }).click();
  await page.getByLabel("Value 1: field").selectOption({ label: "Summary" });
  const value = page.getByLabel("Value 1", { exact: true });
  await value.fill('string join(Hung, "; ")');
  await value.press("Enter");
  await page.keyboard.press("Escape");
  await accessible(page);
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  await be(page, "lucia.penrose", "/ask/wall-plan");
  for (const [i, text] of ["Dusk", "Fog", "Gale"].entries()) {
    await page.getByRole("button", { name: "Add a line" }).click();
    await page.getByLabel(`Thing, line ${i + 1}`).fill(text);
  }
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/WALL-/);
  const number = page.url().split("/").at(-1)!;
  await expect(page.getByText("0 of 3 done")).toBeVisible();

  // Two wait; the third comes when one of them is answered.
  await be(page, "sorcha.lind");
  const mine = page.getByRole("link", { name: new RegExp(number) });
  await expect(mine).toHaveCount(2);
  await accessible(page);
  for (const [text, answer] of [
    ["Picture 2 of 3: Fog", "Decline"],
    ["Picture 1 of 3: Dusk", "Approve"],
    ["Picture 3 of 3: Gale", "Approve"],
  ] as const) {
    await page.getByRole("link", { name: new RegExp(text) }).click();
    await expect(page.getByText(text).first()).toBeVisible();
    await expect(page.getByRole("row", { name: /this one is asked about/ })).toContainText(text.slice(-4));
    if (answer === "Decline") await page.getByPlaceholder(/^Note/).fill("Too dark");
    await page.getByRole("button", { name: answer }).click();
    await expect(page).toHaveURL(/\/desk$/);
  }
  await be(page, "lucia.penrose", `/requests/${number}`);
  await expect(page.getByText("3 of 3 done")).toBeVisible();
  await expect(page.locator("[data-field]", { hasText: /^Summary/ })).toContainText(
    "Dusk: Approve; Fog: Decline; Gale: Approve",
  );
  await page.getByText("Picture 2 of 3: Fog, Decline").click();
  await expect(page.getByText("Picture 2 of 3: Fog ·").first()).toBeVisible();
  await accessible(page);
});
