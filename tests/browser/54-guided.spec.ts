import { expect, test, type Page } from "@playwright/test";
import { accessible, be, closeOver, newProcess, pick, radio } from "./people";

const heading = (page: Page, name: RegExp) => page.getByRole("heading", { level: 2, name });

test("a guided form is gone through page by page, looked over, sent, and decided on the part that matters", async ({
  page,
}) => {
  await be(page, "lucia.penrose", "/ask/ticketing-terms");
  await expect(heading(page, /Who is it\?.*1 of 4/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Send request" })).toBeHidden();
  // By keyboard: Enter goes on, and stays where something is wrong.
  await page.getByLabel("What is the visitor's name?").fill("Ambrose Tilley");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Telephone number is needed.")).toBeVisible();
  await expect(page.getByLabel("Telephone number")).toBeFocused();
  await accessible(page);
  await page.keyboard.type("021 555 0142");
  await page.keyboard.press("Enter");
  await expect(heading(page, /Which ticket\?.*2 of 4/)).toBeFocused();
  await pick(page, /^Ticket/, "grown-up");
  await page.getByLabel("How many tickets?").fill("20");
  await page.getByLabel("For which day are they?").fill("2027-06-03");
  await expect(page.getByText("280.00").first()).toBeVisible();
  await page.getByRole("button", { name: "Next: What does the visitor want?" }).click();
  await expect(page.getByText("20 × Day ticket, grown-up for Thu 3 Jun 2027")).toBeVisible();
  await page.getByLabel("What is to be done?").selectOption("paid back");
  // A page of its own comes with the answer.
  await expect(heading(page, /What does the visitor want\?.*3 of 5/)).toBeVisible();
  await page.getByRole("button", { name: "Next: How much is paid back?" }).click();
  await page.getByLabel("Why can the visitor not come?").fill("The organiser is ill.");
  // Back and forth, and over a reload, nothing is lost.
  await page.getByRole("button", { name: "Back" }).click();
  await page.getByRole("button", { name: "Next: How much is paid back?" }).click();
  await expect(page.getByLabel("Why can the visitor not come?")).toHaveValue("The organiser is ill.");
  await expect(page.getByText("Kept.")).toBeVisible();
  await page.reload();
  await expect(heading(page, /Who is it\?/)).toBeVisible();
  for (let i = 0; i < 3; i++) await page.getByRole("button", { name: /^Next:/ }).click();
  await expect(page.getByText("224.00")).toBeVisible();
  await page.getByRole("button", { name: "Next: Has the visitor agreed?" }).click();
  await radio(page, /agrees/, "Yes").check();
  await page.getByLabel("How long did this take?").fill("1:15");
  await page.getByRole("button", { name: "Look it over" }).click();
  await expect(heading(page, /Look it over/)).toBeFocused();
  await expect(page.getByText("1 hour 15 minutes")).toBeVisible();
  await expect(page.getByText("80 %")).toBeVisible();
  await expect(page.getByRole("region", { name: "What happens next" })).toContainText("Then");
  await expect(page.getByRole("region", { name: "To which day?" })).toBeHidden();
  await accessible(page);
  await page.getByRole("button", { name: "Change Who is it?" }).click();
  await page.getByLabel("What is the visitor's name?").fill("Ambrose Tilley junior");
  for (let i = 0; i < 4; i++) await page.getByRole("button", { name: /^Next:/ }).click();
  await page.getByRole("button", { name: "Look it over" }).click();
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/sent\/TERMS-/);
  // What its owner says then, and the way on: to the next visitor, or to the request.
  await expect(
    page.getByText(/noted under TERMS-\d+\. Tell Ambrose Tilley junior this number/),
  ).toBeVisible();
  await expect(page.getByRole("link", { name: "Go on with: Ticketing terms" })).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "See the request" }).click();
  await page.waitForURL(/\/requests\/TERMS-/);
  const number = page.url().split("/").at(-1)!;
  await expect(page.getByText("Ambrose Tilley junior").first()).toBeVisible();
  await expect(page.getByText("The visitor has heard the terms and agrees")).toBeVisible();

  // Whether the head of Finance is away hangs on the day it is.
  await expect(page.getByText(/Patrick Iverson\)? has it/).first()).toBeVisible();
  const away = (await page.getByText(/\(for Patrick Iverson\) has it/).count()) > 0;
  // Whoever decides sees what it is about first, and nothing else of it.
  await be(page, away ? "rosalind.meath" : "patrick.iverson");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  await expect(heading(page, /What is to be paid back/)).toBeVisible();
  const fields = page.locator("[data-field]");
  await expect(fields.first()).toContainText("Paid back");
  await expect(page.locator('[data-field="agreed"]')).toHaveCount(0);
  await accessible(page);
  await page.getByRole("button", { name: "Agree", exact: true }).click();
  await page.waitForURL(/\/desk/);
});

test("on a phone a guided form fits, and its owner says how each form is shown", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await be(page, "piet.hanlon", "/ask/ticketing-terms");
  const fits = () => page.evaluate(() => document.documentElement.scrollWidth <= innerWidth);
  await page.getByLabel("What is the visitor's name?").fill("Greta Osk");
  await page.getByLabel("E-mail address").fill("greta.osk@elsewhere.example");
  expect(await fits()).toBe(true);
  await page.getByRole("button", { name: /^Next:/ }).click();
  await pick(page, /^Ticket/, "Evening");
  await page.getByLabel("How many tickets?").fill("2");
  await page.getByLabel("For which day are they?").fill("2027-06-03");
  await page.getByRole("button", { name: /^Next:/ }).click();
  await page.getByLabel("What is to be done?").selectOption("given to somebody else");
  await page.getByRole("button", { name: "Next: To whom?" }).click();
  await page.getByLabel("Name of the new holder").fill("Una Quirke");
  await page.getByLabel("Street and number").fill("12 Quay Street");
  expect(await fits()).toBe(true);
  await page.getByRole("button", { name: /^Next:/ }).click();
  await expect(page.getByText("Where are the tickets sent? lacks its town.")).toBeVisible();
  await page.getByLabel("Town").fill("Cork");
  await page.getByRole("button", { name: /^Next:/ }).click();
  await radio(page, /agrees/, "Yes").check();
  await page.getByRole("button", { name: "Look it over" }).click();
  await expect(page.getByText("12 Quay Street, Cork")).toBeVisible();
  await expect(page.getByText("becomes")).toBeHidden();
  expect(await fits()).toBe(true);
  await accessible(page);

  await page.setViewportSize({ width: 1280, height: 800 });
  await newProcess(page, "Wish list", "WISH", ["Wish", "Price", "Reason"]);
  await page.getByLabel("More about Wish").click();
  await page.getByLabel("What people read in place of Wish").fill("What do you wish for?");
  await page.keyboard.press("Enter");
  const live = page.getByRole("region", { name: "Live form" });
  await expect(live.getByText("What do you wish for?")).toBeVisible();
  const how = page.getByRole("button", { name: /^Shown here/ });
  await how.click();
  await page.getByLabel("The form is shown").selectOption("guided");
  await page.getByLabel("only these, in this order").check();
  await page.getByRole("button", { name: "Leave out Reason" }).click();
  await page.getByRole("button", { name: "Price further up" }).click();
  await accessible(page);
  await closeOver(page, how);
  await expect(live.getByRole("heading", { name: /To begin/ })).toBeVisible();
  await expect(live.getByText("Reason")).toBeHidden();
  await expect(live.locator("[data-field]").first()).toContainText("Price");
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(live.getByText("Reason")).toBeVisible();

  // What comes once it is sent.
  await page.getByRole("link", { name: "Route sheet" }).click();
  const chip = page.getByRole("button", { name: /^Once it is sent: they see their request/ });
  await chip.click();
  await page.getByLabel("and may go on").selectOption("with another form");
  await page.getByLabel("the form of").selectOption("Store key");
  await page.getByLabel("A field of the next form to fill in").fill("Purpose");
  await page.keyboard.press("Enter");
  await accessible(page);
  await page.getByLabel("What Purpose of the next form begins with").fill("Wish");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Once it is sent: go on with Store key" })).toBeVisible();
});
