import AxeBuilder from "@axe-core/playwright";
import { expect, type Page } from "@playwright/test";
import { PEOPLE } from "../demo/people.ts";

/** Signs in as a person does, by the form. */
export async function signInByHand(page: Page, who: keyof typeof PEOPLE): Promise<void> {
  await page.goto("/sign-in");
  await page.getByLabel("Mail address").fill(PEOPLE[who].email);
  await page.getByLabel("Password").fill(PEOPLE[who].password);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL((url) => !url.pathname.startsWith("/sign-in"));
}

type Cookies = Awaited<ReturnType<ReturnType<Page["context"]>["cookies"]>>;
const known = new Map<string, Cookies>();

/** Makes a page one of somebody who is signed in: by the form once, by the cookie it gave from then on. */
export async function signIn(page: Page, who: keyof typeof PEOPLE): Promise<void> {
  const cookies = known.get(who);
  if (cookies) return page.context().addCookies(cookies);
  await signInByHand(page, who);
  known.set(who, await page.context().cookies());
}

/** Waits until the page's script has taken over: the button of the lamp is drawn by it alone. */
export async function hydrated(page: Page): Promise<void> {
  await expect(page.getByRole("button", { name: /^(Lamp|Paper)$/ })).toBeVisible();
}

/** The number of the newest edition of some title, or of any; 0 where there is none. */
export async function newestEdition(page: Page, title?: RegExp): Promise<number> {
  return (await editionsCalled(page, title)).at(0) ?? 0;
}

/** Numbers of the editions of some title, the newest first: corrections of one are called as it is. */
export async function editionsCalled(page: Page, title: RegExp = /./): Promise<number[]> {
  await page.goto("/archive");
  const links = page.locator('main a[href^="/outlooks/"]').filter({ hasText: title });
  const addresses = await links.evaluateAll((all) => all.map((one) => one.getAttribute("href") ?? ""));
  return addresses.map((href) => Number(/\d+$/.exec(href)?.[0]));
}

/** Begins an outlook of the kind that is chosen, as whoever is signed in at the desk. */
export async function beginOutlook(page: Page, kind?: string): Promise<void> {
  await page.goto("/editions");
  await hydrated(page);
  if (kind) {
    await page.getByLabel("Kind").click();
    await page.getByRole("option", { name: kind }).click();
  }
  await page.getByRole("button", { name: "Begin an outlook" }).click();
  await page.waitForURL(/editions\/[0-9a-f-]{36}$/);
  await hydrated(page);
}

/** Opens a market's workspace and waits until its chart has been drawn and its marks are known. */
export async function descend(page: Page, market: string, rung = "P1D"): Promise<void> {
  await page.goto(`/descent/${market}?rung=${rung}`);
  await expect(chart(page)).toBeVisible();
  await hydrated(page);
  await page.waitForFunction(() => document.querySelector("[data-chart] canvas") !== null);
  // Anything before the document type, and the browser would lay the page out by the rules of another age.
  expect(await page.evaluate(() => document.compatMode)).toBe("CSS1Compat");
  await page.waitForTimeout(300);
}

export function chart(page: Page) {
  return page.getByRole("application");
}

/** Clicks at a share of the chart's width and height. */
export async function clickAt(page: Page, x: number, y: number): Promise<void> {
  const box = await chart(page).boundingBox();
  if (!box) throw new Error("The chart has no place on the page.");
  await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
}

export async function saved(page: Page): Promise<void> {
  // Two saves that meet are put together: what was written is stored then as well.
  await expect(page.getByRole("status").filter({ hasText: /^(saved \d|put together )/ })).toBeVisible();
}

/** Nothing that an accessibility checker finds. */
export async function accessible(page: Page): Promise<void> {
  // What is still fading in is not judged by its colours on the way.
  await page.evaluate(() =>
    Promise.race([
      Promise.allSettled(document.getAnimations().map(({ finished }) => finished)),
      new Promise((done) => setTimeout(done, 2000)),
    ]).then(() => true),
  );
  const { violations } = await new AxeBuilder({ page })
    // No script runs in there, the checker's neither: it would wait for its answer for ever.
    .exclude('iframe[sandbox=""]')
    .withTags(["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"])
    .analyze();
  expect(
    violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes.map(({ html, failureSummary }) => `${html.slice(0, 160)} ${failureSummary}`).join(" | ")}`,
    ),
  ).toEqual([]);
}

/** Where the handles of what is chosen stand on the chart, in its pixels. */
export async function handles(page: Page): Promise<[number, number][]> {
  const text = (await chart(page).getAttribute("data-handles")) ?? "";
  return text
    .split(" ")
    .filter(Boolean)
    .map((pair) => pair.split(",").map(Number) as [number, number]);
}

/** Takes back everything that was done since the page was opened. */
export async function undoAll(page: Page): Promise<void> {
  const undo = page.getByRole("complementary", { name: "Sheet" }).getByRole("button", { name: "Undo" });
  await expect(async () => {
    if (await undo.isEnabled()) await undo.click({ timeout: 1000 });
    await expect(undo).toBeDisabled({ timeout: 100 });
  }).toPass({ intervals: [0] });
  await saved(page);
}

/** Takes a kind in hand by its name. */
export async function findByName(page: Page, name: string): Promise<void> {
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox", { name: "Find" }).fill(name);
  await page
    .getByRole("option", { name: new RegExp(name) })
    .first()
    .click();
}
