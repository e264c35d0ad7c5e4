import { expect, test } from "@playwright/test";
import { day } from "../day";
import { accessible, be, focusOn, pick } from "./people";

test("whoever is away has another answer in a duty, keeps what is open, and has again what went there", async ({
  page,
}) => {
  await be(page, "maeve.dunlea", "/you");
  await page.getByLabel("From", { exact: true }).fill(day(0));
  // Other journeys move the clock on.
  await page.getByLabel("Last day").fill(day(700));
  await page.getByLabel("Somebody else in a duty").selectOption("Registrar");
  await page.getByRole("radio", { name: "stays, and waits" }).click();
  // What is named and not chosen is said, and nothing is entered by it.
  await page.getByRole("button", { name: "Enter", exact: true }).click();
  await expect(page.getByText("Choose who answers in each duty that is named, or remove it.")).toBeVisible();
  await pick(page, "Who answers as Registrar", "Orla Fennimore");
  await accessible(page);
  await page.getByRole("button", { name: "Enter", exact: true }).click();
  const away = page.getByRole("region", { name: "Away" });
  const entered = away.getByText(
    /Orla Fennimore as Registrar, nobody else answers meanwhile; what was open waits/,
  );
  await expect(entered).toBeVisible();

  await be(page, "ines.corrigan", "/ask/new-borrower");
  await pick(page, /^New borrower/, "Velmar City Museum");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/BORR-/);
  const number = page.url().split("/").at(-1)!;
  // A worker draws it up; then whoever answers as Registrar is asked.
  const waiting = page.getByText(/Orla Fennimore/).first();
  await expect(waiting).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/^All of it: until/)).toBeVisible();

  await be(page, "maeve.dunlea");
  const covered = page.getByRole("region", { name: "With whoever covers for you" });
  await expect(covered.getByText(number)).toBeVisible();
  await accessible(page);
  const back = covered.getByRole("button", { name: `Take back ${number}` });
  await focusOn(back);
  await page.keyboard.press("Enter");
  // While it stands that they keep what is open, they may have it; else it would go away again at once.
  await expect(page.getByRole("link", { name: new RegExp(number) })).toBeVisible();
  await expect(covered).toHaveCount(0);
  await page.goto("/you");
  await away.getByRole("button", { name: /^Remove / }).click();
  await expect(entered).toHaveCount(0);
});

test("an owner sees whom an address finds, and by when all of it is to be done", async ({ page }) => {
  await be(page, "maeve.dunlea", "/workshop/new-borrower/route");
  const who = page.getByRole("button", { name: /^Who: whoever has the address/ });
  await focusOn(who);
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("How people are found").first()).toHaveValue("outside");
  // By the sample's values, not by what an account is called by.
  await expect(page.getByText(/^For the sample: /).first()).not.toContainText("visitor.");
  await accessible(page);
  await page.keyboard.press("Escape");

  await page.goto("/workshop/new-borrower/about");
  const limit = page.getByRole("button", { name: /^Limit for the whole request/ });
  await expect(limit).toContainText("20 working days for the whole request, ladder of 1");
  await focusOn(limit);
  await page.keyboard.press("Enter");
  const what = page.getByLabel("Rung 1: what happens");
  await expect(what.getByRole("option", { name: "hand over" })).toBeAttached();
  // Of one step alone.
  await expect(what.getByRole("option", { name: "ask somebody else too" })).toHaveCount(0);
  await accessible(page);
  await page.getByLabel("Length: amount").fill("15");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Escape");
  await expect(limit).toContainText("15 working days");
  await page.keyboard.press("Control+z");
  await expect(limit).toContainText("20 working days");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});
