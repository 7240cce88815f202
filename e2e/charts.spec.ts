import { expect, test, type Page } from "@playwright/test";
import { accessible, descend, hydrated, saved, signIn } from "./desk.ts";

const charts = (page: Page) => page.getByRole("application");
const drawn = (page: Page, count: number) => expect(page.locator("[data-chart][data-drawn=yes]")).toHaveCount(count);

/** Back to one chart, as the other tests expect the desk. */
async function one(page: Page): Promise<void> {
  await kept(page, 1, async () => {
    for (let count = await charts(page).count(); count > 1; count--) {
      await page.keyboard.press("x");
      await drawn(page, count - 1);
    }
  });
}

/** Does something after which so many charts are there, and waits until the server has kept them. */
async function kept(page: Page, count: number, change: () => Promise<void>): Promise<void> {
  const answer = page.waitForResponse((response) => {
    const sent = response.url().endsWith("/layout") && response.ok() && response.request().postDataJSON();
    return sent ? (sent as { panes: unknown[] }).panes.length === count : false;
  });
  await change();
  await answer;
}

test("six charts stand side by side, are kept, and share cursor and moment", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "skerry-silver", "P1M");
  await kept(page, 6, async () => {
    for (let count = 2; count <= 6; count++) {
      await page.keyboard.press("a");
      await drawn(page, count);
    }
  });
  await expect(page.getByRole("button", { name: "Beside" })).toHaveCount(0);
  await expect(charts(page).nth(2)).toHaveAccessibleName(/Day/);
  await page.reload();
  await drawn(page, 6);
  await hydrated(page);
  await accessible(page);

  // The pointer over the day draws its line on the 4 h beside it: other pixels than without.
  const beside = charts(page).nth(3).locator("canvas").last();
  const pixels = () => beside.evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL().length);
  await page.mouse.move(2, 2);
  const without = await pixels();
  const day = await charts(page).nth(2).boundingBox();
  if (!day) throw new Error("no chart");
  await page.mouse.move(day.x + day.width * 0.6, day.y + day.height / 2);
  await expect.poll(pixels).not.toBe(without);
  // A click holds the moment; walking begins there, on every rung at once.
  await page.mouse.click(day.x + day.width * 0.4, day.y + day.height * 0.15);
  await page.mouse.move(2, 2);
  await expect.poll(pixels).not.toBe(without);
  await page.keyboard.press("b");
  const line = page.getByRole("group", { name: "Walk through the past" });
  await expect(line).toBeVisible();
  await drawn(page, 6);
  await line.getByRole("button", { name: "Return to now" }).click();
  await expect(line).toHaveCount(0);
  await one(page);
});

test("a second market stands beside, and what is placed there is its own", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "isles-200");
  await page.keyboard.press("a");
  await drawn(page, 2);
  await page.getByLabel("Market of chart 2").click();
  await page.getByRole("option", { name: "Isles 40", exact: true }).click();
  await expect(charts(page).nth(1)).toHaveAccessibleName(/Isles 40/);
  await drawn(page, 2);
  const sheet = page.getByRole("complementary", { name: "Sheet" });
  await expect(sheet.getByRole("heading", { name: /Isles 40, .*the argument/ })).toBeVisible();
  await page.keyboard.press("l");
  const box = await charts(page).nth(1).boundingBox();
  if (!box) throw new Error("no chart");
  await page.mouse.click(box.x + 100, box.y + 150);
  await expect(sheet.getByRole("region", { name: "Selected mark" })).toBeVisible();
  await saved(page);
  // A rung chosen now is the second chart's; the first stays.
  await page.keyboard.press("Escape");
  await page.getByRole("navigation", { name: "Rungs" }).getByRole("link", { name: /^1 h/ }).click();
  await expect(charts(page).nth(1)).toHaveAccessibleName(/Isles 40, 1 h/);
  await expect(charts(page).nth(0)).toHaveAccessibleName(/Isles 200, Day/);
  await page.keyboard.press("q");
  await expect(sheet.getByRole("heading", { name: "Day: the argument" })).toBeVisible();
  await expect(sheet.getByRole("list", { name: "The argument" }).getByRole("listitem")).toHaveCount(0);
  await page.keyboard.press("q");
  await page.keyboard.press("Control+z");
  await saved(page);
  await one(page);
});

test("what the charts show is chosen, and kept", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const layout = () => page.waitForResponse((response) => response.url().endsWith("/layout") && response.ok());
  await page.keyboard.press("u");
  const dialog = page.getByRole("dialog", { name: "What the charts show" });
  await accessible(page);
  await Promise.all([layout(), dialog.getByLabel("Zones").click()]);
  await page.keyboard.press("Escape");
  await page.reload();
  await hydrated(page);
  await page.keyboard.press("t");
  const table = page.getByRole("region", { name: "Table of levels" });
  await expect(table.getByRole("row", { name: /last high/ })).toBeVisible();
  await expect(table.getByRole("row", { name: /demand/ })).toHaveCount(0);
  await page.keyboard.press("u");
  await Promise.all([layout(), dialog.getByLabel("Zones").click()]);
  await page.keyboard.press("Escape");
  await expect(table.getByRole("row", { name: /demand/ })).toBeVisible();
});

test(
  "by touch: a tap chooses, two fingers zoom, a resting finger opens the menu, a lifted one sets the " + "anchor",
  async ({ browser }) => {
    const context = await browser.newContext({ hasTouch: true, viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await signIn(page, "analyst");
    await descend(page, "loam-fields");
    const sheet = page.getByRole("complementary", { name: "Sheet" });
    const lines = sheet.getByRole("list", { name: "The argument" }).getByRole("listitem");
    const box = await charts(page).boundingBox();
    if (!box) throw new Error("no chart");
    const glass = await context.newCDPSession(page);
    const touch = (type: string, ...points: [number, number][]) =>
      glass.send("Input.dispatchTouchEvent", {
        type: type as "touchStart",
        touchPoints: points.map(([x, y], id) => ({ x: box.x + x, y: box.y + y, id })),
      });
    // A resting finger opens the menu, from which a level is placed there.
    await touch("touchStart", [300, 250]);
    await page.waitForTimeout(700);
    await touch("touchEnd");
    await page.getByRole("menuitem", { name: /^Level/ }).tap();
    await expect(lines).toHaveCount(1);
    await expect(sheet.getByRole("region", { name: "Selected mark" })).toBeVisible();
    // A step and a finger that is lifted: the second level.
    await page
      .getByRole("group", { name: "Steps" })
      .getByRole("button", { name: /^Levels/ })
      .tap();
    await touch("touchStart", [320, 330]);
    await touch("touchMove", [330, 350]);
    await expect(lines).toHaveCount(1);
    await touch("touchEnd");
    await expect(lines).toHaveCount(2);
    // Two fingers apart: fewer bars, so that the picture is another one.
    const canvas = charts(page).locator("canvas").first();
    const picture = () => canvas.evaluate((one: HTMLCanvasElement) => one.toDataURL().length);
    const before = await picture();
    await touch("touchStart", [300, 300], [400, 300]);
    await touch("touchMove", [200, 300], [500, 300]);
    await touch("touchEnd");
    await expect.poll(picture).not.toBe(before);
    for (let left = 2; left > 0; left--) {
      const line = lines.first().getByRole("button");
      if ((await line.getAttribute("aria-pressed")) !== "true") await line.tap();
      await sheet.getByRole("button", { name: "Remove" }).tap();
      await expect(lines).toHaveCount(left - 1);
    }
    await saved(page);
    await context.close();
  },
);

test("the first visit is led by five sentences that point at the real things, once", async ({ browser }) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const guide = page.getByRole("note", { name: "First steps" });
  for (let step = 1; step <= 5; step++) {
    await expect(guide.getByText(`${step} of 5`)).toBeVisible();
    await expect(
      page.locator("[style*='outline: currentcolor solid 2px'], [style*='outline: 2px solid currentcolor']"),
    ).toHaveCount(1);
    await guide.getByRole("button", { name: step === 5 ? "Begin" : "Next" }).click();
  }
  await expect(guide).toHaveCount(0);
  await page.reload();
  await hydrated(page);
  await expect(guide).toHaveCount(0);
  await context.close();
});
