import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { accessible, be, pick } from "./people";

const offer = {
  name: "Offer of Fenwater & Sons.pdf",
  mimeType: "application/pdf",
  buffer: Buffer.from("12 magnifiers, made up"),
};

test("a file is added, refused where it does not fit, kept over a reload, and opened by who decides", async ({
  page,
}) => {
  await be(page, "piet.hanlon", "/ask/supplies");
  const row = page.locator('[data-field="quote"]');
  const file = row.locator("input[type=file]");
  await expect(file).toHaveAttribute("accept", ".pdf,.png,.jpg,.txt");
  // The label opens the very choice the button does.
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    row.getByRole("button", { name: "Quote: choose a file" }).press("Enter"),
  ]);
  await chooser.setFiles({ ...offer, name: "Offer.exe" });
  await expect(row.getByRole("status")).toHaveText(
    'Quote takes these kinds of files: pdf, png, jpg, txt; "Offer.exe" is another.',
  );
  await file.setInputFiles({ ...offer, buffer: Buffer.alloc(10_100_000) });
  await expect(row.getByRole("status")).toHaveText("Quote takes files of up to 10 MB; this one has 10.1 MB.");
  await file.setInputFiles({ ...offer, buffer: Buffer.alloc(0) });
  await expect(row.getByRole("status")).toHaveText(`"${offer.name}" is empty.`);
  await file.setInputFiles(offer);
  await expect(row.getByRole("link", { name: offer.name })).toBeVisible();
  await expect(row.getByRole("status")).toHaveText("");
  await expect(page.getByText(/Kept\. You can leave/)).toBeVisible();
  await accessible(page);
  await page.reload();
  await expect(row.getByRole("link", { name: offer.name })).toBeVisible();
  await row.getByRole("button", { name: `Remove ${offer.name}` }).click();
  await expect(row.getByRole("button", { name: "Quote: choose a file" })).toBeFocused();
  // Dropped on the field.
  const data = await page.evaluateHandle(
    ({ name, text }) => {
      const d = new DataTransfer();
      d.items.add(new File([text], name, { type: "application/pdf" }));
      return d;
    },
    { name: offer.name, text: offer.buffer.toString() },
  );
  await row.locator('[data-file="quote"]').dispatchEvent("drop", { dataTransfer: data });
  await expect(row.getByRole("link", { name: offer.name })).toBeVisible();

  await page.getByLabel(/^Project/).fill("Guild banners");
  await page.getByRole("button", { name: "Add a line" }).click();
  await pick(page, "Item, line 1", "Magnifier");
  await page.getByLabel("Quantity, line 1").fill("12");
  await page.getByLabel(/^Reason/).fill("Ours are scratched.");
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/SUP-/);
  const number = page.url().split("/").at(-1)!;
  await expect(page.getByRole("link", { name: offer.name })).toBeVisible();
  const address = (await page.getByRole("link", { name: offer.name }).getAttribute("href"))!;

  await be(page, "sorcha.lind", `/requests/${number}`);
  const [saved] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: offer.name }).click(),
  ]);
  expect(saved.suggestedFilename()).toBe(offer.name);
  expect(readFileSync((await saved.path())!, "utf8")).toBe(offer.buffer.toString());
  await accessible(page);
  // Somebody who has nothing to do with it.
  await be(page, "yara.quill");
  const theirs = await page.request.get(address);
  expect([theirs.status(), await theirs.text()]).toEqual([
    404,
    expect.stringContaining("or you may not see it"),
  ]);
});

test("while a file is on its way the form waits, and sending it can be stopped", async ({ page }) => {
  await be(page, "piet.hanlon", "/ask/supplies");
  const row = page.locator('[data-field="quote"]');
  let go = () => {};
  const held = new Promise<void>((r) => (go = r));
  await page.route("**/api/files?*", async (route) => {
    await held;
    await route.continue().catch(() => undefined);
  });
  await row.locator("input[type=file]").setInputFiles(offer);
  await expect(row.getByRole("progressbar", { name: `Sending ${offer.name}` })).toBeVisible();
  await expect(page.getByRole("button", { name: "A file is on its way…" })).toBeDisabled();
  await row.getByRole("button", { name: "Stop" }).click();
  await expect(row.getByRole("button", { name: "Quote: choose a file" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Send request" })).toBeEnabled();
  go();
  await page.unroute("**/api/files?*");
  await page.route("**/api/files?*", (route) => route.abort());
  await row.locator("input[type=file]").setInputFiles(offer);
  await expect(row.getByRole("status")).toContainText("The file did not get through");
  const origin = new URL(page.url()).origin;
  const large = await page.request.post("/api/files?name=x.pdf", {
    data: Buffer.alloc(100_000_001),
    headers: { origin },
  });
  expect([large.status(), await large.json()]).toEqual([
    413,
    { sentence: "Files may have up to 100 MB; this one has more." },
  ]);
  // A hundred megabytes come and go as they are read.
  const most = Buffer.alloc(100_000_000, "as it is read ");
  const sent = await page.request.post("/api/files?name=x.pdf", { data: most, headers: { origin } });
  expect(sent.status()).toBe(201);
  const { id } = (await sent.json()) as { id: string };
  const back = await page.request.get(`/api/files/${id}`);
  expect((await back.body()).equals(most)).toBe(true);
  // From another site's page nothing is taken.
  const foreign = await page.request.post("/api/files?name=x.pdf", {
    data: "x",
    headers: { origin: "http://elsewhere.example" },
  });
  expect(foreign.status()).toBe(403);
});

test("its owner says which files a field takes, and formulas read them for the sample", async ({ page }) => {
  await be(page, "tobias.marrin", "/workshop/supplies/form");
  await page.getByRole("button", { name: "More about Quote" }).click();
  await page.getByLabel("Kinds of files of Quote").fill(".PDF, tiff");
  await page.getByLabel("Kinds of files of Quote").press("Enter");
  await expect(page.getByLabel("Kinds of files of Quote")).toHaveValue("pdf, tiff");
  await page.getByLabel("Largest file of Quote, in MB").fill("400");
  await page.getByLabel("Largest file of Quote, in MB").press("Enter");
  await expect(
    page
      .getByText('The largest file is said in MB, more than 0 and at most 100, for example 10; "400" is not.')
      .first(),
  ).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("Kinds of files of Quote")).toHaveValue("pdf, png, jpg, txt");
  // The live form takes real files, and the sample keeps them.
  const live = page.getByRole("region", { name: "Live form" });
  await live.locator("input[type=file]").setInputFiles(offer);
  await expect(live.getByRole("link", { name: offer.name })).toBeVisible();
  await live.getByRole("button", { name: "Keep as sample" }).click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "About" }).click();
  const text = page.getByRole("dialog", { name: "Text editor" });
  await page.getByLabel("Title of a request").click();
  await expect(text.getByRole("textbox")).toBeFocused();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Offer: {Quote.name}");
  await expect(text.getByRole("status")).toHaveText(`For “Sample 3”: Offer: ${offer.name}`);
  // What is still being completed takes the first press for itself.
  await expect(async () => {
    await page.keyboard.press("Escape");
    await expect(text).toBeHidden({ timeout: 500 });
  }).toPass();
  await expect(page.getByLabel("Title of a request")).toHaveValue(
    "Supplies for {Requester.department}, EUR {Total}",
  );
  await page.reload();
  await page.getByLabel("Sample", { exact: true }).selectOption("Sample 3");
  await page.getByRole("link", { name: "Form sheet" }).click();
  await expect(live.getByRole("link", { name: offer.name })).toBeVisible();
  await page.getByRole("link", { name: "About" }).click();
  await expect(page.getByLabel("Title of a request")).toBeVisible();
  const kept = page.getByRole("listitem").filter({ has: page.getByLabel("Name of sample Sample 3") });
  // The page may still be waking up after the reload.
  await expect(async () => {
    if (await kept.isVisible()) await kept.getByRole("button", { name: "remove" }).click();
    await expect(kept).toBeHidden({ timeout: 500 });
  }).toPass();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});
