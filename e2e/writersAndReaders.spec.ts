import { expect, test } from "@playwright/test";
import { accessible, beginOutlook, editionsCalled, hydrated, newestEdition, saved, signIn } from "./desk.ts";

test("a reader's plan is changed, and what it does not show is neither on the page nor in what it asks for", async ({
  page,
  browser,
}) => {
  await signIn(page, "owner");
  await page.goto("/plans");
  await hydrated(page);
  await accessible(page);
  const free = page.getByRole("form", { name: "Free" });
  await free.getByLabel("Hours later").fill("0");
  await free.getByLabel("Scenarios, and where they are wrong").check();
  await free.getByRole("button", { name: "Save Free" }).click();
  await expect(page.getByRole("status").filter({ hasText: /Free is saved/ })).toBeVisible();
  await page.goto("/people");
  await page.getByLabel("Plan of Nell Arden").selectOption("free");
  await page.getByRole("button", { name: "Put Nell Arden on this plan" }).click();
  await expect(page.getByLabel("Plan of Nell Arden")).toHaveValue("free");

  const context = await browser.newContext({ baseURL: new URL(page.url()).origin, javaScriptEnabled: false });
  const reader = await context.newPage();
  await signIn(reader, "newcomer");
  const number = (await editionsCalled(reader, /room above/)).at(-1);
  await reader.goto(`/outlooks/${number}`);
  await expect(reader.getByText(/Its entries, stops and targets are for other plans/).first()).toBeVisible();
  await expect(reader.getByText(/Parts of this outlook are for other plans/)).toBeVisible();
  const whole = (await (await page.request.get(`/outlooks/${number}/edition.json`)).json()) as { leaves: Leaf[] };
  const orders = whole.leaves.filter(({ see }) => see === "scenarios+orders").map(({ content }) => content);
  const targets = JSON.stringify(orders).match(/"price":(\d+\.?\d*)/g) ?? [];
  expect(targets.length).toBeGreaterThan(0);
  // Bars may have been at any price.
  const withoutBars = (text: string) =>
    text.startsWith("{")
      ? JSON.stringify(
          (JSON.parse(text) as { leaves: { leaf: { path: string } }[] }).leaves.filter(
            ({ leaf }) => !leaf.path.endsWith("/bars"),
          ),
        )
      : text;
  const sent = [
    await reader.content(),
    ...(await Promise.all(
      [`/outlooks/${number}.data`, `/outlooks/${number}/edition.json`, `/outlooks/${number}/picture/0.svg`].map(
        async (address) => withoutBars(await (await reader.request.get(address)).text()),
      ),
    )),
  ];
  for (const target of targets.map((text) => text.replace('"price":', "")))
    for (const text of sent) expect(text).not.toContain(target);
  for (const [address, status] of [
    ["/record/record.json", 403],
    [`/outlooks/${number}/picture/99.png`, 404],
    [`/outlooks/${number}/picture/0.png?layout=whole`, 404],
    ["/plans", 403],
  ] as const)
    expect((await reader.request.get(address)).status(), address).toBe(status);
  // Asked for by its digest a picture may be kept for ever; the same without it is asked for anew.
  const source =
    (await reader
      .getByRole("img", { name: /^Chart of/ })
      .first()
      .getAttribute("src")) ?? "";
  const kept = await reader.request.get(source);
  expect(kept.headers()["cache-control"]).toContain("immutable");
  const again = await reader.request.get(`/outlooks/${number}/picture/0.png`);
  expect(again.headers()["cache-control"]).toBe("private, no-cache");
  await reader.goto(`/outlooks/${number}?as=paper`);
  await expect(reader.locator("main svg").first()).toBeVisible();
  await page.goto(`/outlooks/${number}?as=paper`);
  await hydrated(page);
  await accessible(page);
});

/** Words each writes while the other does; a full minute of it is judged apart. */
const ROUNDS = process.env.COMPASS_MANY ? 60 : 8;

interface Leaf {
  see: string;
  content: unknown;
}

test("two write in one draft at once, in the same words, and nothing is lost", async ({ page, browser }) => {
  await signIn(page, "analyst");
  await page.goto("/editions");
  await hydrated(page);
  await page.getByRole("button", { name: "Begin an outlook" }).click();
  await page.waitForURL(/editions\/[0-9a-f-]{36}$/);
  const other = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signIn(other, "colleague");
  await other.goto(page.url());
  const words = (of: typeof page) => of.getByRole("textbox", { name: "Words", exact: true });
  for (const one of [page, other]) await expect(words(one)).toBeVisible();
  await words(page).click();
  await page.keyboard.type("Mine begins. ");
  await expect(words(other)).toContainText("Mine begins.");
  await words(other).click();
  await other.keyboard.press("Control+End");
  await other.keyboard.press("Enter");
  const said = { mine: [] as string[], theirs: [] as string[] };
  for (let n = 0; n < ROUNDS; n++) {
    said.mine.push(`mine${n}`);
    said.theirs.push(`theirs${n}`);
    await Promise.all([
      page.keyboard.type(`mine${n} `, { delay: 20 }),
      other.keyboard.type(`theirs${n} `, { delay: 20 }),
    ]);
    await page.waitForTimeout(700);
  }
  for (const one of [page, other])
    await expect(async () => {
      const text = await words(one).innerText();
      for (const word of [...said.mine, ...said.theirs]) expect(text).toContain(word);
    }).toPass();
  await page.reload();
  for (const word of [...said.mine, ...said.theirs]) await expect(words(page)).toContainText(word);
});

test("a draft is looked at as each plan sees it, walked through, read by a colleague, and goes out by itself", async ({
  page,
  browser,
}) => {
  await signIn(page, "analyst");
  await beginOutlook(page);
  await page.getByLabel("Title").fill("Silver, step by step");
  const words = page.getByRole("textbox", { name: "Words", exact: true });
  await words.click();
  await page.keyboard.type("Silver walks down its rungs.");
  await page.getByLabel("Market", { exact: true }).click();
  await page.getByRole("option", { name: "Skerry silver", exact: true }).click();
  await page.getByRole("button", { name: "Add a walk-through" }).click();
  await page.getByRole("button", { name: "Begin as the desk says it" }).click();
  await expect(page.getByLabel("What step 1 says")).toHaveValue(/ (up|down|sideways)/);
  await page.getByLabel("What step 1 says").fill("The year goes its way.");
  await saved(page);
  await accessible(page);

  const colleague = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signIn(colleague, "colleague");
  await colleague.goto(page.url());
  await hydrated(colleague);
  await colleague.getByLabel("What to ask back").fill("Why the year?");
  await colleague.getByRole("button", { name: "Ask back" }).click();
  await expect(colleague.getByText("Jorun Vale asks back")).toBeVisible();
  await page.reload();
  await hydrated(page);
  await expect(page.getByText("Why the year?")).toBeVisible();

  await page.getByRole("link", { name: "As readers will see it" }).click();
  await expect(page.getByRole("row", { name: /^Member/ })).toContainText("at once");
  const phone = page.frameLocator('iframe[title="On a phone"]');
  await expect(phone.getByRole("heading", { name: "Skerry silver, step by step" })).toBeVisible();
  await expect(page.getByRole("region", { name: "As mail" })).toContainText("1. Year. The year goes its way.");
  await accessible(page);
  await page.getByRole("link", { name: "Back to the draft" }).click();
  await hydrated(page);
  await page.getByRole("button", { name: "Let it go out then" }).click();
  await expect(page.getByRole("region", { name: "Going out" })).toContainText("as Ines Quill decided");
  await page.getByRole("button", { name: "+1 h" }).click();
  // It is looked for every few seconds.
  await expect(async () => {
    expect(await newestEdition(page, /Silver, step by step/)).toBeGreaterThan(0);
  }).toPass({ timeout: 30_000 });
  await page.goto(`/outlooks/${await newestEdition(page, /Silver, step by step/)}`);
  await page.getByRole("link", { name: "Quarter next" }).click();
  await expect(page.getByRole("heading", { name: "Quarter", exact: true })).toBeInViewport();
  await accessible(page);
});

test("an outlook that cannot go out is not scheduled, and one that is held is told on every page", async ({ page }) => {
  await signIn(page, "analyst");
  await beginOutlook(page, "Lesson");
  const lacks = page.getByRole("list", { name: "What stops it" });
  await expect(lacks).toContainText("An outlook needs a title.");
  await page.getByRole("button", { name: "Let it go out then" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "An outlook needs some words." })).toBeVisible();
  await page.getByLabel("Title").fill("A lesson that waits");
  await page.getByRole("textbox", { name: "Words", exact: true }).click();
  await page.keyboard.type("What a level is.");
  await saved(page);
  await page.reload();
  await hydrated(page);
  await expect(lacks).toBeHidden();
  await page.getByRole("button", { name: "Let it go out then" }).click();
  await expect(page.getByRole("region", { name: "Going out" })).toContainText("as Ines Quill decided");
  await page.getByLabel("Title").fill("A lesson that was changed");
  await saved(page);
  await page.getByRole("button", { name: "+1 h" }).click();
  const held = page.getByRole("alert", { name: "Held outlooks" });
  for (const place of ["/round", "/alerts", "/editions"])
    await expect(async () => {
      await page.goto(place);
      await expect(held).toContainText("A lesson that was changed did not go out at", { timeout: 1000 });
    }).toPass({ timeout: 60_000 });
  await accessible(page);
  await held.getByRole("link").click();
  await page.getByRole("button", { name: "Take it back in hand" }).click();
  await page.goto("/round");
  await expect(held).toBeHidden();
});
