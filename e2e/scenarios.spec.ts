import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, descend, handles, hydrated, signIn } from "./desk.ts";

/** Scenarios of many steps: written by keys alone, dragged, checked, run over the past, published and followed. */

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const form = (page: Page) => sheet(page).getByRole("form", { name: "Scenario" });

/** Begins a scenario by its key: the ready-made sentences have the focus. */
async function begin(page: Page): Promise<void> {
  await page.keyboard.press("/");
  const sentences = form(page).getByRole("group", { name: "Ready-made sentences" });
  await expect(sentences.getByRole("button").first()).toBeFocused();
}

/** Goes on by Tab until something has the focus. */
async function tabTo(page: Page, isThere: () => Promise<boolean>, most = 60): Promise<void> {
  for (let i = 0; i < most; i++) {
    if (await isThere()) return;
    await page.keyboard.press("Tab");
  }
  throw new Error("Tab never came there.");
}

const focused = (page: Page) =>
  page.evaluate(() => {
    const at = document.activeElement;
    const label =
      at?.getAttribute("aria-label") ?? (at?.id ? document.querySelector(`label[for="${at.id}"]`)?.textContent : "");
    return label ?? "";
  });

test("the long sentence is written by keys alone in under a minute", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  await expect(sheet(page).getByRole("list", { name: "The argument" }).getByRole("listitem").first()).toBeVisible();
  await chart(page).focus();
  const began = Date.now();
  const to = (label: RegExp) => tabTo(page, async () => label.test(await focused(page)));
  const type = async (text: string) => {
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  };
  await page.keyboard.press("/");
  await expect(form(page)).toBeVisible();
  // While the week holds this low ...
  await to(/^While/);
  await type("a candle closes beyond");
  await type("388.60");
  await page.keyboard.press("Shift+Tab");
  // ... if price comes into the area, sweeps the low beneath it and closes back ...
  await to(/^If/);
  await type("day demand");
  await page.keyboard.press("1");
  await to(/^then/);
  await type("sweeps a level");
  await type("402.5");
  // ... and the structure of 5 minutes shifts up ...
  await to(/^then/);
  await type("structure shifts");
  // Its line is opened, and its rung is chosen by the first letter of its name.
  await page.keyboard.press("Shift+Tab");
  await page.keyboard.press("Shift+Tab");
  await page.keyboard.press("Enter");
  await tabTo(page, async () => (await page.evaluate(() => document.activeElement?.textContent)) === "Day");
  await page.keyboard.press("Enter");
  await page.keyboard.type("5");
  await page.keyboard.press("Enter");
  await to(/^Unless/);
  await type("a time of day");
  // ... then buy at the gap that move left, stop below the sweep, half at the last high, the rest at the fifth wave.
  await to(/^Enter at/);
  await type("near edge of the gap");
  await to(/^Stop at/);
  await type("extreme of the sweep");
  await to(/^Ticks/);
  await type("-2");
  await to(/^Target 1/);
  await type("454.70");
  await tabTo(page, async () => (await page.evaluate(() => document.activeElement?.textContent)) === "One more target");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Shift+Tab");
  await page.keyboard.press("Shift+Tab");
  await type("457.66");
  await to(/^Wrong below/);
  await type("388");
  await page.keyboard.press("Shift+Tab");
  const name = form(page).getByLabel("Scenario", { exact: true });
  await tabTo(page, async () => name.evaluate((one) => one === document.activeElement), 120).catch(() => name.focus());
  await page.keyboard.type("The long one");
  await page.keyboard.press("Control+Enter");
  const said = sheet(page)
    .getByText(/price touches .* then price sweeps the low 402\.50 .* structure shifts up/)
    .last();
  await expect(said).toBeVisible();
  const took = Date.now() - began;
  expect(took).toBeLessThan(60_000);
  await expect(said).toContainText(/buy at the near edge of the gap \(step 3\) by limit/);
  await expect(said).toContainText(/Wrong below 388\.00/);
});

test("a price is dragged on the chart, a step is moved by keys, a rule is waived with its reason", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  await begin(page);
  // A number fills one from what the rung shows.
  await page.keyboard.press("1");
  const name = form(page).getByLabel("Scenario", { exact: true });
  // The digit itself is not typed into the name.
  await expect(name).toHaveValue(/^Second touch of Day demand(.*\.\d{2})?$/);
  await expect(name).toBeFocused();
  const stop = form(page).getByLabel("Stop at");
  const before = Number(await stop.inputValue());
  // At 1280 by 800 the chart keeps more than half of the width beside the builder.
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  expect(box.width).toBeGreaterThan(640);
  // Entry, stop and two targets; where it is wrong is at the stop.
  await expect.poll(async () => (await handles(page)).length).toBeGreaterThanOrEqual(4);
  const [, [x, y]] = await handles(page);
  await page.mouse.move(box.x + x, box.y + y);
  await page.mouse.down();
  await page.mouse.move(box.x + x, box.y + y + 60, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => Number(await stop.inputValue())).toBeLessThan(before);

  const steps = form(page).getByRole("list", { name: "Steps" }).getByRole("listitem");
  await expect(steps.nth(1)).toContainText("price leaves");
  await steps.nth(1).getByRole("button", { name: /^Move/ }).focus();
  // What is lifted is measured first: a hand is never as fast as this.
  for (const key of ["Space", "ArrowUp", "Space"]) {
    await page.keyboard.press(key);
    await page.waitForTimeout(150);
  }
  await expect(steps.nth(0)).toContainText("price leaves");

  const checklist = form(page).getByRole("region", { name: "Checklist" });
  await form(page)
    .getByRole("button", { name: /^All \d+/ })
    .click();
  const waive = checklist.getByRole("button", { name: "Waive" });
  await expect(waive.first()).toBeVisible();
  await waive.first().click();
  await page.getByLabel("It is waived because").fill("Size is halved");
  await page.getByLabel("It is waived because").press("Enter");
  await expect(checklist.getByText("Waived: Size is halved")).toBeVisible();
  await accessible(page);
  await form(page).getByRole("button", { name: "Keep as a sentence" }).click();
  await expect(form(page).getByText(/is among your sentences/)).toBeVisible();
  await form(page).getByRole("button", { name: "Save scenario" }).click();
  const scenarios = sheet(page).getByRole("region", { name: "Scenarios" });
  await expect(scenarios.getByText(/^alternate, \d+ %, acceptable/).first()).toBeVisible();
  await scenarios.getByRole("button", { name: "Tell me each step" }).first().click();
  await expect(scenarios.getByText("You are told of each step, until it is over.")).toBeVisible();
  await accessible(page);
});

test("bad prices are told at their field and nothing is lost; a sentence of one's own fills another market", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await descend(page, "skerry-silver");
  await begin(page);
  await form(page)
    .getByRole("button", { name: /^Second touch of/ })
    .first()
    .click();
  const stop = form(page).getByLabel("Stop at");
  await expect(stop).not.toHaveValue("");
  await stop.fill("100000");
  await stop.press("Enter");
  await expect(
    form(page)
      .getByText(/The stop of a long stands below|A target of a short/)
      .first(),
  ).toBeVisible();
  await form(page).getByRole("button", { name: "Save scenario" }).click();
  await expect(form(page).getByRole("alert").filter({ hasText: "Nothing was saved" })).toBeVisible();
  await expect(stop).toHaveValue(/^100000/);
  await form(page).getByRole("button", { name: "Close", exact: true }).click();
});

test("a rule is run over the past against chance, and an instance is walked forward from", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  await begin(page);
  await page.keyboard.press("9");
  await form(page).getByRole("button", { name: "Over the past" }).click();
  const past = form(page).getByRole("region", { name: "This rule over the past" });
  await past.getByRole("button", { name: "Run it" }).click();
  const table = past.getByRole("table", { name: "The rule against chance" });
  await expect(table.getByRole("row", { name: /Trades ended/ })).toBeVisible();
  await expect(past.getByText(/drawn with seed 20260101/)).toBeVisible();
  await accessible(page);
  await past.getByRole("list", { name: "Instances, latest first" }).getByRole("button").first().click();
  await page.waitForURL(/asOf=/);
});

test("a stop of the round shows what is called there; P writes one from what stands where there is none", async ({
  page,
}) => {
  await signIn(page, "analyst");
  await page.goto("/round");
  await hydrated(page);
  const stop = page.getByRole("complementary", { name: "This stop" });
  const board = page.getByRole("table", { name: "Board" });
  await board.getByRole("link", { name: /^Sable tin, March, Day: / }).click();
  await expect(stop.getByRole("region", { name: "Scenarios" })).toContainText(/Second touch of .* preferred, 60 %/);
  await accessible(page);
  await page.goto("/round");
  await hydrated(page);
  await board.getByRole("link", { name: /^Hale Remedies, Day: / }).click();
  await expect(page.locator('[data-stop="hale-remedies P1D"]')).toBeVisible();
  await expect(stop.getByRole("list", { name: "Nearest areas" })).toBeVisible();
  await page.keyboard.press("p");
  await expect(stop.getByText(/^Written: Back from /)).toBeVisible();
  await page.goto("/round/hale-remedies/plan");
  await expect(page.getByText(/^Enter: Back from /)).toBeVisible();
});

test("published scenarios are followed by the feed, step by step, and whoever asked is told", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/outlooks/1");
  const states = page.getByRole("list", { name: /^What became of/ });
  await expect(states).toHaveCount(10);
  const texts = (await states.allInnerTexts()).join("\n");
  // Every kind of sentence stands in the world: entered and ended, cancelled or wrong before, and still under way.
  expect(texts).toMatch(/Entered at/);
  expect(texts).toMatch(/Stopped at|Target 1 reached/);
  expect(texts).toMatch(/Wrong: price went beyond|Given up at/);
  await expect(
    page
      .getByRole("status")
      .filter({ hasText: /^Now: .*(waiting until|the order rests|open, stop)/ })
      .first(),
  ).toBeVisible();
  await accessible(page);
});

test("the week ahead is read in any zone, with what releases did before, and goes out as a table", async ({ page }) => {
  await signIn(page, "analyst");
  await page.goto("/events");
  await hydrated(page);
  const day = page.getByRole("region", { name: "Wed 14 Oct 2026" });
  await expect(day.getByRole("group", { name: "09 h" })).toContainText(/ATR \(n \d+\)/);
  await day.locator("summary").first().click();
  await expect(day.getByText(/actual .*, forecast .*, previous/).first()).toBeVisible();
  await accessible(page);
  await page.getByRole("combobox", { name: "Times in" }).fill("Asia/Tokyo");
  await page.keyboard.press("Enter");
  await page.waitForURL(/zone=Asia%2FTokyo/);
  await expect(day.getByRole("group", { name: "18 h" })).toContainText(/ATR/);
  const table = await page.request.get("/events/calendar.csv");
  expect((await table.text()).split("\n")[0]).toContain("time,title,impact");
});
