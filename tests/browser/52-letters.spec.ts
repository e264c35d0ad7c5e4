import { expect, test } from "@playwright/test";
import { accessible, be, focusOn, newProcess } from "./people";

const POST = process.env["POST_URL"] ?? "";

test("a letter is written beside what it comes to, sent by a step and by hand, and its answer comes back", async ({
  page,
}) => {
  await newProcess(page, "Gilding", "GILD", ["Frame"]);
  await page.getByRole("link", { name: "About" }).click();
  await page.getByLabel("Mailbox").selectOption("keys@quillhaven.example");
  // A sample, so that letters are seen as they will be.
  await page.getByRole("link", { name: "Form sheet" }).click();
  await page.getByLabel("Frame", { exact: true }).fill("Oval");
  await page.getByRole("button", { name: "Keep as sample" }).click();

  await page.getByRole("link", { name: "Letters", exact: true }).click();
  await expect(page.getByText("No letters yet")).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Letter", exact: true }).click();
  const letter = page.getByRole("textbox", { name: "Text of the letter" });
  await letter.click();
  await page.keyboard.type("We have your {Frame} frame.");
  await page.keyboard.press("Enter");
  await page.keyboard.type("It is urgent.");
  await page.getByRole("button", { name: "Only if", exact: true }).click();
  await page.getByRole("textbox", { name: "When this part is written" }).fill('Frame = "Square"');
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByText("left out for the sample")).toBeVisible();
  // What it comes to stands beside it: with its looks, and as a text.
  const arrives = page.frameLocator('iframe[title="The letter as it arrives"]');
  await expect(arrives.getByText("We have your Oval frame.")).toBeVisible();
  await expect(arrives.getByText("It is urgent.")).toHaveCount(0);
  await page.getByRole("button", { name: "As plain text" }).click();
  await expect(page.getByRole("region", { name: "As it arrives", exact: true })).toContainText(
    "We have your Oval frame.",
  );
  await accessible(page);
  const name = page.getByLabel("Name", { exact: true });
  await name.fill("Receipt");
  await name.press("Enter");
  await page.getByLabel("by hand, too").check();
  // Undo is the sheet's outside of the text, and the text's within.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("by hand, too")).not.toBeChecked();
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(page.getByLabel("by hand, too")).toBeChecked();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(letter).toContainText("It is urgent.");

  await page.getByRole("link", { name: "Route sheet" }).click();
  await focusOn(page.getByRole("group", { name: "1, start" }));
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill("tell");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: /^How: / }).click();
  await page.getByLabel("by mail", { exact: true }).click();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^Message: / }).click();
  await page.getByLabel("What is written").selectOption({ label: "letter “Receipt”" });
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Message: letter “Receipt”" })).toBeVisible();
  await page.getByRole("link", { name: "Letters", exact: true }).click();
  await page.getByRole("button", { name: "Keep for all processes" }).click();
  await expect(page.getByText("“Receipt” is kept for all processes as it is now.")).toBeVisible();
  await page.getByRole("link", { name: "Release…" }).click();
  await page.getByRole("button", { name: /^Release 1\.0\.0/ }).click();
  await expect(page.getByText("1.0.0 is live.")).toBeVisible();
  await page.goto("/office/letters");
  await expect(page.getByRole("region", { name: "Receipt" })).toContainText("In Gilding.");
  await accessible(page);

  await be(page, "lucia.penrose", "/ask/gilding");
  await page.getByLabel("Frame").fill("Square");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/GILD-/);
  const number = /GILD-\d+/.exec(page.url())![0];
  const open = async (address: string, subject: RegExp) =>
    expect(async () => {
      await page.goto(`${POST}/box/${encodeURIComponent(address)}`);
      await page.getByRole("link", { name: subject }).first().click({ timeout: 1000 });
    }).toPass({ timeout: 60_000 });
  await open("lucia.penrose@quillhaven.example", new RegExp(number));
  await expect(page.frameLocator("iframe").getByText("We have your Square frame.")).toBeVisible();
  await expect(page.frameLocator("iframe").getByText("It is urgent.")).toBeVisible();

  // By hand: begun as a letter, changed; what is typed is still there after a reload.
  await be(page, "tobias.marrin", `/requests/${number}`);
  await page.getByRole("button", { name: "Write a letter" }).click();
  await page.getByLabel("Begin with").selectOption({ label: "Receipt" });
  const text = page.getByLabel("Letter", { exact: true });
  await expect(text).toHaveValue("We have your Square frame.\n\nIt is urgent.");
  await text.fill("Which gold?");
  // Whoever asked is who it most likely goes to.
  await expect(page.getByLabel("To", { exact: true })).toHaveValue("lucia.penrose@quillhaven.example");
  await page.getByLabel("To", { exact: true }).fill("");
  await page.getByRole("button", { name: "Send" }).click();
  await expect(page.getByText("Say to whom it goes, for example registry@example.org.")).toBeVisible();
  await page.reload();
  await expect(text).toHaveValue("Which gold?");
  await page.getByLabel("To", { exact: true }).fill("gilder@goldleaf.example");
  await accessible(page);
  await page.getByRole("button", { name: "Send" }).click();
  await expect(page.getByText("The letter is on its way.")).toBeVisible();
  await open("gilder@goldleaf.example", new RegExp(number));
  await expect(page.frameLocator("iframe").getByText("Which gold?")).toBeVisible();
  await page.getByRole("link", { name: "Reply" }).click();
  await page.getByRole("textbox", { name: "Text" }).fill("The red one.");
  await page.getByRole("button", { name: "Send" }).click();
  await expect(page.getByRole("status")).toHaveText("Sent.");
  await expect(async () => {
    await page.goto(`/requests/${number}`);
    await expect(page.getByText("The red one.")).toBeVisible({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await expect(page.getByText(/^Tobias Marrin wrote to gilder@goldleaf\.example/)).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  await accessible(page);
});
