import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, descend, saved, signIn, undoAll } from "./desk.ts";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const proposals = (page: Page) => sheet(page).getByRole("region", { name: "Proposals" });
const waiting = async (page: Page) =>
  Number(/^(\d+)/.exec((await proposals(page).getByRole("heading").textContent()) ?? "")?.[1] ?? NaN);
const lines = (page: Page) => sheet(page).getByRole("list", { name: "The argument" }).getByRole("listitem");
const current = (page: Page) => proposals(page).getByRole("article", { name: "Proposal" });

test("proposals are walked, accepted, adjusted, dismissed and taken together by keys alone; a no stays said", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "harbour-oil", "P1W");
  await expect(proposals(page)).toBeVisible();
  const before = await waiting(page);
  expect(before).toBeGreaterThan(6);
  // What the demo's analyst said of it already.
  const said = await lines(page).count();
  await page.keyboard.press("j");
  await expect(current(page)).toBeVisible();
  await accessible(page);
  const first = await current(page).textContent();
  await page.keyboard.press("j");
  expect(await current(page).textContent()).not.toBe(first);
  // Yes: it stands in the argument, and the next one is asked for.
  await page.keyboard.press("1");
  await expect(lines(page)).toHaveCount(said + 1);
  expect(await waiting(page)).toBe(before - 1);
  // No.
  await page.keyboard.press("3");
  expect(await waiting(page)).toBe(before - 2);
  await expect(lines(page)).toHaveCount(said + 1);
  // Yes, and its edge is moved by a tick: the machine's is kept beside it.
  await page.keyboard.press("2");
  await expect(
    sheet(page)
      .getByRole("region", { name: "Selected mark" })
      .getByText(/^Taken over\./),
  ).toBeVisible();
  await chart(page).focus();
  await page.keyboard.press("ArrowUp");
  await expect(
    sheet(page)
      .getByText(/yours [\d.]+, the machine.s [\d.]+/)
      .first(),
  ).toBeVisible();
  // The best together, the rest away.
  await page.keyboard.press("Escape");
  await page.keyboard.press("4");
  await page.keyboard.press("5");
  await expect(proposals(page).getByText("Nothing waits here.")).toBeVisible();
  expect(await waiting(page)).toBe(0);
  await saved(page);
  await page.reload();
  await expect(proposals(page)).toBeVisible();
  expect(await waiting(page)).toBe(0);
  // All of it can be taken back, answer by answer.
  await undoAll(page);
  expect(await waiting(page)).toBe(before);
  await expect(lines(page)).toHaveCount(said);
});

test("what is looked for is tuned in numbers, with effect at once; nonsense is refused at its field", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "orrery-works");
  await expect(proposals(page)).toBeVisible();
  const before = await waiting(page);
  await proposals(page).getByRole("button", { name: "Tune" }).click();
  const touches = proposals(page).getByLabel(/^Support, resistance: at least/);
  await touches.fill("1");
  await expect(proposals(page).getByText("A whole number from 2 to 20.")).toBeVisible();
  await touches.fill("2");
  const gap = proposals(page).getByLabel(/^Gaps: at least/);
  await gap.fill("0");
  await gap.press("Enter");
  await expect.poll(() => waiting(page)).not.toBe(before);
  await accessible(page);
  await proposals(page).getByRole("button", { name: "As at first" }).click();
  await expect.poll(() => waiting(page)).toBe(before);
});

test(
  "an area of several rungs explains itself, and a scenario begins at it; a broken level is filed with its " +
    "history",
  async ({ page }) => {
    await signIn(page, "analyst");
    await descend(page, "loam-fields", "P1W");
    await expect(proposals(page)).toBeVisible();
    for (const rung of ["P1W", "P1D"]) {
      await page.keyboard.press("j");
      await expect(current(page)).toBeVisible();
      await proposals(page).getByRole("combobox", { name: "Within" }).click();
      await page.getByRole("option", { name: "10 ATR" }).click();
      await proposals(page)
        .getByRole("button", { name: /^Accept the \d+ within it$/ })
        .click();
      if (rung === "P1W") {
        await page.getByRole("navigation", { name: "Rungs" }).getByRole("link", { name: /^Day/ }).click();
        await expect(page).toHaveURL(/P1D/);
        await expect(proposals(page)).toBeVisible();
        await page.keyboard.press("Escape");
      }
    }
    // The marks taken together come to life one after the other; until then areas come and go.
    await expect(lines(page).filter({ hasText: /^(Week: )?\.\.\.$/ })).toHaveCount(0);
    // Until the analyst's marks make areas, those of offers stand there.
    await expect(sheet(page).getByRole("heading", { name: /^\d+ areas?$/ })).toBeVisible();
    const areas = sheet(page).getByRole("list", { name: "Areas by distance" });
    const pressed = areas.getByRole("button", { name: /reason/, pressed: true });
    await expect(async () => {
      if ((await pressed.count()) === 0)
        await areas
          .getByRole("button", { name: /reason/ })
          .first()
          .click();
      await expect(pressed).toHaveCount(1, { timeout: 2000 });
    }).toPass();
    const reasons = areas.getByRole("button", { name: /^(Year|Quarter|Month|Week|Day): / });
    await expect(reasons.first()).toBeVisible();
    expect(new Set((await reasons.allTextContents()).map((text) => text.split(":")[0])).size).toBeGreaterThan(1);
    await accessible(page);
    await areas.getByRole("button", { name: "Plan a scenario here" }).click();
    const form = sheet(page).getByRole("form", { name: "Scenario" });
    await expect(form.getByLabel("Stop at")).toHaveValue(/\d/);
    await expect(form.getByLabel("Scenario", { exact: true })).toHaveValue(/^Back from /);
    await form.getByRole("button", { name: "Close", exact: true }).click();
    await undoAll(page);
    // A level drawn where price has been since: broken, greyed, off the chart, and its history says when.
    await page.keyboard.press("l");
    const box = await chart(page).boundingBox();
    if (!box) throw new Error("no chart");
    await page.mouse.click(box.x + box.width * 0.12, box.y + box.height * 0.45);
    await expect(lines(page)).toHaveCount(1);
    // What was just placed is chosen, and stands in sight until it is not.
    await expect(sheet(page).getByText(/It stands in the list while it is chosen\.$/)).toBeVisible();
    await expect(lines(page).getByText(/^Filed: broken, filled or dead/)).toBeHidden();
    await page.getByText(/^History, \d+ events/).click();
    await expect(
      sheet(page)
        .getByText(/: (Touch \d+|Closed (above|below) it)/)
        .first(),
    ).toBeVisible();
    await lines(page).getByRole("button", { pressed: true }).click();
    await expect(lines(page).getByText(/^Filed: broken, filled or dead/)).toBeVisible();
    await undoAll(page);
  },
);
