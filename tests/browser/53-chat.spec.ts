import { expect, test, type Page } from "@playwright/test";
import { accessible, be, closeOver } from "./people";

const CHAT = process.env["CHAT_URL"]!;

/** Presses an answer as somebody in the chat room's own page. */
async function press(page: Page, account: string, heading: string, answer: string, note = "") {
  await page.goto(`${CHAT}/as/${account}`);
  const message = page.getByRole("article", { name: heading });
  await message.getByText(answer, { exact: true }).click();
  if (note) await message.locator("details[open] textarea").fill(note);
  await message.getByRole("button", { name: `Say “${answer}”` }).click();
}

test("each thing that is offered is answered in chat by its curator; only what is wanted goes on", async ({
  page,
}) => {
  await be(page, "tomas.wexley", "/ask/acquisition-offers");
  await page.getByLabel("Offered by").fill("Sail makers");
  for (const [i, [what, who]] of [
    ["Palm and needle", "Anselm Kerr"],
    ["Sail cloth", "Bridie Okafor"],
  ].entries()) {
    await page.getByRole("button", { name: "Add a line" }).click();
    await page.getByLabel(`What, line ${i + 1}`).fill(what!);
    await page.getByLabel(`Curator, line ${i + 1}`).click();
    await page.keyboard.type(who!);
    await page.getByRole("option", { name: who! }).click();
  }
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page).toHaveURL(/OFFER-\d+$/);
  const request = new URL(page.url()).pathname;
  await expect(async () => {
    await page.goto(`${CHAT}/as/anselm.kerr`);
    await expect(page.getByRole("article", { name: /^Palm and needle/ })).toBeVisible({ timeout: 500 });
  }).toPass();
  await accessible(page);
  await press(page, "anselm.kerr", "Palm and needle, offered by Sail makers", "We want it");
  await expect(page.getByRole("status")).toHaveText("Your answer is kept: We want it.");
  await expect(page.getByText("We want it, by Anselm Kerr.")).toBeVisible();
  await press(page, "bridie.okafor", "Sail cloth, offered by Sail makers", "Not for us", "Too large for us.");
  await expect(page.getByText("Not for us, by Bridie Okafor.")).toBeVisible();
  await expect(async () => {
    await page.goto(`${CHAT}/room/acquisitions`);
    await expect(page.getByText("From Sail makers: Palm and needle (Anselm Kerr).")).toBeVisible({
      timeout: 500,
    });
  }).toPass();

  await be(page, "tomas.wexley", request);
  await expect(page.getByText(/^Too large for us\.$/)).toBeVisible();
  await expect(page.getByText(/, in chat$/).first()).toBeVisible();
  await expect(page.getByText("in chat to the room acquisitions", { exact: true })).toBeVisible();
  await accessible(page);
});

test("an account is tied by the code that came to it, and let go again", async ({ page, context }) => {
  await be(page, "dermot.vane", "/you");
  await page.getByLabel("Your account there").fill("nobody.at.all");
  await page.getByRole("button", { name: "Send me a code" }).click();
  await expect(page.getByText("There is no account nobody.at.all.")).toBeVisible();
  await page.getByLabel("Your account there").fill("dermot.vane");
  await page.getByRole("button", { name: "Send me a code" }).click();
  await page.getByLabel("The code that came to dermot.vane").waitFor();
  const room = await context.newPage();
  await room.goto(`${CHAT}/as/dermot.vane`);
  const code = /\d{6}/.exec(
    await room
      .getByRole("heading", { name: /is your code/ })
      .first()
      .innerText(),
  )![0];
  await room.close();
  await page.getByLabel("The code that came to dermot.vane").fill(code);
  await accessible(page);
  await page.getByRole("button", { name: "This is me" }).click();
  await expect(page.getByText("You are asked and told there as dermot.vane.")).toBeVisible();
  await page.getByRole("button", { name: "Not any more" }).click();
  await expect(page.getByLabel("Your account there")).toBeVisible();
});

test("an owner has a step ask in chat, and a step tell a room; the office sees to the room", async ({
  page,
}) => {
  await be(page, "tomas.wexley", "/workshop/acquisition-offers/route");
  const how = page.getByRole("button", {
    name: /^How they are told: told in chat too, answered by a press in chat/,
  });
  await how.click();
  await expect(page.getByRole("radio", { name: "on their screens and in Quillhaven chat" })).toBeChecked();
  await accessible(page);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^How: in the chat room "acquisitions"/ }).click();
  await expect(page.getByText("Everybody in the room reads it.")).toBeVisible();
  await accessible(page);

  await be(page, "tobias.marrin", "/office/chat");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Quillhaven chat");
  await page.getByRole("button", { name: "Try it" }).click();
  await expect(page.getByText("Quillhaven chat lets it in.")).toBeVisible();
  await accessible(page);
});

test("a start by mail is tried with a mail that was kept: what it would fill in is seen, and strangers are refused", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/workshop/acquisition-offers/route");
  const eml = [
    "From: Guild secretary <secretary@guild.example>",
    "To: offers@quillhaven.example",
    "Subject: A banner for you",
    "Content-Type: text/plain",
    "",
    "Would you like our banner?",
  ].join("\r\n");
  await page.getByRole("button", { name: "Make a sample of a mail…" }).click();
  const choosing = page.waitForEvent("filechooser");
  await page.getByRole("menuitem", { name: /Choose it/ }).click();
  await (
    await choosing
  ).setFiles({ name: "offer.eml", mimeType: "message/rfc822", buffer: Buffer.from(eml) });
  await expect(page.getByText("“A banner for you” would start it.")).toBeVisible();
  await expect(page.getByLabel("Sample", { exact: true })).toHaveValue(/.+/);
  await accessible(page);
  await page.getByRole("button", { name: /^What it fills in: fills in 4/ }).click();
  const begins = page.getByLabel("What Offered by begins with");
  await begins.click();
  await expect(page.getByText("Guild secretary").first()).toBeVisible();
  await accessible(page);
  await closeOver(page, begins);
  await page.keyboard.press("Escape");
  // A condition that does not hold is said at once.
  await page.getByRole("button", { name: /^Which mail starts it/ }).click();
  await page.getByLabel("What must hold of the mail").fill('contains(Mail.subject, "vase")');
  await page.keyboard.press("Tab");
  await page.getByLabel("Of strangers").selectOption("refuse");
  await page.getByLabel("What the letter says").fill("Please telephone us first.");
  await accessible(page);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await expect(
    page.getByText("“A banner for you” would not start it: the condition does not hold."),
  ).toBeVisible();
  // A file that is no mail is said to be none.
  await page.locator("input[type=file]").setInputFiles({
    name: "x.pdf",
    mimeType: "application/pdf",
    buffer: Buffer.from("%PDF-1.7"),
  });
  await expect(page.getByText(/There is no sender and no subject in this file/)).toBeVisible();
});
