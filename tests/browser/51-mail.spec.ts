import { expect, test, type Page } from "@playwright/test";
import { accessible, be, focusOn } from "./people";

const POST = process.env["POST_URL"] ?? "";

/** Opens the newest mail of a mailbox that says something in its subject, on the page of the stand-in. */
async function mailOf(page: Page, address: string, subject: RegExp): Promise<void> {
  await expect(async () => {
    await page.goto(`${POST}/box/${encodeURIComponent(address)}`);
    await page.getByRole("link", { name: subject }).first().click({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
}
/** Replies to the mail that is open, above what it repeats. */
async function reply(page: Page, text: string): Promise<void> {
  await page.getByRole("link", { name: "Reply" }).click();
  const box = page.getByRole("textbox", { name: "Text" });
  await box.fill(`${text}\n${await box.inputValue()}`);
  await page.getByRole("button", { name: "Send" }).click();
  await expect(page.getByRole("status")).toHaveText("Sent.");
}

test("a step asks by mail: it is set up on the sheet, told what is wrong, answered by link and by reply", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/workshop");
  await page.getByRole("button", { name: "New process…" }).click();
  await page.getByLabel("Name").fill("Plaster casts");
  await page.getByLabel("Request numbers start with").fill("CAST");
  await page.getByRole("button", { name: "Start designing" }).click();
  await page.getByRole("link", { name: "About" }).click();
  await page.getByLabel("Mailbox").selectOption("keys@quillhaven.example");
  await page.getByRole("link", { name: "Form sheet" }).click();
  await page.getByLabel("Paste rows").evaluate((el) => {
    const data = new DataTransfer();
    data.setData("text", "Cast");
    el.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(page.getByLabel("Name of Cast", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: "1, start" }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("decide");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "told on screen" }).click();
  await page.getByLabel("on their screens and by mail").click();
  await accessible(page);
  await expect(page.getByText("From Quillhaven Keys, keys@quillhaven.example.")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(
    page.getByRole("button", { name: /told by mail too, answered by a link or a reply/ }),
  ).toBeVisible();
  // Words that would stand for both answers are refused.
  await page.getByRole("button", { name: "Answer: Approve" }).click();
  await page.getByLabel("Words that mean it in a reply, beside its own").fill("yes, decline");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Escape");
  await expect(page.getByText(/“decline” stands for two answers/).first()).toBeVisible();
  await page.getByRole("button", { name: "Answer: Approve" }).click();
  await page.getByLabel("Words that mean it in a reply, beside its own").fill("yes, ok");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Escape");
  await expect(page.getByText(/stands for two answers/)).toHaveCount(0);
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();

  const ask = async (cast: string) => {
    await be(page, "lucia.penrose", "/ask/plaster-casts");
    await page.getByLabel("Cast").fill(cast);
    await page.getByRole("button", { name: "Send request" }).click();
    await page.waitForURL(/\/requests\/CAST-/);
    return /CAST-\d+/.exec(page.url())![0];
  };
  const first = await ask("Horse");
  // Lucia's manager is asked, and reads it where mail is read.
  // What he is asked is between him and the process.
  await page.goto(`/requests/${first}`);
  await expect(page.getByRole("heading", { name: "Trail" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "Conversation" })).toHaveCount(0);
  await be(page, "tobias.marrin", `/requests/${first}`);
  await expect(page.getByRole("heading", { name: "Conversation" })).toBeVisible();
  await accessible(page);
  const id = "fintan.galloway";
  const address = `${id}@quillhaven.example`;
  await mailOf(page, address, new RegExp(first));
  const link = page.frameLocator("iframe").getByRole("link", { name: "Decline" });
  const href = (await link.getAttribute("href"))!;
  await be(page, id, new URL(href).pathname + new URL(href).search);
  await accessible(page);
  await page.getByRole("button", { name: "Answer: Decline" }).click();
  await expect(page.getByText("“Decline” needs a few words that say why.")).toBeVisible();
  await page.getByLabel(/Note/).fill("Too heavy");
  await page.getByRole("button", { name: "Answer: Decline" }).click();
  await expect(page.getByRole("status")).toContainText("Decline");
  await page.reload();
  await expect(page.getByRole("heading", { name: "Nothing to answer here" })).toBeVisible();
  await accessible(page);
  await page.goto(`/requests/${first}`);
  await expect(page.getByText("by a link in a mail").first()).toBeVisible();

  const second = await ask("Rider");
  await mailOf(page, address, new RegExp(second));
  await reply(page, "Perhaps");
  await mailOf(page, address, new RegExp(`Re: ${second}`));
  await expect(page.frameLocator("iframe").getByText("which is none of the answers")).toBeVisible();
  await reply(page, "ok\nMind the stairs.");
  await be(page, "lucia.penrose", `/requests/${second}`);
  await expect(page.getByText("by a reply to a mail").first()).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText("Mind the stairs.").first()).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  await accessible(page);
});

test("a mailbox is kept in Office, tried, and told what is wrong with it; what is not out stands on Progress", async ({
  page,
}) => {
  await be(page, "tobias.marrin", "/office/mailboxes");
  await expect(page.getByRole("heading", { name: "keys@quillhaven.example" })).toBeVisible();
  await page.getByRole("button", { name: "Try it: keys@quillhaven.example" }).click();
  await expect(page.getByText("127.0.0.1 lets it in.")).toBeVisible();
  await page.getByRole("button", { name: "Add a mailbox" }).click();
  await accessible(page);
  await page.getByLabel("Address", { exact: true }).fill("casts");
  await page.getByLabel("Name receivers see").fill("Casts");
  await page.getByLabel("Sends by", { exact: true }).fill("mail.example.org");
  await page.getByLabel("Read from", { exact: true }).fill("mail.example.org");
  await page.getByLabel("User").fill("casts");
  await page.getByLabel("Password").fill("something long");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("“casts” is no address; one reads like registry@example.org.")).toBeVisible();
  await expect(page.getByLabel("Name receivers see")).toHaveValue("Casts");
  await page.getByRole("button", { name: "Leave as it was" }).click();
  await page.getByRole("button", { name: "Change keys@quillhaven.example" }).click();
  await page.getByRole("button", { name: "Remove" }).click();
  await expect(page.getByText(/keys@quillhaven.example is used by .*Store key/)).toBeVisible();
  await be(page, "lucia.penrose", "/office/mailboxes");
  await expect(page.getByText("Mailboxes are seen to by those with the rights of the office.")).toBeVisible();
});

test("a mail starts a request with its words and files; what starts none is shown with why, and started by hand", async ({
  page,
}) => {
  const write = async (subject: string, file: boolean) => {
    await page.goto(`${POST}/write?from=lucia.penrose%40quillhaven.example&to=costs%40quillhaven.example`);
    await page.getByLabel("Subject").fill(subject);
    await page.getByRole("textbox", { name: "Text" }).fill("The bills of our week at the shore.");
    if (file)
      await page.getByLabel("Files").setInputFiles([
        { name: "boat.pdf", mimeType: "application/pdf", buffer: Buffer.from("%PDF boat") },
        { name: "tea.txt", mimeType: "text/plain", buffer: Buffer.from("tea") },
      ]);
    await page.getByRole("button", { name: "Send" }).click();
    await expect(page.getByRole("status")).toHaveText("Sent.");
  };
  await write("Survey of the shore", true);
  await write("Without a bill", false);
  await mailOf(page, "lucia.penrose@quillhaven.example", /SURVEY-\d+: Survey of the shore/);
  await expect(page.frameLocator("iframe").getByText("with 2 bills")).toBeVisible();
  const number = /SURVEY-\d+/.exec((await page.getByRole("heading", { level: 1 }).textContent())!)![0];
  await be(page, "tobias.marrin", `/requests/${number}`);
  await expect(page.getByRole("link", { name: "boat.pdf" }).first()).toBeVisible();
  await expect(page.getByText("The bills of our week at the shore.").first()).toBeVisible();
  await accessible(page);
  await page.goto("/progress");
  await expect(page.getByText("No process takes it by what it says.")).toBeVisible({ timeout: 60_000 });
  await accessible(page);
  await page.getByRole("button", { name: "Start Field survey costs: Without a bill" }).click();
  await expect(page.getByText(/SURVEY-\d+ has been started/)).toBeVisible();
  await expect(page.getByText("No process takes it by what it says.")).toHaveCount(0);
});
