import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, clickAt, descend, handles, hydrated, saved, signIn, undoAll } from "./desk.ts";

/**
 * A day at the desk, by mouse and by keys: what an analyst does between two looks at the clock, without a snag. What
 * each job took is printed: clicks, keys and seconds.
 */

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const lines = (page: Page) => sheet(page).getByRole("list", { name: "The argument" }).getByRole("listitem");
const form = (page: Page) => sheet(page).getByRole("form", { name: "Scenario" });

/** Counts what the hand does from here on. */
async function counted(page: Page, job: string): Promise<() => Promise<void>> {
  await page.evaluate(() => {
    const done = { clicks: 0, keys: 0 };
    Object.assign(window, { done });
    addEventListener("pointerdown", () => done.clicks++, true);
    addEventListener("keydown", () => done.keys++, true);
  });
  const began = Date.now();
  return async () => {
    const { clicks, keys } = await page.evaluate(
      () => (window as never as { done: { clicks: number; keys: number } }).done,
    );
    const seconds = ((Date.now() - began) / 1000).toFixed(1);
    process.stdout.write(`${job}: ${clicks} clicks, ${keys} keys, ${seconds} s\n`);
  };
}

test("keys go to the chart when something is to be placed there, and back to it when a price was typed", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  const before = await lines(page).count();
  const told = await counted(page, "A level by keys, its price typed");
  // Wherever the focus is: the key that places gives it to the chart.
  await page.getByRole("button", { name: "Find" }).focus();
  await page.keyboard.press("l");
  await expect(chart(page)).toBeFocused();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await expect(lines(page)).toHaveCount(before + 1);
  const price = sheet(page).getByLabel("Price", { exact: true });
  const stood = await price.inputValue();
  await price.fill("77.25");
  await page.keyboard.press("Enter");
  await expect(chart(page)).toBeFocused();
  await page.keyboard.type("33");
  await expect(price).toHaveValue("77.25");
  await price.fill("12");
  await page.keyboard.press("Escape");
  await expect(chart(page)).toBeFocused();
  await expect(price).toHaveValue("77.25");
  expect(stood).not.toBe("77.25");
  await told();
  // The bearing's key gives the focus to its form, and leaving it gives it back.
  await page.keyboard.press("d");
  await expect(sheet(page).getByRole("form", { name: "Bearing" }).getByRole("button").first()).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(chart(page)).toBeFocused();
  await undoAll(page);
});

test("after another rung is chosen the read-out is of its bar, and every press of a step counts", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const box = (await chart(page).boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.5);
  const readout = page.getByText(/^O [\d.]+.*range/);
  const day = await readout.textContent();
  await page.keyboard.press("PageDown");
  await expect(page).toHaveURL(/rung=PT4H/);
  await expect(chart(page)).toHaveAttribute("aria-label", /4 h/);
  await expect(readout).not.toHaveText(day ?? "");
  await page.goto(`/descent/sable-tin?rung=P1D&asOf=${Date.UTC(2026, 7, 3, 16, 30)}`);
  await hydrated(page);
  const at = page.getByRole("group", { name: "Walk through the past" }).getByRole("status");
  await expect(at).toBeVisible();
  await chart(page).focus();
  const asOf = () => Number(new URL(page.url()).searchParams.get("asOf"));
  // From the close of one day to that of the next: ten trading days are two weeks.
  await page.keyboard.press(".");
  await expect.poll(asOf).not.toBe(Date.UTC(2026, 7, 3, 16, 30));
  const began = asOf();
  for (let i = 0; i < 10; i++) await page.keyboard.press(".");
  await expect.poll(asOf).toBe(began + 14 * 86_400_000);
});

test("a zone is what the analyst says, and nothing that was just placed is filed unseen or placed twice", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  const before = await lines(page).count();
  const told = await counted(page, "A supply zone by the menu");
  const box = (await chart(page).boundingBox())!;
  const menu = async (name: RegExp) => {
    await page.mouse.click(box.x + box.width * 0.35, box.y + box.height * 0.5, { button: "right" });
    await page.getByRole("menuitem", { name }).click();
  };
  await menu(/^Supply zone/);
  await expect(lines(page)).toHaveCount(before + 1);
  await told();
  const side = sheet(page).getByRole("group", { name: "What the zone is" });
  await expect(side.getByRole("button", { name: "Supply" })).toHaveAttribute("aria-pressed", "true");
  await expect(lines(page).getByRole("button", { pressed: true })).toContainText("Supply");
  await menu(/^Supply zone/);
  await expect(sheet(page).getByText("This very mark stands there already: it is chosen.")).toBeVisible();
  await expect(lines(page)).toHaveCount(before + 1);
  await side.getByRole("button", { name: "Demand" }).click();
  await expect(lines(page).getByRole("button", { pressed: true })).toContainText("Demand");
  await accessible(page);
  await undoAll(page);
});

test("an alert waits at a price that was clicked, without a level there", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "hale-remedies");
  const told = await counted(page, "An alert at a clicked price");
  await clickAt(page, 0.4, 0.3);
  const box = (await chart(page).boundingBox())!;
  await page.mouse.click(box.x + box.width * 0.4, box.y + box.height * 0.3, { button: "right" });
  const choice = page.getByRole("menuitem", { name: /^Alert at / });
  const price = /[\d.]+$/.exec((await choice.textContent()) ?? "")?.[0] ?? "";
  await choice.click();
  const dialog = page.getByRole("dialog", { name: `alert at ${price}` });
  await accessible(page);
  await dialog.getByRole("button", { name: `Price reaches ${price}.` }).click();
  await expect(dialog.getByRole("alert")).toHaveText(/^Set\./);
  await told();
  await page.goto("/alerts");
  await page
    .getByRole("listitem")
    .filter({ hasText: `reaches ${price}` })
    .getByRole("button", { name: "Remove" })
    .click();
  await expect(page.getByText(`Price reaches ${price}.`)).toBeHidden();
});

test("a price that means nothing is told and leaves what stands; the week's high is a target", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const told = await counted(page, "A scenario from a ready sentence, its target changed");
  await page.keyboard.press("/");
  const sentences = form(page).getByRole("group", { name: "Ready-made sentences" });
  await expect(sentences.getByRole("button").first()).toBeFocused();
  await page.keyboard.press("1");
  const target = form(page).getByLabel("Target 1", { exact: true });
  await expect(target).not.toHaveValue("");
  const stood = await target.inputValue();
  await target.fill("somewhere up there");
  await page.keyboard.press("Enter");
  await expect(form(page).getByText(/somewhere up there.* was not taken: it is no price/)).toBeVisible();
  await expect(target).toHaveValue(stood);
  // What is typed next is a command, not part of the price.
  await page.keyboard.type("33");
  await expect(target).toHaveValue(stood);
  await target.fill("week before");
  await page.keyboard.press("Enter");
  await expect(target).toHaveValue(/^the (high|low) of the week before$/);
  await expect(form(page).getByLabel("In words")).toContainText(/of the week before/);
  await told();
  await target.press("Escape");
  await target.press("Escape");
  await expect(chart(page)).toBeFocused();
  await form(page).getByRole("button", { name: "Close", exact: true }).click();
});

test("the palette knows things by the words they are looked for with", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  for (const [typed, found] of [
    ["ruler", "Measure between two points"],
    ["rsi", "Write a scenario"],
    ["import", "Library"],
    ["day plan sable", "Day plan: Sable tin"],
  ]) {
    await page.keyboard.press("Control+k");
    await expect(page.getByRole("combobox", { name: "Find" })).toBeFocused();
    await page.keyboard.type(typed);
    await expect(page.getByRole("option").first()).toContainText(found);
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toBeHidden();
    await chart(page).focus();
  }
});

test("columns are said by hand, a file of two markets is taken apart, holidays are pasted", async ({ page }) => {
  await signIn(page, "analyst");
  const rows = (name: string, price: number) =>
    Array.from({ length: 12 }, (_, i) => {
      const day = new Date(Date.UTC(2024, 0, 2 + i)).toISOString().slice(0, 10);
      return `${name};${day};${price};${price + 1};${price - 1};${price}`;
    });
  const text = ["wer;wann;auf;ab;unten;zu", ...rows("Reef salt", 40), ...rows("Reef lime", 70)].join("\n");
  await page.goto("/library");
  await hydrated(page);
  const told = await counted(page, "A file of two markets whose heads are not known");
  const files = { name: "reef.csv", mimeType: "text/csv", buffer: Buffer.from(text) };
  await page.locator("input[type=file]").setInputFiles(files);
  await expect(page.getByText(/The header names no column for date or time, open/)).toBeVisible();
  for (const [column, what] of ["market", "date or time", "open", "high", "low", "close"].entries()) {
    await page.getByLabel(`What column ${column + 1} is`).click();
    await page.getByRole("option", { name: what, exact: true }).click();
  }
  await accessible(page);
  await page.getByRole("button", { name: "Read it so" }).click();
  await expect(page.getByText("The file holds bars of 2 markets.")).toBeVisible();
  await page.getByRole("button", { name: "Import them one after the other" }).click();
  await expect(page.getByRole("navigation", { name: "Other markets of this file" })).toContainText("Reef lime");
  await page.getByRole("button", { name: "Confirm and import" }).click();
  await expect(page.getByRole("heading", { name: "Imported" })).toBeVisible();
  await page.getByRole("link", { name: "Reef lime" }).click();
  await page.getByRole("button", { name: "Confirm and import" }).click();
  await expect(page.getByText("12 bars added.")).toBeVisible();
  await told();
  await page.goto("/library/reef-lime");
  await hydrated(page);
  // Bars of a day make none of an hour: none are offered.
  await expect(page.getByText(/^Made of these, as CSV:/)).not.toContainText("1 h");
  const holidays = page.getByLabel(/^Holidays, a date on each line/);
  await holidays.fill("25 Dec 2026\nChristmas\n24.12.2026 13:00");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText('Line 2: "Christmas" does not begin with a date. Nothing was changed.')).toBeVisible();
  await holidays.fill("25 Dec 2026, Christmas\n24.12.2026 13:00");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Saved. Every rung is cut anew by these sessions.")).toBeVisible();
  await page.reload();
  await expect(holidays).toHaveValue("2026-12-25\n2026-12-24 13:00");
});

test("on a phone the desk is looked at, an alert is set, a proposal is taken", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "analyst");
  const fits = async () => {
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
    const header = (await page.locator("header").boundingBox())!;
    expect(header.height).toBeLessThan(100);
  };
  await page.goto("/round");
  await fits();
  for (const address of ["/descent/sable-tin?rung=P1D", "/round?at=sable-tin~P1D"]) {
    await page.goto(address);
    const box = (await chart(page).boundingBox())!;
    expect(box.width).toBeGreaterThan(300);
    expect(box.height).toBeGreaterThan(250);
    await fits();
  }
  await page.getByRole("button", { name: "Alert" }).click();
  await page.getByLabel("At a price").fill("455");
  await expect(page.getByRole("button", { name: "Price reaches 455.00." })).toBeVisible();
  await page.goto("/round/sable-tin/plan");
  await fits();
  const open = page.getByRole("button", { name: /^Accept \d+$/ });
  const count = Number(/\d+/.exec((await open.textContent()) ?? "")?.[0]);
  await page
    .getByRole("list", { name: "From high to low" })
    .getByRole("button", { name: /^Accept/ })
    .first()
    .click();
  // All that is offered in the first area.
  await expect(open).not.toHaveText(`Accept ${count}`);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(open).toHaveText(`Accept ${count}`);
  await saved(page).catch(() => undefined);
  for (const address of ["/evening", "/alerts", "/editions", "/events"]) {
    await page.goto(address === "/evening" ? "/round/evening" : address);
    await fits();
  }
});

test("labels of two retracements stand at their lines, those of the chosen one first", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  for (const [at, low] of [
    [0.3, 0.97],
    [0.5, 0.93],
  ]) {
    await page.keyboard.press("r");
    await clickAt(page, at, low);
    await clickAt(page, at + 0.2, 1 - low);
  }
  expect((await handles(page)).length).toBe(2);
  await page.keyboard.press("t");
  const table = page.getByRole("table", { name: "Levels on the chart" });
  const named = table.getByRole("cell", { name: /^61\.8 % of [\d.]+ to [\d.]+$/ });
  await expect(named).toHaveCount(2);
  const [first, second] = await named.allTextContents();
  expect(first).not.toBe(second);
  await undoAll(page);
});
