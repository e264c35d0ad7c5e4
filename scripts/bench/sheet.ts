import { chromium, type Page } from "@playwright/test";

/**
 * Keystrokes in cells of sheets of 300 rows, in the served pages. Two figures: our own work, from the letter going in
 * until React has drawn and the page is laid out; and the whole of it, from the key going down until the frame after
 * it is painted, which without a graphics card is done in software.
 */
const base = `http://127.0.0.1:${process.env["PORT"]}`;
const KEYS = 60;
const WARM = 15;
// A short name, typed and taken back again and again.
const typed = (i: number) => (i % 20 < 10 ? String.fromCharCode(97 + (i % 20)) : null);

/** Letters put in from within the page, so that nothing else comes between. */
async function ownWork(page: Page): Promise<number[]> {
  const out: number[] = [];
  for (let i = 0; i < KEYS; i++)
    out.push(
      await page.evaluate(async (letter) => {
        const from = performance.now();
        if (letter === null) document.execCommand("delete");
        else document.execCommand("insertText", false, letter);
        // React draws what a key sets going in a microtask; reading a height lays it out.
        await Promise.resolve();
        void document.body.offsetHeight;
        return performance.now() - from;
      }, typed(i)),
    );
  return out;
}

async function whole(page: Page): Promise<number[]> {
  await page.evaluate(() => {
    const w = window as unknown as { took: number[] };
    w.took = [];
    const { port1, port2 } = new MessageChannel();
    let down = 0;
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
  for (let i = 0; i < KEYS; i++) await page.keyboard.press(typed(i) ?? "Backspace");
  await page.waitForTimeout(200);
  return page.evaluate(() => (window as unknown as { took: number[] }).took);
}

const median = (took: readonly number[]): string => {
  const sorted = took.slice(WARM).sort((a, b) => a - b);
  return (sorted[Math.floor(sorted.length / 2)] ?? NaN).toFixed(1);
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
  for (const [sheet, cell] of [
    ["form", "Name of Amount 150"],
    ["route", "Name of the step"],
  ] as const) {
    await page.goto(`${base}/workshop/bench-sheet/${sheet}`);
    await page
      .getByLabel(cell, { exact: true })
      .nth(sheet === "route" ? 150 : 0)
      .click();
    const own = median(await ownWork(page));
    const all = median(await whole(page));
    process.stdout.write(
      `${`keystroke in a cell of a ${sheet} sheet of 300 rows, Chromium`.padEnd(58)} ${`${own} ms, ${all} ms with painting`.padEnd(34)} budget 16 ms\n`,
    );
  }
  await browser.close();
}
void main();
