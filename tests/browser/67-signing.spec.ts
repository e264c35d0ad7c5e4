import { expect, test, type Page } from "@playwright/test";
import JSZip from "jszip";
import { pdfTexts } from "../pdfPages";
import { accessible, be, focusOn, pick } from "./people";

const POST = process.env["POST_URL"] ?? "";
const WHO = "Hollin Sound House of Textiles";

const pagesOf = async (page: Page, name: string): Promise<string[]> => {
  const href = await page.getByRole("link", { name, exact: true }).first().getAttribute("href");
  const bytes = await (await page.request.get(href!)).body();
  return (await pdfTexts(bytes)).map((p) => p.map((t) => t.text).join(" "));
};

test("a document is signed here and by whoever is outside, mailed, and kept with the record", async ({
  page,
  browser,
}) => {
  await be(page, "ines.corrigan", "/ask/new-borrower");
  await pick(page, /^New borrower/, WHO);
  await page.getByLabel(/^What they should know/).fill("Crates come back to Tower House.");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/BORR-/);
  const number = page.url().split("/").at(-1)!;
  const stages = page.getByRole("list", { name: "Stages" });
  // A worker draws it up.
  await expect(stages.locator("[aria-current]")).toContainText("Being signed", { timeout: 60_000 });

  await be(page, "maeve.dunlea");
  await page.getByRole("link", { name: new RegExp(number) }).click();
  const shown = page.getByRole("region", { name: `Pages of Welcome folder ${WHO}.pdf` });
  await expect(shown).toContainText("Crates come back to Tower House.");
  await accessible(page);
  // The pages are gone through by the keyboard as well.
  await focusOn(shown);
  await page.keyboard.press("End");
  await page.getByRole("button", { name: "Sign and pass on" }).click();
  await expect(page.getByText(/counts as signed only with a signature/).first()).toBeVisible();
  await focusOn(page.getByRole("button", { name: "Type your name instead" }));
  await page.keyboard.press("Enter");
  await page.keyboard.type("Maeve Dunlea");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("img", { name: "For the museums: Maeve Dunlea" })).toBeVisible();
  await page.getByRole("button", { name: "Sign and pass on" }).click();
  await expect(page).toHaveURL(/\/desk$/);

  // The borrower has no account here: they come by the link in their letter, on a phone.
  const box = `${POST}/box/${encodeURIComponent("loans@hollin-sound-house-of-textiles.example")}`;
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const guest = await context.newPage();
  await expect(async () => {
    await guest.goto(box);
    await guest
      .getByRole("link", { name: /^Your welcome folder/ })
      .first()
      .click({ timeout: 2000 });
  }).toPass({ timeout: 60_000 });
  const link = /https?:[^\s"<]+\/answer\/[\w-]{43}/.exec(await guest.content())![0];
  await guest.goto(link);
  await expect(guest.getByRole("heading", { name: "Borrower signs" })).toBeVisible();
  await expect(guest.getByRole("region", { name: /^Pages of/ })).toContainText(
    "Crates come back to Tower House.",
  );
  await accessible(guest);
  await guest.getByRole("button", { name: "Sign and send" }).click();
  await expect(guest.getByText(/counts as signed only with a signature/).first()).toBeVisible();
  await guest.getByRole("button", { name: "Type your name instead" }).click();
  await guest.keyboard.type("Beatriz Linden");
  await guest.keyboard.press("Enter");
  await expect(guest.getByRole("img", { name: "For the borrower: Beatriz Linden" })).toBeVisible();
  await guest.getByRole("button", { name: "Sign and send" }).click();
  await expect(guest.getByText("Thank you. Your answer is kept")).toBeVisible();
  await accessible(guest);
  await guest.goto(link);
  await expect(guest.getByText("a link works once")).toBeVisible();
  await context.close();

  await page.goto(`/requests/${number}`);
  await expect(stages.locator("[aria-current]")).toContainText("Welcomed", { timeout: 60_000 });
  const [first, closing] = await pagesOf(page, `Welcome folder ${WHO} signed.pdf`);
  expect(first).toContain("Crates come back to Tower House.");
  expect(closing).toContain("Typed as “Maeve Dunlea”");
  expect(closing).toContain(`Shown to be signed: Welcome folder ${WHO}.pdf, 1 page`);
  await expect(page.getByText(/signed document is made, 2 pages, fingerprint [0-9a-f]{64}/)).toHaveCount(2);
  // However long a word is, nothing runs out of the page.
  const [inner, outer] = await page.evaluate(() => [
    document.documentElement.scrollWidth,
    document.documentElement.clientWidth,
  ]);
  expect(inner).toBe(outer);
  await accessible(page);

  // All of it as one ZIP, streamed.
  const href = await page.getByRole("link", { name: "Files", exact: true }).getAttribute("href");
  const zip = await JSZip.loadAsync(await (await page.request.get(href!)).body());
  expect(Object.keys(zip.files).sort()).toEqual([
    "Beatriz Linden.png",
    "Maeve Dunlea.png",
    `Welcome folder ${WHO} signed (2).pdf`,
    `Welcome folder ${WHO} signed.pdf`,
    `Welcome folder ${WHO}.pdf`,
  ]);
  await expect(async () => {
    await page.goto(`${POST}/box/${encodeURIComponent("loans@hollin-sound-house-of-textiles.example")}`);
    await page
      .getByRole("link", { name: /Welcome to Quillhaven Museums/ })
      .first()
      .click({ timeout: 2000 });
    await expect(page.getByText(`Welcome folder ${WHO} signed.pdf`)).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 60_000 });
  // On the shelf in the borrower's folder, and printed.
  await page.goto(`${process.env["SHELF_URL"]}/look/Borrowers/${encodeURIComponent(WHO)}`);
  await expect(page.getByRole("link", { name: `Welcome folder ${WHO} signed.pdf` })).toBeVisible();
  await page.goto(process.env["PRINT_URL"]!);
  await expect(page.getByRole("row", { name: new RegExp(`${WHO} signed.pdf 1 copy`) })).toHaveCount(1);
  await be(page, "maeve.dunlea", "/registers/borrowers");
  await page
    .getByLabel(/^Search/)
    .first()
    .fill(WHO);
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: WHO }).first().click();
  await expect(page.getByRole("link", { name: `Welcome folder ${WHO} signed.pdf` })).toBeVisible();
  // Who has a folder is not welcomed again.
  await expect(page.getByRole("link", { name: "Welcome this borrower" })).toHaveCount(0);
});

test("the shelf and the print room are set up and tried in the office", async ({ page }) => {
  await be(page, "tobias.marrin", "/office/outlets");
  const room = page.getByRole("form", { name: "Print room" });
  await room.getByRole("button", { name: "Try it" }).click();
  await expect(page.getByText("Print room: Cobble Step is let in.")).toBeVisible();
  await accessible(page);
  await room.getByLabel("Password or token").fill("");
  await room.getByLabel("Address").fill("http://elsewhere.example");
  await room.getByRole("button", { name: "Keep" }).click();
  await expect(room.getByText("Without encryption")).toBeVisible();
  await be(page, "lucia.penrose", "/office/outlets");
  await expect(page.getByText("seen to by those with the rights of the office")).toBeVisible();
});

test("the office sees what is kept in files", async ({ page }) => {
  await be(page, "tobias.marrin", "/office/files");
  await expect(page.getByRole("heading", { name: "Files", level: 1 })).toBeVisible();
  await expect(page.getByRole("row", { name: /^Requests of/ }).first()).toContainText("%");
  await accessible(page);
  await be(page, "lucia.penrose", "/office/files");
  await expect(page.getByText("shown to those with the rights of the office")).toBeVisible();
});

test("an owner says what is signed at a step, and is told where nobody could", async ({ page }) => {
  await be(page, "maeve.dunlea", "/workshop/new-borrower/route");
  const chip = page.getByRole("button", { name: "What is signed: signing Welcome folder" });
  await chip.click();
  await page.getByLabel("The document whose pages they see and sign").selectOption("");
  await expect(page.getByLabel("The field they sign in")).toHaveCount(0);
  await page.keyboard.press("Escape");
  await expect(chip).toHaveCount(0);
  // Whoever reads what was signed is told that nothing is.
  await expect(page.getByText(/^\d+ errors?/).first()).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(chip).toBeVisible();
  await expect(page.getByText(/^\d+ errors?/)).toHaveCount(0);
  await accessible(page);
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});
