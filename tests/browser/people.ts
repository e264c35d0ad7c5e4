import AxeBuilder from "@axe-core/playwright";
import { expect, type Locator, type Page } from "@playwright/test";
import { day } from "../day";

/**
 * Waits until the page has come alive: what is chosen in a form that a slow machine has only drawn so far is not seen by
 * it. React marks each element it has taken over; where something is never marked the test goes on all the same.
 */
async function alive(page: Page): Promise<void> {
  await page
    .waitForFunction(
      () =>
        [...document.querySelectorAll("main input, main select, main textarea, main button")].every((el) =>
          Object.keys(el).some((key) => key.startsWith("__reactFiber")),
        ),
      undefined,
      { timeout: 10_000 },
    )
    .catch(() => undefined);
}

/**
 * Gives something the focus, as Tab would. Until a page has come alive its form takes none, and says nothing about it.
 */
export async function focusOn(what: Locator): Promise<void> {
  await expect(async () => {
    await what.focus();
    expect(await what.evaluate((el) => el.contains(document.activeElement))).toBe(true);
  }).toPass({ timeout: 60_000 });
}

/** Becomes a person by the demo's page, as a visitor would. */
export async function be(page: Page, person: string, path = "/desk"): Promise<void> {
  await page.context().clearCookies();
  await page.goto("/sign-in");
  await page.locator(`button[value="${person}"]`).click();
  await page.waitForURL((u) => !u.pathname.startsWith("/sign-in"));
  if (path !== "/desk") await page.goto(path);
  await alive(page);
}

/** Begins a process with fields of these names, as its owner would, and stays on its form sheet. */
export async function newProcess(page: Page, name: string, prefix: string, fields: string[]): Promise<void> {
  await be(page, "tobias.marrin", "/workshop");
  await page.getByRole("button", { name: "New process…" }).click();
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Request numbers start with").fill(prefix);
  await fieldsPasted(page, fields);
}

/** The same for a procedure. */
export async function newProcedure(page: Page, name: string, fields: string[]): Promise<void> {
  await be(page, "tobias.marrin", "/workshop");
  await page.getByRole("button", { name: "New procedure…" }).click();
  await page.getByLabel("Name").fill(name);
  await fieldsPasted(page, fields);
}

async function fieldsPasted(page: Page, fields: string[]): Promise<void> {
  await page.getByRole("button", { name: "Start designing" }).click();
  await expect(page.getByText("The form is empty")).toBeVisible();
  await page.getByLabel("Paste rows").evaluate((el, text) => {
    const data = new DataTransfer();
    data.setData("text", text);
    el.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  }, fields.join("\n"));
  await expect(page.getByLabel(`Name of ${fields[0]!}`, { exact: true })).toBeVisible();
}

/** Adds a step of a kind by keyboard, behind the row that has the focus. */
export async function addStep(page: Page, kind: string): Promise<void> {
  await page.keyboard.press("Enter");
  await page.getByLabel("Kind of step").fill(kind);
  await page.keyboard.press("Enter");
}

/** Closes what is open over a cell. The focus goes back to the cell a moment later, and is waited for:
 *  a test that goes on at once would have it taken away again. */
export async function closeOver(page: Page, cell: Locator): Promise<void> {
  // A formula editor that opened over it meanwhile is closed first, by a key of its own.
  await expect(async () => {
    await page.keyboard.press("Escape");
    await expect(cell).toBeFocused({ timeout: 1500 });
  }).toPass({ timeout: 60_000 });
}

/** No serious violation of WCAG 2.2 A and AA on the page as it stands. */
export async function accessible(page: Page): Promise<void> {
  // A page that looks again puts its title in anew, a moment after the rest.
  await expect(page).toHaveTitle(/\S/);
  // What is fading in has not its own colours yet; what turns for ever is not waited for.
  await page.evaluate(() =>
    Promise.race([
      Promise.all(document.getAnimations().map((a) => a.finished.catch(() => undefined))),
      new Promise((r) => setTimeout(r, 1000)),
    ]).then(() => undefined),
  );
  const look = () =>
    new AxeBuilder({ page })
      .withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"])
      .analyze()
      .then((r) => r.violations);
  let violations = await look();
  // A page that looked again just then had no title for a moment; one that has none still has none after it. A word that
  // is said for some seconds fades while it is looked at, where that takes long.
  const fades = (v: (typeof violations)[number]) =>
    v.id === "color-contrast" && v.nodes.every((n) => n.html.includes('data-title=""'));
  for (let again = 0; again < 3 && violations.some((v) => v.id === "document-title" || fades(v)); again++) {
    await page.waitForTimeout(500);
    await expect(page).toHaveTitle(/\S/);
    violations = await look();
  }
  const bad = violations
    .filter((v) => v.impact === "serious" || v.impact === "critical")
    .map(
      (v) =>
        `${v.id}: ${v.nodes
          .slice(0, 3)
          .map((n) => n.html.slice(0, 160))
          .join(" | ")}`,
    );
  expect(bad).toEqual([]);
}

/** On a phone, all that is pressed or typed into in the form at hand is as high as a finger needs. */
export async function touchable(page: Page): Promise<void> {
  const low = await page.evaluate(() => {
    const all = document.querySelectorAll<HTMLElement>(
      ":is(main form, [data-touch]) :is(button, select, textarea, input, a[class*=border])",
    );
    return [...all].flatMap((el) => {
      const small = el instanceof HTMLInputElement && ["radio", "checkbox"].includes(el.type);
      const box = (small ? (el.closest("label") ?? el) : el).getBoundingClientRect();
      // What nobody sees is pressed by nobody.
      if (box.width <= 1 || el.closest("[aria-hidden=true]") || el.getAttribute("role") === "radio")
        return [];
      return box.height < 43.5 ? [`${el.outerHTML.slice(0, 120)}: ${box.height}`] : [];
    });
  });
  expect(low).toEqual([]);
}

/** Picks in a look-up or person field by typing a part of the name. */
export async function pick(page: Page, label: string | RegExp, text: string): Promise<void> {
  const search = page.getByLabel(/^Search:/);
  // What is clicked before the page has come alive, on a slow machine, opens nothing.
  await expect(async () => {
    if (await search.isHidden()) await page.getByRole("combobox", { name: label }).first().click();
    await expect(search).toBeVisible({ timeout: 5000 });
  }).toPass({ timeout: 60_000 });
  await search.fill(text);
  const named = page.getByRole("option").filter({ hasText: new RegExp(text, "i") });
  // A click while the list still moves hits nothing.
  await expect(async () => {
    // One that landed after its limit, on a slow machine, has closed the list all the same.
    if (await search.isHidden()) return;
    await named.first().click({ timeout: 8000 });
    await expect(search).toBeHidden({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
}

export const radio = (page: Page, group: string | RegExp, answer: "Yes" | "No") =>
  page.getByRole("radiogroup", { name: group }).getByLabel(answer, { exact: true });

/** Makes a store key request through the form and gives its number. */
export async function askForKey(
  page: Page,
  person: string,
  store: string,
  more: { exception?: string } = {},
): Promise<string> {
  await be(page, person, "/ask/store-key");
  await pick(page, /^Store/, store);
  await page.getByLabel(/^From/).fill(day(10));
  await page.getByLabel(/^Until/).fill(day(12));
  await page.getByLabel(/^Purpose/).fill("Condition check before photography");
  await radio(page, /Safety (training|course)/, more.exception ? "No" : "Yes").check();
  await radio(page, /Risk assessment/, "Yes").check();
  if (more.exception) await page.getByLabel(/^Reason for the exception/).fill(more.exception);
  await page.getByRole("button", { name: "Send request" }).click();
  await page.waitForURL(/\/requests\/KEY-/);
  return page.url().split("/").at(-1)!;
}
