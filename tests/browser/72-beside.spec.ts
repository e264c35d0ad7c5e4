import { expect, test, type Page } from "@playwright/test";
import { accessible, askForKey, be, focusOn, pick } from "./people";

const REQUESTER = "lucia.penrose";
const MANAGER = "fintan.galloway";

/** Opens somebody's task of a request from their desk. */
async function open(page: Page, person: string, number: string) {
  await be(page, person);
  await page.getByRole("link", { name: new RegExp(number) }).click();
  await page.waitForURL(new RegExp(`/desk/${number}/`));
  await expect(page.locator("#note")).toBeEditable();
}

test("who made the request is asked something by the keyboard, answers from their desk, and the limit goes on", async ({
  page,
}) => {
  const number = await askForKey(page, REQUESTER, "Cold room");
  await open(page, MANAGER, number);
  await page.locator("#note").fill("Not sure yet");
  await focusOn(page.getByRole("button", { name: "Ask somebody…" }));
  await page.keyboard.press("Enter");
  await expect(page.getByText("The limit stands still until they answer.")).toBeVisible();
  await accessible(page);
  await focusOn(page.getByRole("textbox", { name: "What you want to know" }));
  await page.keyboard.type("Which shelf is it, and who goes with you?");
  await focusOn(page.getByRole("button", { name: "Ask", exact: true }));
  await page.keyboard.press("Enter");
  const asked = page.getByRole("region", { name: "Asked beside it" });
  await expect(asked.getByText("Not answered yet.")).toBeVisible();
  await expect(page.getByText(/^The limit stands still since/)).toBeVisible();
  // What was typed of the answer is still there.
  await expect(page.locator("#note")).toHaveValue("Not sure yet");
  await accessible(page);

  await open(page, REQUESTER, number);
  await expect(page.getByText("Which shelf is it, and who goes with you?").first()).toBeVisible();
  await accessible(page);
  await focusOn(page.getByRole("button", { name: "Answer", exact: true }));
  await page.keyboard.press("Enter");
  await expect(page.getByText("Write what you say first; then press once more.")).toBeVisible();
  await page.keyboard.type("Shelf four; Ruben Aske goes with me.");
  await focusOn(page.getByRole("button", { name: "Answer", exact: true }));
  await page.keyboard.press("Enter");
  await page.waitForURL(/\/desk$/);

  await open(page, MANAGER, number);
  await expect(asked.getByText("Shelf four; Ruben Aske goes with me.")).toBeVisible();
  await expect(page.getByText(/^The limit stands still since/)).toHaveCount(0);
  await expect(page.getByText(/its limit goes on, until/)).toBeVisible();
  await page.getByRole("button", { name: "Approve" }).click();
  await page.waitForURL(/\/desk$/);
});

test("a task is handed over to be had back, with what the other would answer", async ({ page }) => {
  const number = await askForKey(page, REQUESTER, "Archive vault");
  await open(page, MANAGER, number);
  await page.getByRole("button", { name: "Hand over…" }).click();
  await pick(page, "To", "Greta Halloran");
  await page.getByRole("checkbox", { name: "I want it back, and answer then" }).check();
  await page.getByRole("button", { name: "Hand over to Greta Halloran" }).click();
  await page.waitForURL(/\/desk$/);

  await open(page, "greta.halloran", number);
  await expect(page.getByText(/^Fintan Galloway wants this back/)).toBeVisible();
  await accessible(page);
  await page.locator("#note").fill("Nothing speaks against it.");
  await page.getByRole("button", { name: "Approve" }).click();
  await page.waitForURL(/\/desk$/);

  await open(page, MANAGER, number);
  await expect(page.getByRole("status").filter({ hasText: "Greta Halloran would answer" })).toContainText(
    "Nothing speaks against it.",
  );
  // A colleague is asked for advice, and their answer is not needed any more once it is decided.
  await page.getByRole("button", { name: "Ask somebody…" }).click();
  await page.getByRole("radio", { name: "A colleague, for advice" }).check();
  await expect(page.getByText("The limit stays as it is.")).toBeVisible();
  await pick(page, "Colleague", "Dov Merrick");
  await page.getByRole("textbox", { name: "What you want to know" }).fill("Is the vault free?");
  await page.getByRole("button", { name: "Ask", exact: true }).click();
  await expect(page.getByText("Not answered yet.")).toBeVisible();
  await page.getByRole("button", { name: "Approve" }).click();
  await page.waitForURL(/\/desk$/);
  await be(page, "dov.merrick");
  await expect(page.getByRole("link", { name: new RegExp(number) })).toHaveCount(0);
});

test("several orders are chosen on the desk by the keyboard, and answered at once", async ({ page }) => {
  const numbers: string[] = [];
  for (const project of ["Banners of the guilds", "Flags of the guilds"]) {
    await be(page, "piet.hanlon", "/ask/supplies");
    await page.getByLabel(/^Project/).fill(project);
    await page.getByRole("button", { name: "Add a line" }).click();
    await pick(page, "Item, line 1", "Magnifier");
    await page.getByLabel("Quantity, line 1").fill("4");
    await page.getByLabel(/^Reason/).fill("They travel in January.");
    await page.getByRole("button", { name: "Send request" }).click();
    await page.waitForURL(/\/requests\/SUP-/);
    numbers.push(page.url().split("/").at(-1)!);
  }
  await be(page, "sorcha.lind");
  await expect(page.getByText("to choose several")).toBeVisible();
  const box = (number: string) => page.getByRole("checkbox", { name: `Choose ${number}` });
  for (const number of numbers) {
    await focusOn(page.getByRole("link", { name: new RegExp(number) }));
    await page.keyboard.press("Space");
    await expect(box(number)).toBeChecked();
  }
  await expect(page.getByRole("heading", { name: "2 chosen: Budget holder decides" })).toBeVisible();
  await accessible(page);
  await focusOn(page.getByRole("button", { name: "Decline" }));
  await page.keyboard.press("Enter");
  await expect(page.getByText(/“Decline” needs a note that says why/)).toBeVisible();
  await page.keyboard.type("Not before the new year.");
  await focusOn(page.getByRole("button", { name: "Decline" }));
  await page.keyboard.press("Enter");
  await expect(page.getByText("2 answered: Decline.")).toBeVisible();
  for (const number of numbers) await expect(box(number)).toHaveCount(0);
  await be(page, "piet.hanlon", `/requests/${numbers[1]}`);
  await expect(page.getByText("Not before the new year.").first()).toBeVisible();
});

test("an owner says which limit stands still and which step is answered at once", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/supplies/route");
  const undo = page.getByRole("button", { name: "Undo" });
  await focusOn(page.getByRole("button", { name: /^Limit: / }).first());
  await page.keyboard.press("Enter");
  const still = page.getByRole("combobox", { name: "It stands still" });
  await expect(still).toHaveValue("");
  await still.selectOption({ label: "while anybody is asked something" });
  await expect(page.getByText(/standing still while anybody is asked something/)).toBeVisible();
  await page.keyboard.press("Escape");
  await focusOn(page.getByRole("button", { name: /^Who: / }).first());
  await page.keyboard.press("Enter");
  const atOnce = page.getByRole("checkbox", { name: "Several may be answered at once, from the desk" });
  await expect(atOnce).toBeChecked();
  await focusOn(atOnce);
  await page.keyboard.press("Space");
  await expect(atOnce).not.toBeChecked();
  await page.keyboard.press("Escape");
  await accessible(page);
  while (await undo.isEnabled()) await undo.click();
});
