import { expect, test } from "@playwright/test";
import { accessible, beginOutlook, hydrated, newestEdition, saved, signIn } from "./desk.ts";

test("a reader pays at the till and sees more at once, and a program of theirs is told what they are", async ({
  page,
  browser,
  baseURL,
}) => {
  const own = { ...(baseURL ? { baseURL } : {}) };
  const owner = await (await browser.newContext(own)).newPage();
  await signIn(owner, "owner");
  await owner.goto("/people");
  await owner.getByLabel("Plan of Nell Arden").selectOption("free");
  await owner.getByRole("button", { name: "Put Nell Arden on this plan" }).click();
  await expect(owner.getByLabel("Plan of Nell Arden")).toHaveValue("free");
  const reader = await (await browser.newContext(own)).newPage();
  await signIn(reader, "newcomer");
  await reader.goto("/settings");
  await accessible(reader);
  await reader.getByRole("link", { name: "Plans that are for sale" }).click();
  await expect(reader.getByText(/You read on the plan Free\./)).toBeVisible();
  await accessible(reader);
  await reader.getByRole("button", { name: "Try it for 14 days" }).click();
  await expect(reader.getByRole("status")).toHaveText("The trial has begun.");
  await expect(reader.getByText(/You read on the plan Member\. Member: on trial until/)).toBeVisible();
  await reader.getByRole("button", { name: "Pay for 30 days more" }).click();
  await expect(reader.getByText(/Member: paid until/)).toBeVisible();

  await reader.goto("/settings");
  const [standIn] = /http:\/\/127\.0\.0\.1:\d+\//.exec(await reader.locator("main").innerText()) ?? [];
  await reader.getByLabel("Address of your program").fill("http://127.0.0.1:3306/");
  await reader.getByRole("button", { name: "Tell it" }).click();
  await expect(reader.getByRole("alert")).toContainText("within a network of this desk");
  await reader.getByLabel("Address of your program").fill(`${standIn}told`);
  await reader.getByRole("button", { name: "Tell it" }).click();
  await expect(reader.getByText(/^whsec_/)).toBeVisible();
  await accessible(reader);

  // The browser of these tests reaches no push service; the desk's own stand-in of a browser is one that does.
  await reader.getByRole("button", { name: "Try it on the stand-in of a browser" }).click();
  await expect(reader.getByText(/^The stand-in of a browser, since/)).toBeVisible();

  await reader.goto("/markets/sable-tin");
  await reader.getByLabel("Tell me when price reaches").fill("high");
  await reader.getByRole("button", { name: "Tell me" }).click();
  await expect(reader.getByRole("alert")).toContainText("This is no price.");
  await reader.getByLabel("Tell me when price reaches").fill("999.5");
  await reader.getByRole("button", { name: "Tell me" }).click();
  await expect(reader.getByText("Price reaches your price 999.50.")).toBeVisible();
  await accessible(reader);
  await reader.getByRole("button", { name: /^Take back/ }).click();
  await expect(reader.getByText("You are not told of it.")).toBeVisible();

  await signIn(page, "analyst");
  await beginOutlook(page, "Lesson");
  await page.getByLabel("Title").fill("To programs as well");
  await page.getByRole("textbox", { name: "Words", exact: true }).fill("What is told is told once.");
  await saved(page);
  await page.getByRole("button", { name: "Publish" }).click();
  await page.waitForURL(/outlooks\/\d+$/);

  await expect(async () => {
    await owner.goto("/mailbox");
    const told = owner.locator("details").filter({ hasText: "/told" }).first();
    await told.locator("summary").click({ timeout: 1_000 });
    await expect(told).toContainText("To programs as well", { timeout: 1_000 });
    await expect(told).toContainText("webhook-signature: v1,");
    const notified = owner.locator("details").filter({ hasText: "/device" }).first();
    await notified.locator("summary").click({ timeout: 1_000 });
    await expect(notified).toContainText("What is told is told once.", { timeout: 1_000 });
  }).toPass({ timeout: 30_000 });
  await accessible(owner);

  // At once, though the plan of before waits a day; and no more once it is paid back.
  const number = await newestEdition(reader, /To programs as well/);
  expect((await reader.request.get(`/outlooks/${number}`)).status()).toBe(200);
  await reader.goto("/till");
  await reader.getByRole("button", { name: "Ask for it back" }).click();
  await expect(reader.getByText(/You read on the plan Free\. Member: paid back on/)).toBeVisible();
  expect((await reader.request.get(`/outlooks/${number}`)).status()).toBe(403);
  await reader.goto("/settings");
  await reader.getByRole("button", { name: /^End http/ }).click();
  await expect(reader.getByRole("status").first()).toHaveText("That program is told nothing any more.");
});

test("a picture is shared with anybody: a page, an image for other pages, and what programs make of the link", async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page, "analyst");
  const number = await newestEdition(page, /room above/);
  await page.goto(`/outlooks/${number}`);
  await hydrated(page);
  await page.getByText("Share a picture with anybody").click();
  await page.getByLabel("As it is seen on").selectOption("member");
  await page.getByRole("button", { name: "Share it" }).click();
  const told = page.getByText(/\/shared\/[A-Za-z0-9_-]{43}</).or(page.getByText(/<img src="http/));
  await expect(told.first()).toBeVisible();
  const [address] = /http\S+\/shared\/[A-Za-z0-9_-]{43}/.exec((await told.first().textContent()) ?? "") ?? [];
  await accessible(page);

  const nobody = await (await browser.newContext({ ...(baseURL ? { baseURL } : {}) })).newPage();
  await nobody.goto(address ?? "");
  await expect(nobody.getByRole("heading", { level: 1 })).toContainText("room above");
  const image = nobody.getByRole("img", { name: "Chart of Sable tin, as it was published" });
  await expect.poll(() => image.evaluate((node) => (node as HTMLImageElement).naturalWidth)).toBe(1290);
  await accessible(nobody);
  const picture = await nobody.request.get(`${address}/picture.png`);
  expect(picture.headers()["cross-origin-resource-policy"]).toBe("cross-origin");
  // oEmbed 1.0, section 2.3: a photo has an address and a size, no larger than was asked for.
  const link = await nobody.locator('link[type="application/json+oembed"]').getAttribute("href");
  const said: unknown = await (await nobody.request.get(`${link}&maxwidth=645`)).json();
  expect(said).toMatchObject({
    ...{ version: "1.0", type: "photo", url: `${address}/picture.png`, width: 645, height: 345 },
    title: expect.stringMatching(/^Sable tin: .*root [0-9a-f]{64}\)$/),
  });
  expect((await nobody.request.get(`/oembed?url=${encodeURIComponent("https://elsewhere.example/")}`)).status()).toBe(
    404,
  );
  await page
    .getByRole("button", { name: /^End [0-9a-f]{6}$/ })
    .first()
    .click();
  await expect(page.getByText("That address shows nothing any more.")).toBeVisible();
  expect((await nobody.request.get(`${address}/picture.png`)).status()).toBe(404);
});

test("an address where nothing is has a page that says so and leads on", async ({ page }) => {
  const response = await page.goto("/nothing/of/the/kind");
  expect(response?.status()).toBe(404);
  await expect(page.getByRole("heading", { name: "There is nothing here." })).toBeVisible();
  await expect(page).toHaveTitle(/There is nothing here/);
  await accessible(page);
  await expect(page.getByRole("link", { name: "Go on from the beginning" })).toBeVisible();
});
