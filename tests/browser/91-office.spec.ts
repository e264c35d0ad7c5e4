import { expect, test, type Page } from "@playwright/test";
import { accessible, be, focusOn, pick } from "./people";

const GOOD = "lantern orchard ferry nine";

/** The address of the link that the page shows once. */
async function linkOn(page: Page): Promise<string> {
  const said = page.locator("code");
  await expect(said).toContainText("/set-password?token=");
  return (await said.textContent())!;
}

/** What is said went wrong; the page server has an alert of its own, which says where one is. */
const alertOn = (page: Page) => page.getByRole("main").getByRole("alert");

test("the office adds somebody, who sets a password by a link, looks at their sessions and leaves again", async ({
  page,
  browser,
  baseURL,
}) => {
  await be(page, "tobias.marrin", "/office");
  await accessible(page);
  await page.getByRole("link", { name: "Add a person" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Una Quirke");
  await page.getByLabel("E-mail").fill("una.quirke");
  await page.getByLabel("Job").fill("Porter");
  await pick(page, "Manager", "Dermot Vane");
  await page.getByRole("button", { name: "Add this person" }).click();
  await expect(alertOn(page)).toContainText("E-mail");
  // What was typed is still there.
  await expect(page.getByLabel("Job")).toHaveValue("Porter");
  await page.getByLabel("E-mail").fill("Una.Quirke@quillhaven.example");
  await page.getByRole("button", { name: "Add this person" }).click();
  await page.waitForURL(/\/office\/people\/una\.quirke$/);
  await accessible(page);
  await page.getByRole("button", { name: "Make a link to set a password" }).click();
  const link = await linkOn(page);

  const una = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await una.goto(link);
  await expect(una.getByRole("heading", { name: "Welcome, Una Quirke" })).toBeVisible();
  await accessible(una);
  const set = async (password: string) => {
    await una.getByLabel("New password").fill(password);
    await una.getByLabel("Once more").fill(password);
    await una.getByRole("button", { name: "Set it and sign in" }).click();
  };
  await set("password2026!");
  await expect(alertOn(una)).toContainText("first that are tried");
  await set(GOOD);
  await una.waitForURL(/\/desk/);
  await una.goto(link);
  await expect(una.getByRole("heading", { name: "This link no longer works" })).toBeVisible();
  await una.goto("/you");
  await expect(una.getByRole("row", { name: /here/ })).toBeVisible();
  await accessible(una);

  // A second browser signs in by the password, and is ended from the first.
  const other = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await other.goto("/sign-in");
  await other.getByLabel("E-mail").fill("UNA.quirke@quillhaven.example");
  await other.getByLabel("Password").fill(GOOD);
  await other.getByRole("button", { name: "Sign in" }).click();
  await other.waitForURL(/\/desk/);
  await una.reload();
  await una.getByRole("button", { name: /^End / }).first().click();
  await expect(una.getByRole("button", { name: /^End / })).toHaveCount(0);
  await other.goto("/desk");
  await expect(other).toHaveURL(/\/sign-in/);

  // Away, entered by herself, is seen in Office.
  await una.getByLabel("From").fill("2099-03-02");
  await una.getByLabel("Last day").fill("2099-03-06");
  await una.getByRole("button", { name: "Enter", exact: true }).click();
  await expect(una.getByText("nobody answers meanwhile")).toBeVisible();

  await page.getByRole("button", { name: "Close this account…" }).click();
  await expect(page.getByRole("dialog")).toContainText("0 open tasks");
  await page.getByRole("button", { name: "Close the account" }).click();
  await expect(page.getByText("account closed")).toBeVisible();
  await una.goto("/desk");
  await expect(una).toHaveURL(/\/sign-in/);

  await page.goto("/office/log");
  await expect(page.getByRole("row", { name: /closed the account of Una Quirke/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /set a password by a link/ })).toBeVisible();
  await accessible(page);
  const csv = await page.request.get("/api/log?kind=person+closed");
  expect(csv.headers()["content-type"]).toContain("text/csv");
  expect(await csv.text()).toContain("Una Quirke");
});

test("who is not of the office sees people, and none of its keeping", async ({ page }) => {
  await be(page, "lucia.penrose", "/office");
  await expect(page.getByRole("link", { name: "Eamon Stack" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Add a person" })).toHaveCount(0);
  await expect(page.getByRole("link", { name: "Log", exact: true })).toHaveCount(0);
  await page.goto("/office/people/eamon.stack");
  await expect(page.getByRole("heading", { name: "Eamon Stack" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Close this account…" })).toHaveCount(0);
  for (const path of ["/office/log", "/office/jobs", "/office/people/new", "/office/people/import"]) {
    await page.goto(path);
    await expect(page.getByRole("link", { name: /^Go to/ })).toBeVisible();
  }
  expect((await page.request.get("/api/log")).status()).toBe(403);
});

test("a sheet of people is looked at, then brought in; groups and calendars are kept", async ({ page }) => {
  await be(page, "tobias.marrin", "/office/people/import");
  await page
    .getByRole("textbox")
    .fill(
      "Name,E-mail,Job,Manager\nOta Brill,ota.brill@quillhaven.example,Porter,Dermot Vane\nNobody,none,,\n",
    );
  await page.getByRole("button", { name: "Show what will change" }).click();
  await expect(page.getByText("1 person is added, 0 changed, 0 already so, 1 refused.")).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Bring these in" }).click();
  await page.waitForURL(/\/office$/);
  await expect(page.getByRole("link", { name: "Ota Brill" })).toBeVisible();

  await page.goto("/office/groups");
  await page.getByRole("button", { name: "Add a group" }).click();
  await page.getByLabel("Name").fill("Spare hands");
  await pick(page, "Members", "Ota Brill");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("region", { name: "Spare hands" })).toContainText("Ota Brill");
  await accessible(page);

  await page.goto("/office/calendars");
  await page.getByRole("button", { name: "Add a working calendar" }).click();
  await page.getByLabel("Name").fill("Night shift");
  await page.getByRole("textbox", { name: "Monday" }).fill("half past nine");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(alertOn(page)).toContainText("Monday");
  await page.getByRole("textbox", { name: "Monday" }).fill("22-6");
  await page.getByLabel("Holidays, one date a line").fill("2099-12-25");
  await page.getByRole("button", { name: "Keep" }).click();
  const shift = page.getByRole("region", { name: "Night shift" });
  await expect(shift).toContainText("22:00-06:00");
  await accessible(page);
  // Public holidays are those of a country, and stay so in years to come.
  await page.getByRole("button", { name: "Change Night shift" }).click();
  await expect(page.getByRole("option", { name: "Ireland" })).toBeAttached();
  await page.getByLabel("Country").selectOption("Ireland");
  await expect(page.getByRole("checkbox", { name: /^St. Patrick/ })).toBeChecked();
  await page.getByRole("checkbox", { name: /^Good Friday/ }).uncheck();
  await accessible(page);
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(shift).toContainText("Closed on public holidays of Ireland, but for Good Friday");
});

test("owners change with the word of one who stays, and the process tells of it", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/supplies/about");
  await page.getByRole("button", { name: "Change the owners…" }).click();
  await pick(page, "Add an owner", "Sorcha Lind");
  await page.getByRole("button", { name: "Change the owners", exact: true }).click();
  await expect(
    page.getByText("Owners changed from Tobias Marrin to Tobias Marrin, Sorcha Lind"),
  ).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Change the owners…" }).click();
  await page.getByRole("button", { name: "Take Sorcha Lind out" }).click();
  await page.getByRole("button", { name: "Change the owners", exact: true }).click();
  await expect(
    page.getByText("Owners changed from Tobias Marrin, Sorcha Lind to Tobias Marrin"),
  ).toBeVisible();
});

test("whoever is to have a process as a whole is asked where they can see it, and then owns it", async ({
  page,
}) => {
  await be(page, "maeve.dunlea", "/workshop/object-loan/about");
  await page.getByRole("button", { name: "Change the owners…" }).click();
  await pick(page, "Add an owner", "Ines Corrigan");
  await page.getByRole("button", { name: "Take Maeve Dunlea out" }).click();
  await page.getByRole("button", { name: "Change the owners", exact: true }).click();
  await expect(page.getByText("It holds once one of these agrees: Ines Corrigan.")).toBeVisible();
  await be(page, "ines.corrigan", "/you");
  await expect(page.getByRole("region", { name: "Asked of you" })).toContainText(
    "Maeve Dunlea proposes Ines Corrigan",
  );
  await accessible(page);
  await page.getByRole("button", { name: "Agree, for Object loan", exact: true }).click();
  await expect(page.getByRole("region", { name: "Asked of you" })).toHaveCount(0);
  // As it was, for whoever comes after.
  await page.goto("/workshop/object-loan/about");
  await page.getByRole("button", { name: "Change the owners…" }).click();
  await pick(page, "Add an owner", "Maeve Dunlea");
  await page.getByRole("button", { name: "Change the owners", exact: true }).click();
  await expect(page.getByText("Owners changed from Ines Corrigan to")).toBeVisible();
});

test("who manages whom is seen as a tree, folded and opened by the keyboard", async ({ page }) => {
  await be(page, "tobias.marrin", "/office");
  await page.getByRole("link", { name: "Who manages whom" }).click();
  await page.waitForURL(/\/office\/managers$/);
  await expect(page.getByRole("heading", { name: "Processes that would ask nobody" })).toBeVisible();
  await accessible(page);
  const top = page.getByRole("region", { name: "Who manages whom" }).locator("details").first();
  await expect(top).toHaveAttribute("open", "");
  await focusOn(top.locator("summary").first());
  await page.keyboard.press("Enter");
  await expect(top).not.toHaveAttribute("open", "");
});
