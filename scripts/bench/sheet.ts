import { chromium, type Page } from "@playwright/test";

/**
 * Keystrokes in cells of sheets of 300 rows, in the served pages: from the key going down until React has drawn and
 * the page is laid out. Painting is left out: a browser without a screen paints by a clock of its own.
 */
const base = `http://127.0.0.1:${process.env["PORT"]}`;
const KEYS = 60;
const WARM = 15;

async function measured(page: Page, press: () => Promise<void>): Promise<number[]> {
  await page.evaluate(() => {
    const w = window as unknown as { took: number[] };
    w.took = [];
    const { port1, port2 } = new MessageChannel();
    let down = 0;
    // A message comes after what the key set going has been drawn; reading a height lays it out.
    port1.onmessage = () => {
      void document.body.offsetHeight;
      w.took.push(performance.now() - down);
    };
    window.addEventListener(
      "keydown",
      () => {
        down = performance.now();
        setTimeout(() => port2.postMessage(null));
      },
      { capture: true },
    );
  });
  for (let i = 0; i < KEYS; i++) await press();
  await page.waitForTimeout(200);
  return page.evaluate(() => (window as unknown as { took: number[] }).took);
}

const line = (what: string, took: number[], budget: string) => {
  const sorted = took.slice(WARM).sort((a, b) => a - b);
  const at = (share: number) => (sorted[Math.floor(sorted.length * share)] ?? NaN).toFixed(1);
  process.stdout.write(
    `${what.padEnd(58)} ${`${at(0.5)} ms, 95% within ${at(0.95)} ms`.padEnd(34)} budget ${budget}\n`,
  );
};

async function main() {
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${base}/sign-in`);
  await page.locator('button[value="tobias.marrin"]').click();
  await page.waitForURL((u) => !u.pathname.startsWith("/sign-in"));
  // A short name, typed and taken back again and again.
  const letter = (i: number) => (i % 20 < 10 ? String.fromCharCode(97 + (i % 20)) : "Backspace");
  for (const [sheet, cell] of [
    ["form", "Name of Amount 150"],
    ["route", "Name of the step"],
  ] as const) {
    await page.goto(`${base}/workshop/bench-sheet/${sheet}`);
    const input = page.getByLabel(cell, { exact: true }).nth(sheet === "route" ? 150 : 0);
    await input.click();
    let i = 0;
    const typed = await measured(page, () => page.keyboard.press(letter(i++)));
    line(`keystroke in a cell of a ${sheet} sheet of 300 rows, Chromium`, typed, "16 ms");
  }
  await browser.close();
}
void main();
