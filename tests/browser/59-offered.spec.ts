import { expect, test } from "@playwright/test";
import { accessible, be, focusOn, newProcess } from "./people";

const SAID = "Something called so is in the collection already. Say what is different about this one.";

test("only those who can are picked, and what is in the collection already is told while it is typed", async ({
  page,
}) => {
  await be(page, "tomas.wexley", "/ask/acquisition-offers");
  await page.getByLabel("Offered by").fill("A ship chandler");
  await page.getByRole("button", { name: "Add a line" }).click();
  const curator = page.getByLabel("Curator, line 1", { exact: true });
  await focusOn(curator);
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("option")).toHaveText(["Anselm Kerr", "Bridie Okafor", "Lucia Penrose"]);
  await accessible(page);
  await page.keyboard.type("brid");
  await expect(page.getByRole("option")).toHaveText(["Bridie Okafor"]);
  await page.keyboard.press("Enter");
  await expect(curator).toHaveText("Bridie Okafor");
  // Somebody who looks after nothing is not found, whatever is typed.
  await curator.click();
  await page.keyboard.type("Piet Hanlon");
  await expect(page.getByText("Nothing matches “Piet Hanlon”.")).toBeVisible();
  await page.keyboard.press("Escape");
  // A kind is chosen from what stands in the register, and what is alike from things of that kind.
  await focusOn(page.getByLabel("Kind of thing, line 1", { exact: true }));
  await page.keyboard.type("ship");
  await expect(page.getByRole("option")).toHaveText(["ship model"]);
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Kind of thing, line 1", { exact: true })).toHaveText("ship model");
  // What is called as something in the collection is told of by the registers, before anything is sent.
  const what = page.getByLabel("What, line 1");
  await what.fill("Brig, fully rigged");
  await page.getByLabel("Made, line 1").fill("1880");
  await expect(page.getByText(SAID).first()).toBeVisible();
  await accessible(page);
  await what.fill("Brig, fully rigged, of bone");
  await expect(page.getByText(SAID)).toHaveCount(0);
  await what.fill("Brig, fully rigged");
  await page.getByLabel("Made, line 1").fill("1881");
  const why = page.getByRole("textbox", { name: new RegExp(SAID) });
  await why.fill("Ours is of wood; this one is of bone.");
  await page.getByRole("button", { name: "Send request" }).click();
  await expect(page).toHaveURL(/OFFER-\d+$/);
  await expect(page.getByRole("list", { name: "Gone on past" })).toContainText("this one is of bone");
});

test("its owner says what can be chosen and what must stand in a register, and tries both beside the sheet", async ({
  page,
}) => {
  await newProcess(page, "Hooks and rails", "HOOKED", ["Site", "Object", "Helper"]);
  await page.getByLabel("Kind of Object").selectOption("look-up");
  await page.getByLabel("More about Object").click();
  await page.getByLabel("Looks in").selectOption("objects");
  const offered = page.getByLabel("What can be chosen as Object", { exact: true });
  await offered.fill('Site = Form.Site and Status = "in store"');
  await offered.press("Enter");
  await expect(offered).toHaveValue('Site = Form.Site and Status = "in store"');
  await page.getByRole("button", { name: "Add a check" }).click();
  const check = page.getByRole("group", { name: "Check 1 of Object" });
  await check.getByRole("combobox", { name: /of what$/ }).selectOption("none");
  await check.getByRole("combobox", { name: /in which register$/ }).selectOption("treatments");
  await accessible(page);
  // Its choices need not be written: they are what stands in a column, and follow it.
  await page.getByLabel("Kind of Site").selectOption("choice");
  await page.getByLabel("More about Site").click();
  await page.getByLabel("What Site is chosen from").selectOption("objects");
  await page.getByLabel("The column Site is chosen from").selectOption("site");
  await page.getByLabel("Live form").getByRole("combobox", { name: "Site" }).click();
  await page.keyboard.type("tower");
  await expect(page.locator("[cmdk-item]")).toHaveText(["Tower House"]);
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Live form").getByRole("combobox", { name: "Site" })).toHaveText(
    "Tower House",
  );
  await accessible(page);
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});
