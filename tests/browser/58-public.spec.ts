import { expect, test, type Browser, type Page } from "@playwright/test";
import { day } from "../day";
import { accessible, be, closeOver, focusOn, newProcess, pick, radio, touchable } from "./people";

const POST = process.env["POST_URL"] ?? "";
const PHONE = { width: 390, height: 844 };
const ADA = "ada.byrne@northgate.example";

/** A page of somebody who has never been here, on a phone. */
async function stranger(browser: Browser): Promise<Page> {
  return (await browser.newContext({ viewport: PHONE })).newPage();
}
const fits = async (page: Page) =>
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width);

/** Opens the newest mail to Ada that says something in its subject, on the page of the stand-in. */
async function mailOf(page: Page, subject: RegExp): Promise<void> {
  await expect(async () => {
    await page.goto(`${POST}/box/${encodeURIComponent(ADA)}`);
    await page.getByRole("link", { name: subject }).first().click({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
}

/** Fills in the public form of Object loan up to its end. */
async function filledIn(page: Page): Promise<void> {
  await pick(page, /^Borrower/, "a");
  await page.getByLabel(/^Exhibition/).fill("Banners of the guilds");
  await page.getByLabel(/^Starts/).fill(day(60));
  await page.getByLabel(/^Ends/).fill(day(120));
  const climate = page.getByLabel(/How the climate is kept/);
  if (await climate.isVisible()) await climate.fill("Logged every hour.");
  await page.getByRole("button", { name: "Next: Objects" }).click();
  await page.getByRole("button", { name: "Add a line" }).click();
  await pick(page, /Object/, "Lakeside");
  await page.getByLabel(/Display/).selectOption("wall");
  await page.getByRole("button", { name: "Next: Transport" }).click();
  await radio(page, /Courier needed/, "No").check();
}

test("its owner opens a form to people outside, who send it without signing in, on a phone and after being offline", async ({
  page,
  browser,
}) => {
  await newProcess(page, "Lanterns of the quay", "LANTERN", ["Which lantern", "Why"]);
  await page.getByRole("link", { name: "Route sheet" }).click();
  await page.getByRole("button", { name: "Also let…" }).click();
  await page.getByRole("menuitem", { name: "people outside send a public form" }).click();
  const starts = page.getByRole("list", { name: "What starts it" });
  await expect(starts).toContainText("Public form at /open/lanterns-of-the-quay");
  await expect(page.getByText(/Say whose form it is/).first()).toBeVisible();
  const whose = starts.getByRole("button", { name: /^Whose form it is/ });
  await whose.click();
  await page.getByRole("textbox", { name: "Whose form it is" }).fill("The harbour office");
  await page.getByRole("textbox", { name: "Whose form it is" }).press("Enter");
  const greeting = page.getByLabel("What is read before the form");
  await greeting.fill("Tell us which lantern is dark.");
  await greeting.blur();
  await accessible(page);
  await closeOver(page, whose);
  await expect(starts).toContainText("The harbour office");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await focusOn(page.getByRole("group", { name: "1, start" }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("wait");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  const out = await stranger(browser);
  await out.goto("/open");
  await out.getByRole("link", { name: "Lanterns of the quay" }).click();
  await expect(out.getByText("Tell us which lantern is dark.")).toBeVisible();
  await expect(out.getByRole("navigation")).toHaveCount(0);
  await out.getByLabel("Your name").fill("Ada Byrne");
  await out.getByLabel("Your e-mail").fill(ADA);
  await out.getByLabel(/^Which lantern/).fill("The one at the north stair");
  await fits(out);
  await touchable(out);
  await accessible(out);
  // What is typed stays with the browser, whatever becomes of the line.
  await out.reload();
  await expect(out.getByText("This is what you had typed before")).toBeVisible();
  await expect(out.getByLabel(/^Which lantern/)).toHaveValue("The one at the north stair");
  await out.context().setOffline(true);
  await out.getByLabel(/^Why/).fill("It is dark since Sunday.");
  await out.getByRole("button", { name: "Send", exact: true }).click();
  await expect(out.getByText(/The server could not be reached/)).toBeVisible();
  await out.context().setOffline(false);
  await out.getByRole("button", { name: "Send", exact: true }).click();
  await out.waitForURL(/\/follow\//);
  await expect(out.getByRole("heading", { name: "Thank you" })).toBeVisible();
  // Without a mailbox nobody is told the link again.
  await expect(out.getByText(/keep its address/)).toBeVisible();
  await expect(out.getByText("It is dark since Sunday.")).toBeVisible();
  await fits(out);
  await accessible(out);
  const link = out.url().replace("?sent=1", "");
  // It was sent; the form is empty again.
  await out.goto("/open/lanterns-of-the-quay");
  await expect(out.getByLabel(/^Which lantern/)).toHaveValue("");

  const number = /LANTERN-\d+/.exec(await (await out.goto(link))!.text())![0];
  await out.getByRole("button", { name: "Withdraw it" }).click();
  await out.getByLabel("Why, if you want to say so").fill("It burns again.");
  await accessible(out);
  await out.getByRole("button", { name: "Withdraw", exact: true }).click();
  await expect(out.getByText(/You have withdrawn it/)).toBeVisible();
  await be(page, "tobias.marrin", `/requests/${number}`);
  await expect(
    page.getByText(/asked by Ada Byrne, ada\.byrne@northgate\.example, outside the office/),
  ).toBeVisible();
  await expect(page.getByText("It burns again.")).toBeVisible();
  // Its owner calls the link back.
  await page.getByRole("button", { name: /^Look after it/ }).click();
  await page.getByRole("menuitem", { name: "Call their links back" }).click();
  await expect(page.getByText("The links they had lead nowhere any more.").first()).toBeVisible();
  await out.reload();
  await expect(out.getByRole("heading", { name: "This link leads nowhere" })).toBeVisible();
  await accessible(out);
  await out.context().close();
});

test("an outside borrower confirms the address, is asked for changes, and reads and answers letters", async ({
  page,
  browser,
}) => {
  const out = await stranger(browser);
  await out.goto("/open/object-loan?Exhibition=Banners&Remarks=mine");
  // What is not open in the form cannot come by a link, and is told of like what is not there.
  await expect(out.getByText(/“Remarks”, which is no field/)).toBeVisible();
  await expect(out.getByLabel(/^Exhibition/)).toHaveValue("Banners");
  await out.getByLabel("Your name").fill("Ada Byrne");
  await out.getByLabel("Your e-mail").fill(ADA);
  await filledIn(out);
  await fits(out);
  await touchable(out);
  await out.getByRole("button", { name: "Send", exact: true }).click();
  await expect(out.getByText(/None was sent to/)).toBeVisible();
  await out.getByRole("button", { name: "Send me a code" }).click();
  await expect(out.getByText(/A code is on its way/)).toBeVisible();
  const post = await out.context().newPage();
  await mailOf(post, /\d{6} is your code/);
  const code = /(\d{6}) is your code/.exec(await post.content())![1]!;
  await out.getByLabel("Code from the letter").fill(code);
  await out.getByRole("button", { name: "Send", exact: true }).click();
  await out.waitForURL(/\/follow\//);
  await expect(out.getByText("Being checked")).toBeVisible();
  await expect(out.getByText(/a letter with a link to it is on its way/)).toBeVisible();
  const number = /LOAN-\d+/.exec(
    await out
      .getByText(/LOAN-\d+/)
      .first()
      .innerText(),
  )![0];
  await accessible(out);

  // Registry sends it back, and the letter leads to what is to be changed.
  await be(page, "maeve.dunlea");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  await page.getByLabel(/^Note/).fill("Which room will it hang in?");
  await page.getByRole("button", { name: "Return for changes" }).click();
  await page.waitForURL(/\/desk$/);
  await mailOf(post, new RegExp(`${number}: something is to be changed`));
  const letter = post.frameLocator("iframe").first();
  const href = await letter.getByRole("link", { name: /Where it stands/ }).getAttribute("href");
  await out.goto(new URL(href!).pathname);
  await expect(out.getByRole("heading", { name: "Please change what you sent" })).toBeVisible();
  await expect(out.getByText("Which room will it hang in?").first()).toBeVisible();
  await out.getByLabel(/^Exhibition/).fill("Banners, in the great hall");
  await fits(out);
  await accessible(out);
  await out.getByRole("button", { name: "Send again" }).click();
  await expect(out.getByRole("heading", { name: "Please change what you sent" })).toBeHidden();
  await expect(out.getByText("Banners, in the great hall")).toBeVisible();

  // A letter is answered on the page, and read where the request is dealt with.
  await out.getByRole("button", { name: /^Answer Quillhaven/ }).click();
  await out.getByLabel("Your answer").fill("The great hall, on the north wall.");
  await out.getByRole("button", { name: "Send", exact: true }).click();
  await expect(out.getByText("The great hall, on the north wall.").first()).toBeVisible();
  await be(page, "maeve.dunlea", `/requests/${number}`);
  await expect(page.getByText("The great hall, on the north wall.").first()).toBeVisible();
  await expect(page.getByText("Which room will it hang in?").first()).toBeVisible();
  await accessible(page);
  await out.context().close();
});
