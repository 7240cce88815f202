import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, clickAt, descend, handles, hydrated, saved, signIn, signInByHand } from "./desk.ts";

/** The whole way once: a market is read, marks and a plan are made, published, followed by the feed, and read. */
test.describe.configure({ mode: "serial" });

/** What is said in the argument. */
const lines = (page: Page) =>
  page.getByRole("complementary", { name: "Sheet" }).getByRole("list", { name: "The argument" }).getByRole("listitem");

test("an analyst signs in and finds the markets of the Isles", async ({ page }) => {
  await page.goto("/");
  await expect(page).toHaveURL(/sign-in/);
  await accessible(page);
  await signInByHand(page, "analyst");
  await expect(page.getByRole("heading", { name: /round today$/ })).toBeVisible();
  await expect(
    page.getByRole("table", { name: "Board" }).getByRole("link", { name: "Sable tin", exact: true }),
  ).toBeVisible();
  await page.getByRole("navigation", { name: "Places" }).getByRole("link", { name: "Library" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Library" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Sable tin", exact: true })).toBeVisible();
  await accessible(page);
});

test("a wrong password is told without saying which part was wrong", async ({ page }) => {
  await page.goto("/sign-in");
  await page.getByLabel("Mail address").fill("analyst@meridian.example");
  await page.getByLabel("Password").fill("not this one");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("alert")).toHaveText(/do not go together/);
});

test("marks are placed by hand, undone, redone, and still there after a reload", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const sheet = page.getByRole("complementary", { name: "Sheet" });

  await expect(lines(page).first()).toBeVisible();
  const before = await lines(page).count();
  await page.keyboard.press("l");
  await clickAt(page, 0.3, 0.5);
  await expect(lines(page)).toHaveCount(before + 1);
  await page.keyboard.press("z");
  await clickAt(page, 0.3, 0.8);
  await page.keyboard.press("r");
  await clickAt(page, 0.3, 0.8);
  await clickAt(page, 0.6, 0.3);
  await page.keyboard.press("w");
  await clickAt(page, 0.3, 0.9);
  await clickAt(page, 0.4, 0.6);
  await clickAt(page, 0.5, 0.7);
  await page.keyboard.press("Escape");
  await expect(lines(page)).toHaveCount(before + 4);
  await saved(page);

  await page.keyboard.press("Control+z");
  await expect(lines(page)).toHaveCount(before + 3);
  await page.keyboard.press("Control+Shift+z");
  await expect(lines(page)).toHaveCount(before + 4);
  await sheet.getByText("How it is taken").click();
  await sheet.getByLabel("Degree", { exact: true }).click();
  await page.getByRole("option", { name: "Minute", exact: true }).click();
  await saved(page);
  await accessible(page);

  await page.reload();
  await expect(lines(page)).toHaveCount(before + 4);
  await expect(sheet.getByText(/Minute impulse/).first()).toBeVisible();
});

test("a count says which rule a typed pivot breaks, and what would end it", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const sheet = page.getByRole("complementary", { name: "Sheet" });
  await sheet.getByRole("button", { name: /Minute impulse/ }).click();
  await expect(sheet.getByText("wave 2 is still running")).toBeVisible();
  await sheet.getByText("Pivots, exactly").click();
  const second = sheet.getByLabel("Pivot 2", { exact: true });
  const start = await sheet.getByLabel("Start", { exact: true }).inputValue();
  await second.fill(String(Number(start) - 5));
  await second.press("Enter");
  await expect(sheet.getByRole("alert")).toHaveText(/wave 2 does not pass the start of wave 1/);
  await second.fill("nonsense");
  await expect(sheet.getByText("This is not a number.")).toBeVisible();
  await second.press("Escape");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(sheet.getByRole("alert")).toHaveCount(0);
});

test("while a pivot is dragged into a violation, the broken rule is named at once", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "verin-olta");
  const sheet = page.getByRole("complementary", { name: "Sheet" });
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  await page.keyboard.press("w");
  for (const [x, y] of [
    [200, 500],
    [300, 250],
    [400, 350],
  ])
    await page.mouse.click(box.x + x, box.y + y);
  await page.keyboard.press("Escape");
  await expect(sheet.getByRole("alert")).toHaveCount(0);
  // The handle of the last pivot stands at the swing that click snapped to.
  const [x, y] = (await handles(page))[2];
  await page.mouse.move(box.x + x, box.y + y);
  await page.mouse.down();
  await page.mouse.move(box.x + 410, box.y + 620, { steps: 8 });
  await expect(page.getByRole("status").filter({ hasText: "wave 2 does not pass the start of wave 1" })).toBeVisible();
  await page.mouse.up();
  await expect(sheet.getByRole("alert")).toHaveText(/wave 2 does not pass the start of wave 1/);
  await chart(page).focus();
  await page.keyboard.press("Delete");
  await saved(page);
});

test("a handle is dragged and the mark follows", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "verin-olta");
  const sheet = page.getByRole("complementary", { name: "Sheet" });
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  const others = await lines(page).count();
  await page.keyboard.press("l");
  await page.mouse.click(box.x + 300, box.y + 300);
  const price = sheet.getByLabel("Price", { exact: true });
  const before = await price.inputValue();
  // Typed, the price is exact; a step of the keys is one tick.
  await price.fill("58,4");
  await price.press("Enter");
  await expect(price).toHaveValue("58.400");
  await chart(page).focus();
  await page.keyboard.press("ArrowUp");
  await expect(price).toHaveValue("58.401");
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(price).toHaveValue(before);
  // Its handle stands where the click snapped to; dragged two hundred pixels up the price is higher.
  await page.mouse.move(box.x + 300, box.y + 300);
  await page.mouse.down();
  await page.mouse.move(box.x + 310, box.y + 160, { steps: 6 });
  await page.mouse.up();
  await expect(price).not.toHaveValue(before);
  expect(Number(await price.inputValue())).toBeGreaterThan(Number(before));
  await chart(page).focus();
  await page.keyboard.press("Delete");
  await expect(lines(page)).toHaveCount(others);
});

test("the view is panned and zoomed by wheel, drag and keys", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("no chart");
  const picture = () => page.locator("[data-chart] canvas").first().screenshot();
  const seen = [await picture()];
  const changed = async () => {
    await page.waitForTimeout(120);
    const now = await picture();
    for (const before of seen) expect(now.equals(before)).toBe(false);
    seen.push(now);
  };
  await page.mouse.move(box.x + 400, box.y + 300);
  await page.mouse.wheel(0, -300);
  await changed();
  await page.mouse.down();
  await page.mouse.move(box.x + 520, box.y + 300, { steps: 4 });
  await page.mouse.up();
  await changed();
  await page.keyboard.press("ArrowLeft");
  await changed();
  await page.keyboard.press("-");
  await changed();
});

test("a scenario is written with its reward to risk in sight, published, triggered and followed", async ({
  page,
  browser,
}) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin");
  const sheet = page.getByRole("complementary", { name: "Sheet" });
  await page.keyboard.press("l");
  await clickAt(page, 0.6, 0.4);
  await sheet.getByLabel("Price", { exact: true }).fill("470");
  await sheet.getByLabel("Price", { exact: true }).press("Enter");
  await sheet.getByLabel("Name").fill("old high");
  await sheet.getByLabel("Name").blur();
  await expect(sheet.getByText("old high 470.00, fresh.")).toBeVisible();
  await saved(page);
  await sheet.getByRole("button", { name: "Write one" }).click();
  const form = sheet.getByRole("form", { name: "Scenario" });
  await form.getByLabel("Scenario", { exact: true }).fill("Any close in reach");
  const put = async (name: string, value: string) => {
    await form.getByLabel(name, { exact: true }).fill(value);
    await form.getByLabel(name, { exact: true }).press("Enter");
  };
  await form.getByRole("combobox", { name: /^If/ }).fill("a candle closes beyond");
  await form.getByRole("combobox", { name: /^If/ }).press("Enter");
  await put("Price", "1");
  await form.getByLabel("Candle of").click();
  await page.getByRole("option", { name: "1 h" }).click();
  await form.getByLabel("Order").click();
  await page.getByRole("option", { name: "next open" }).click();
  await put("Enter about", "434");
  await put("Stop at", "334");
  await put("Wrong below", "300");
  await put("Target 1", "484");
  await expect(form.getByText(/0.50 : 1/).first()).toBeVisible();
  await expect(form.getByRole("region", { name: "Checklist" })).toContainText("Reward to risk is 1 or more.");
  await form.getByRole("button", { name: "One more target" }).click();
  await put("Target 2", "734");
  await expect(form.getByText("1.75 : 1").first()).toBeVisible();
  await expect(form.getByRole("cell", { name: "300.0" })).toBeVisible();
  await put("Stop at", "500");
  await expect(form.getByText("The stop of a long stands below its entry.")).toBeVisible();
  await put("Stop at", "334,00");
  await form.getByRole("button", { name: "Save scenario" }).click();
  await expect(sheet.getByText(/If a 1 h candle closes above 1.00, buy the next open/)).toBeVisible();
  await accessible(page);

  await page.goto("/editions");
  await accessible(page);
  await page.getByRole("button", { name: "Begin an outlook" }).click();
  await page.waitForURL(/editions\/[0-9a-f-]{36}$/);
  await hydrated(page);
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(page.getByRole("alert")).toHaveText(/needs a title/);
  await page.getByLabel("Title").fill("Tin <script>alert(1)</script> holds its ground");
  const words = page.getByRole("textbox", { name: "Words", exact: true });
  await words.click();
  await page.keyboard.type("First paragraph.");
  await page.keyboard.press("Enter");
  await page.keyboard.type("Second <b>paragraph</b>.");
  await page.getByLabel("Market", { exact: true }).click();
  await page.getByRole("option", { name: "Sable tin", exact: true }).click();
  await page.getByRole("button", { name: "Add its section" }).click();
  await expect(page.getByRole("img", { name: /Chart of Sable tin/ })).toBeVisible();
  await expect(page.getByRole("table", { name: "Levels that matter" })).toBeVisible();
  await saved(page);
  await accessible(page);
  const draft = page.url();
  await page.getByRole("button", { name: "Publish" }).click();
  await page.waitForURL(/outlooks\/\d+$/);
  const { pathname: outlook } = new URL(page.url());
  await accessible(page);
  await hydrated(page);
  await page.getByRole("button", { name: "Lamp" }).click();
  await accessible(page);
  await page.goto("/outlooks");
  await accessible(page);
  await page.goto(outlook);

  // The subscriber reads it without any script.
  const context = await browser.newContext({ javaScriptEnabled: false, baseURL: new URL(page.url()).origin });
  const reader = await context.newPage();
  await signIn(reader, "subscriber");
  await reader.goto("/outlooks");
  await reader.getByRole("link", { name: /holds its ground/ }).click();
  await expect(reader.getByRole("heading", { level: 1 })).toHaveText("Tin <script>alert(1)</script> holds its ground");
  const became = reader.getByRole("list", { name: "What became of Any close in reach" });
  await expect(reader.getByText("Second <b>paragraph</b>.")).toBeVisible();
  await expect(became.getByText("Waiting for its trigger.")).toBeVisible();
  const image = await reader.request.get(`${outlook}/picture/0.png`);
  expect(image.headers()["content-type"]).toBe("image/png");
  for (const forbidden of [
    "/library",
    "/library/import?upload=x",
    "/descent/sable-tin",
    "/editions",
    new URL(draft).pathname,
    `${new URL(draft).pathname}/previews`,
    `${new URL(draft).pathname}/read`,
    `${new URL(draft).pathname}/picture/0.png`,
    "/plans",
    "/desk",
    "/bars/sable-tin/P1D",
    "/live?chart=sable-tin+P1D+all",
    "/descent/sable-tin/desk",
    "/round",
    "/round/sable-tin",
    "/round/sable-tin/plan",
    "/round/evening",
    "/round/history",
    "/events",
    "/events/calendar.ics",
    "/events/calendar.csv",
    "/sentences",
    "/descent/sable-tin/scenarios/context?until=1",
    "/alerts",
    "/alerts/news",
    "/descent/sable-tin/relation?to=skerry-silver&at=1",
  ]) {
    const response = await reader.request.get(forbidden);
    expect([403, 404], forbidden).toContain(response.status());
    const data = await reader.request.get(`${forbidden.split("?")[0]}.data`);
    expect([403, 404], `${forbidden}.data`).toContain(data.status());
  }
  const forged = await reader.request.post("/descent/sable-tin/steps", {
    data: { steps: [] },
    headers: { Origin: new URL(page.url()).origin },
  });
  expect(forged.status()).toBe(403);
  const arranged = await reader.request.post("/layout", { data: {}, headers: { Origin: new URL(page.url()).origin } });
  expect(arranged.status()).toBe(403);
  expect((await reader.request.get("/outlooks/999")).status()).toBe(404);

  // The market goes on. The hour that was being made when it was published does not count; the next one that closes
  // above the trigger does, and the plan is entered at the next open.
  await descend(page, "sable-tin", "PT1M");
  const last = page.getByText(/1 min closes in|on the 1 min/).first();
  await expect(last).toBeVisible();
  await page.getByRole("button", { name: "+1 h" }).click();
  await expect(page.getByText(/13:42 UTC/)).toBeVisible();
  await reader.reload();
  await expect(became.getByText("Waiting for its trigger.")).toBeVisible();
  await page.getByRole("button", { name: "+1 h" }).click();
  await expect(page.getByText(/14:42 UTC/)).toBeVisible();
  await reader.reload();
  await expect(became.getByText(/Triggered by a close at/)).toBeVisible();
  await expect(became.getByText(/Entered at/)).toBeVisible();
  await context.close();
});

test("new bars arrive in an open chart without a reload", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "sable-tin", "PT1M");
  const price = page.locator("h1 + p");
  const before = await price.textContent();
  await page.getByRole("combobox", { name: "Speed of the simulated feed" }).click();
  await page.getByRole("option", { name: "10 min/s" }).click();
  await expect(price).not.toHaveText(before ?? "");
  await page.getByRole("combobox", { name: "Speed of the simulated feed" }).click();
  await page.getByRole("option", { name: "feed stands" }).click();
});
