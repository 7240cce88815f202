import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, clickAt, descend, handles, signIn, undoAll } from "./desk.ts";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const details = (page: Page) => page.getByRole("region", { name: "Selected mark" });
const waves = (page: Page) => details(page).getByRole("group", { name: "Waves" }).getByRole("button");
const machine = (page: Page) => page.getByRole("region", { name: "Counted by machine" });

/** Puts the crosshair at a share of the chart and sets an anchor there by the key alone. */
async function anchorByKeys(page: Page, x: number, y: number): Promise<void> {
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  await page.mouse.move(box.x + box.width * x, box.y + box.height * y);
  await page.keyboard.press("Enter");
}

test("a count is labelled by mouse and by keys, its inside one degree lower, and goes on pivot by pivot", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "isles-200");
  await chart(page).focus();
  await page.keyboard.press("w");
  await sheet(page).getByRole("combobox", { name: "Label as" }).click();
  await page.getByRole("option", { name: "zigzag", exact: true }).click();
  // The list fades away over the chart.
  await expect(page.locator(".MuiModal-root")).toHaveCount(0);
  await expect(page.getByRole("status").filter({ hasText: /Minor zigzag: click the start/ })).toBeVisible();
  await clickAt(page, 0.159, 0.6);
  await expect(page.getByRole("status").filter({ hasText: /end of A\. / })).toBeVisible();
  await clickAt(page, 0.378, 0.1);
  await chart(page).focus();
  await anchorByKeys(page, 0.593, 0.45);
  await page.keyboard.press("Escape");
  await expect(waves(page).first()).toHaveText(/Minor zigzag ?wave C in progress/);
  await expect(waves(page)).toHaveCount(4);
  await expect(details(page).getByText("What would end it")).toBeVisible();
  // The inside of A: an impulse asks for the four turns between its ends, which are there already.
  await waves(page).nth(1).click();
  await details(page).getByRole("button", { name: "Label inside" }).click();
  await expect(page.getByRole("status").filter({ hasText: /Minute impulse: click the end of \[i\]/ })).toBeVisible();
  for (const [x, y] of [
    [0.215, 0.3],
    [0.29, 0.5],
    [0.34, 0.15],
    [0.36, 0.3],
  ])
    await clickAt(page, x, y);
  await expect(waves(page)).toHaveCount(9);
  await expect(waves(page).nth(2)).toHaveText(/^\[i\]/);
  // The next pivot of the wave in progress, by its key.
  await chart(page).focus();
  await page.keyboard.press("6");
  await expect(page.getByRole("status").filter({ hasText: /Next pivot: click the end of C/ })).toBeVisible();
  await clickAt(page, 0.72, 0.1);
  await expect(waves(page).first()).toHaveText(/complete/);
  await accessible(page);
  await undoAll(page);
});

test("a pivot is dragged into a violation, the count is forked, promoted and compared, and becomes a scenario", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "isles-200");
  await chart(page).focus();
  await page.keyboard.press("w");
  await clickAt(page, 0.2, 0.85);
  await clickAt(page, 0.4, 0.2);
  await clickAt(page, 0.5, 0.6);
  await page.keyboard.press("Escape");
  await expect(waves(page)).toHaveCount(4);
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  const before = await handles(page);
  const up = before[1][1] < before[0][1];
  await page.mouse.move(box.x + before[2][0], box.y + before[2][1]);
  await page.mouse.down();
  await page.mouse.move(box.x + before[2][0] + 8, box.y + before[0][1] + (up ? 60 : -60), { steps: 6 });
  await expect(
    page.getByRole("status").filter({ hasText: /wave 2 does not pass the start of wave 1 .*over by \d+ ticks/ }),
  ).toBeVisible();
  await page.mouse.up();
  await expect(details(page).getByText(/^Rules: 1 of \d+ broken$/)).toBeVisible();
  await sheet(page).getByRole("button", { name: "Undo" }).click();
  await expect(details(page).getByText(/^Rules: \d+ hold$/)).toBeVisible();
  // An alternate, by its key; promoted, the other stands back.
  await chart(page).focus();
  await page.keyboard.press("7");
  await expect(
    sheet(page)
      .getByRole("list", { name: "The argument" })
      .getByRole("button", { name: /^Alternate: Minor impulse/ }),
  ).toHaveCount(1);
  await page.keyboard.press("8");
  await expect(details(page).getByRole("button", { name: "Promote" })).toBeDisabled();
  const lines = sheet(page)
    .getByRole("list", { name: "The argument" })
    .getByRole("button", { name: /Minor impulse/ });
  await expect(lines).toHaveCount(2);
  // The promoted one is chosen; the other is added.
  await lines.and(page.locator("[aria-pressed=false]")).click({ modifiers: ["Shift"] });
  const compared = page.getByRole("table", { name: "Counts compared" });
  await expect(compared.getByRole("row", { name: /^dies/ })).toBeVisible();
  await accessible(page);
  await chart(page).focus();
  await page.keyboard.press("Escape");
  await sheet(page)
    .getByRole("list", { name: "The argument" })
    .getByRole("button", { name: /^Minor impulse/ })
    .click();
  await details(page).getByRole("button", { name: "Make a scenario" }).click();
  const form = sheet(page).getByRole("form", { name: "Scenario" });
  await expect(form.getByLabel("Scenario", { exact: true })).toHaveValue(/Minor wave \d/);
  await expect(form.getByLabel("Stop at")).toHaveValue(/\d/);
  await expect(form.getByLabel("Target 1", { exact: true })).toHaveValue(/\d/);
  await form.getByRole("button", { name: "Close", exact: true }).click();
  await undoAll(page);
});

test("the machine counts the whole view first and what lies inside it; walking the list draws each", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "isles-200");
  await chart(page).focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press("-");
  await page.keyboard.press("0");
  const count = machine(page).getByRole("button", { name: "Count", exact: true });
  await count.click();
  await machine(page).getByRole("button", { name: "Cancel" }).click();
  await expect(machine(page).getByText(/^Cancelled/)).toBeVisible();
  await count.click();
  await expect(machine(page).getByText(/^\d+ counts in [\d.]+ s$/)).toBeVisible({ timeout: 30_000 });
  const regions = machine(page).getByRole("region");
  await expect(regions.first()).toHaveAccessibleName("The whole view");
  expect(await regions.count()).toBeGreaterThan(1);
  // None of them is a hypothesis of its own, beside the first.
  await expect(regions.first().getByText(/^None of these: /)).toBeVisible();
  await expect(regions.first().getByText(/not separated|is likelier than the others/)).toBeVisible();
  // The first is drawn without a press; the next by an arrow key; nothing of it is kept.
  const drawn = machine(page).getByRole("button", { pressed: true });
  await expect(drawn).toHaveCount(1);
  const first = await drawn.textContent();
  await drawn.focus();
  await page.keyboard.press("ArrowDown");
  await expect(drawn).toHaveCount(1);
  expect(await drawn.textContent()).not.toBe(first);
  await expect(sheet(page).getByRole("list", { name: "The argument" }).getByRole("listitem")).toHaveCount(0);
  await accessible(page);
  await machine(page)
    .getByRole("button", { name: /^Take / })
    .first()
    .click();
  await expect(details(page).getByText(/^Rules: \d+ hold$/)).toBeVisible();
  await undoAll(page);
});

test("a span begins where the chosen mark does, if that is asked for", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  await sheet(page)
    .getByRole("list", { name: "The argument" })
    .getByRole("button", { name: /demand/i })
    .first()
    .click();
  await chart(page).focus();
  await page.keyboard.press("0");
  await machine(page).getByRole("button", { name: "From the chosen mark" }).click();
  await machine(page).getByRole("button", { name: "Count", exact: true }).click();
  await expect(machine(page).getByRole("region").first()).toHaveAccessibleName("From the chosen mark", {
    timeout: 30_000,
  });
});

test("the inside of a weekly wave is completed by machine on the day, among the pivots that are there", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  await chart(page).focus();
  // So far back that the whole wave is loaded.
  for (let i = 0; i < 18; i++) await page.keyboard.press("-");
  await sheet(page)
    .getByRole("button", { name: /^Week: Primary impulse/ })
    .click();
  await expect(waves(page)).toHaveCount(6);
  await waves(page).nth(3).click();
  await details(page).getByRole("button", { name: "Complete by machine" }).click();
  await expect(machine(page).getByText("The inside, by machine")).toBeVisible();
  const take = machine(page).getByRole("button", { name: "Take" });
  await expect(async () => {
    await machine(page).getByRole("button", { name: "Count", exact: true }).click();
    await expect(take.first()).toBeVisible({ timeout: 3000 });
  }).toPass();
  await take.first().click();
  await expect(waves(page).nth(3)).toHaveText(/impulse/);
  expect(await waves(page).count()).toBeGreaterThan(10);
  await expect(details(page).getByText(/^Rules: \d+ hold$/)).toBeVisible();
  await undoAll(page);
  await expect(waves(page)).toHaveCount(6);
});

test("every count stands on one page with what would end it", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/counts");
  const tin = page.getByRole("region", { name: "Sable tin" });
  await expect(tin.getByRole("link", { name: /Primary impulse/ })).toBeVisible();
  await expect(tin.getByRole("list", { name: "Statements" }).first()).toContainText(/(below|above) \d/);
  await accessible(page);
  await tin.getByRole("link", { name: /Primary impulse/ }).click();
  await expect(page).toHaveURL(/descent\/sable-tin\?rung=P1W/);
});
