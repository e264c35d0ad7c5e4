import { chromium } from "@playwright/test";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

/** One picture per main view, from a running demo with fresh data: npm run demo, then npm run screenshots. */
const base = process.env.BASE_URL ?? "http://localhost:3210";
const folder = join(fileURLToPath(import.meta.url), "../../docs/screenshots");
mkdirSync(folder, { recursive: true });
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"],
});

async function as(person, size = { width: 1280, height: 800 }, cookies = []) {
  const context = await browser.newContext({
    baseURL: base,
    viewport: size,
    locale: "en-IE",
    timezoneId: "Europe/Dublin",
  });
  if (cookies.length > 0) await context.addCookies(cookies.map((c) => ({ ...c, url: base })));
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.locator(`button[value="${person}"]`).click();
  await page.waitForURL((u) => !u.pathname.startsWith("/sign-in"));
  return page;
}
async function shot(page, name, path, prepare) {
  if (path) await page.goto(path);
  await page.waitForLoadState("load");
  await page.waitForTimeout(500);
  await prepare?.(page);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  process.stdout.write(`${name}\n`);
}
const first = (page, pattern) =>
  page.locator("main a").filter({ hasText: pattern }).first().getAttribute("href");

const tobias = await as("tobias.marrin");
await shot(tobias, "route-sheet", "/workshop/store-key/route", async (p) => {
  await p.getByText("is offered on", { exact: false }).waitFor();
});
await shot(tobias, "ladder", null, async (p) => {
  await p.getByRole("button", { name: /^Limit: 2 working days/ }).click();
  await p.waitForTimeout(400);
});
await shot(tobias, "form-sheet", "/workshop/supplies/form");
await shot(tobias, "formula", null, async (p) => {
  await p.getByLabel("Reason: needed when", { exact: true }).click();
  const editor = p.getByRole("dialog", { name: "Formula editor" });
  await editor.getByRole("textbox").fill("Total > 500 and not(Urgent)");
  await editor.getByRole("button", { name: "Why?" }).click();
  await editor.getByRole("button", { name: "As rows" }).click();
  await p.waitForTimeout(400);
});
await shot(tobias, "letters", "/workshop/object-loan/letters", async (p) => {
  await p.getByRole("textbox", { name: "Text of the letter" }).waitFor();
  await p.waitForTimeout(800);
});
await shot(tobias, "release", "/workshop/store-key/release");
await shot(tobias, "progress", "/progress?view=open");
await shot(tobias, "office", "/office/people/eamon.stack");
await shot(tobias, "log", "/office/log");
await shot(tobias, "dark", "/workshop/store-key/route", async (p) => {
  await p.context().addCookies([{ name: "theme", value: "dark", url: base }]);
  await p.reload();
  await p.waitForTimeout(600);
});

// Whose desk has several rounds of one request.
const sorcha = await as("sorcha.lind");
await shot(sorcha, "desk", "/desk");
await shot(sorcha, "task", await first(sorcha, "Conservation decides"));

const maeve = await as("maeve.dunlea");
await maeve.goto("/progress?view=ended&process=object-loan");
await shot(maeve, "request", await first(maeve, "LOAN-"));
await shot(maeve, "template", "/workshop/object-loan/templates", async (p) => {
  await p.getByText("1 of 1", { exact: true }).waitFor();
  await p.waitForTimeout(1500);
});
await shot(maeve, "register", "/registers/objects?sort=-insured_value");
await maeve.goto("/registers/objects?q=harbour&is.status=proposed+for+loan");
await shot(maeve, "record", await first(maeve, "QH."));

const lucia = await as("lucia.penrose");
await shot(lucia, "ask", "/ask");
await shot(lucia, "ask-form", "/ask/supplies", async (p) => {
  await p.getByLabel(/^Project/).fill("Guild banners");
  for (const [i, [item, n]] of [
    ["magnifier", "2"],
    ["gloves", "4"],
    ["tissue", "3"],
  ].entries()) {
    await p.getByRole("button", { name: "Add a line" }).click();
    await p
      .getByRole("combobox", { name: `Item, line ${i + 1}` })
      .first()
      .click();
    await p.getByLabel(/^Search:/).fill(item);
    await p.getByRole("option").first().click();
    await p.getByLabel(`Quantity, line ${i + 1}`).fill(n);
  }
  await p.locator("[data-field=quote] input[type=file]").setInputFiles({
    name: "Offer of Fenwater & Sons.pdf",
    mimeType: "application/pdf",
    buffer: Buffer.alloc(184_300, "An offer, made up. "),
  });
  await p.getByLabel(/^Project/).click();
  await p.waitForTimeout(900);
});
await lucia.getByRole("button", { name: "Throw away" }).click();

const phone = await as("maeve.dunlea", { width: 390, height: 844 });
await shot(phone, "phone", await first(phone, "Registry checks"));
await browser.close();
