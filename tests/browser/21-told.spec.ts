import { expect, test } from "@playwright/test";
import { accessible, askForKey, be, focusOn } from "./people";

test("people are told what comes to them; an owner reminds, and lets a decision go on only by choosing how", async ({
  page,
}) => {
  const number = await askForKey(page, "lucia.penrose", "Cold room, Lakeside");
  await be(page, "fintan.galloway");
  await page.getByRole("button", { name: /^Notices, [1-9]/ }).click();
  const news = page.getByRole("listitem").filter({ hasText: number });
  await expect(news.getByRole("link", { name: /Manager decides: it waits for you, until/ })).toBeVisible();
  await accessible(page);
  await news.getByRole("link", { name: /^Manager decides/ }).click();
  await expect(page).toHaveURL(new RegExp(`/desk/${number}/`));
  const task = page.url();

  await be(page, "tobias.marrin", `/requests/${number}`);
  // A key pressed before the page has woken up opens nothing yet.
  await expect(async () => {
    await page.keyboard.press("Escape");
    await focusOn(page.getByRole("button", { name: "Look after it" }));
    await page.keyboard.press("Enter");
    await expect(page.getByRole("menuitem", { name: "Remind…" })).toBeFocused({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await accessible(page);
  await page.keyboard.press("Enter");
  await page.getByLabel("A word to them").fill("The lorry comes at noon");
  await page.getByRole("button", { name: "Remind", exact: true }).click();
  await expect(page.getByText("Tobias Marrin reminded Fintan Galloway")).toBeVisible();

  await page.getByRole("button", { name: "Look after it" }).click();
  await page.getByRole("menuitem", { name: "Change the limit…" }).click();
  await page.getByRole("textbox", { name: "Until" }).fill("2030-01-15T12:00");
  await page.getByRole("textbox", { name: "Why" }).fill("The key is abroad");
  await page.getByRole("button", { name: "Set the limit" }).click();
  await expect(
    page.getByText(/Manager decides: another limit, Tue 15 Jan.* 12:00|another limit, Tue, 15 Jan.*12:00/),
  ).toBeVisible();

  await page.getByRole("button", { name: "Look after it" }).click();
  await page.getByRole("menuitem", { name: "Go on without an answer…" }).click();
  const go = page.getByRole("button", { name: "Go on", exact: true });
  await expect(go).toBeDisabled();
  await expect(page.getByText("First choose a way and say why.")).toBeVisible();
  await accessible(page);
  await page.getByRole("radio", { name: "Decline" }).click();
  await page.getByRole("textbox", { name: "Why" }).fill("Said on the telephone");
  await go.click();
  await expect(
    page.getByText("Manager decides: called off for Fintan Galloway, for the step is decided"),
  ).toBeVisible();
  await expect(page.getByText("let the request go on at “Manager decides” as: Decline")).toBeVisible();

  // Whoever comes late is told what became of it, and led to the request.
  await be(page, "fintan.galloway", new URL(task).pathname);
  await expect(page.getByRole("heading", { name: "What happened" })).toBeVisible();
  await expect(page.getByText("Manager decides: called off for Fintan Galloway")).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: "Go to the request" }).click();
  await expect(page).toHaveURL(new RegExp(`/requests/${number}`));

  await be(page, "fintan.galloway");
  const comes = page.getByLabel("A task comes to me: notice", { exact: true });
  // What is pressed before the page has woken up is kept by nobody; what is kept is said.
  await expect(async () => {
    await page.goto("/you");
    if (!(await comes.isChecked())) return;
    await comes.uncheck();
    await expect(page.getByText("Kept.", { exact: true })).toBeVisible({ timeout: 3000 });
  }).toPass({ timeout: 60_000 });
  await page.reload();
  await expect(comes).not.toBeChecked();
  await comes.check();
  // Somebody who owns no process and keeps no office has no areas for that.
  const rail = page.getByRole("navigation", { name: "Areas" });
  await expect(rail.getByRole("link", { name: "Desk" })).toBeVisible();
  await expect(rail.getByRole("link", { name: "Workshop" })).toHaveCount(0);
  await expect(rail.getByRole("link", { name: "Office" })).toHaveCount(0);
});

test("two people change one draft: both keep what they did, and where it was the same the second is asked", async ({
  browser,
}) => {
  const [one, two] = await Promise.all([1, 2].map(async () => (await browser.newContext()).newPage()));
  for (const page of [one!, two!]) await be(page, "tobias.marrin", "/workshop/supplies/form");
  const saved = (page: typeof one) => expect(page!.getByText(/^Saved/)).toBeVisible();

  // The second has not seen the new name, and writes a formula with the old one.
  await one!.getByLabel("Name of Urgent").fill("In a hurry");
  await one!.getByLabel("Name of Urgent").press("Enter");
  await saved(one);
  const shown = two!.getByLabel("Quote: shown when", { exact: true });
  await shown.fill("Urgent");
  await shown.press("Enter");
  await expect(two!.getByText(/^Saved, behind changes of Tobias Marrin/)).toBeVisible();
  await expect(two!.getByLabel("Name of In a hurry")).toBeVisible();
  await expect(two!.getByLabel("Quote: shown when", { exact: true })).toHaveValue("In a hurry");

  // Both change the same. What the second sends is held until the first one's is kept, so that it is the second
  // however quick either machine is, and has not seen the other's.
  await one!.getByRole("link", { name: "About" }).click();
  await two!.getByRole("link", { name: "About" }).click();
  // Only then, or the way there would wait behind what is held.
  for (const page of [one!, two!]) await expect(page.getByLabel("Name", { exact: true })).toBeVisible();
  let letGo = () => {};
  const held = new Promise<void>((go) => (letGo = go));
  await two!.route(/\/workshop\/supplies/, async (route) => {
    if (route.request().method() === "POST") await held;
    await route.continue();
  });
  await two!.getByLabel("Name", { exact: true }).fill("Supplies of the second");
  await two!.getByLabel("Name", { exact: true }).press("Tab");
  await one!.getByLabel("Name", { exact: true }).fill("Supplies of the first");
  await one!.getByLabel("Name", { exact: true }).press("Tab");
  const kept = async () => (await one!.context().request.get("/workshop/supplies/about")).text();
  await expect.poll(kept, { timeout: 60_000 }).toContain("Supplies of the first");
  letGo();
  const dialog = two!.getByRole("dialog", { name: "Both of you changed the same" });
  await expect(dialog).toBeVisible();
  await expect(dialog.getByText("“Supplies of the first”")).toBeVisible();
  await expect(dialog.getByRole("radio", { name: /Mine: “Supplies of the second”/ })).toBeChecked();
  await accessible(two!);
  await dialog.getByRole("radio", { name: /Supplies of the first/ }).click();
  await dialog.getByRole("button", { name: "Go on like this" }).click();
  await expect(two!.getByRole("heading", { level: 1, name: "Supplies of the first" })).toBeVisible();
  // The first sees what the second did without doing anything.
  await one!.getByRole("link", { name: "Form sheet" }).click();
  await expect(one!.getByLabel("Quote: shown when", { exact: true })).toHaveValue("In a hurry", {
    timeout: 60_000,
  });

  // As it was, for whoever comes after.
  await one!.getByRole("link", { name: "Release", exact: true }).click();
  await one!
    .getByRole("button", { name: /^Bring back .* as the draft/ })
    .last()
    .click();
  await expect(one!.getByRole("heading", { level: 1, name: "Conservation supplies" })).toBeVisible();
  await saved(one);
});
