import { expect, test, type Page } from "@playwright/test";
import { accessible, hydrated, newestEdition, signIn } from "./desk.ts";

/** The newest mail to an address, as the stand-in for the world's mail has it: its text. */
async function mailTo(owner: Page, address: string, subject: string): Promise<string> {
  const line = owner.getByRole("listitem").filter({ hasText: address }).filter({ hasText: subject }).first();
  await expect(async () => {
    await owner.goto("/mailbox");
    await expect(line).toBeVisible({ timeout: 1_000 });
  }).toPass({ timeout: 60_000 });
  await line.getByRole("link").click();
  const text = owner.locator("pre");
  await expect(text).toContainText(address);
  return (await text.textContent()) ?? "";
}

/** A page the browser has kept is not sent again, and its scripts and styles still are its own. */
async function keptPagesWork(reader: Page): Promise<void> {
  const refused: string[] = [];
  reader.on("console", (message) => /Content Security Policy/.test(message.text()) && refused.push(message.text()));
  await reader.goto("/outlooks");
  // Asked again where something moved between the two.
  await expect(async () => {
    const { etag = "" } = (await reader.request.get("/outlooks")).headers();
    const again = await reader.request.get("/outlooks", { headers: { "If-None-Match": etag } });
    expect(again.status()).toBe(304);
    expect(again.headers()["content-security-policy"]).toBeUndefined();
  }).toPass();
  await reader.reload();
  // This button is there with scripts only.
  await expect(reader.getByRole("button", { name: "Lamp" })).toBeVisible();
  // Its scripts and styles are named by their digests; what scripts add on the way to other pages is styled as well.
  const fresh = (await reader.request.get("/outlooks")).headers()["content-security-policy"];
  expect(fresh).toMatch(/script-src 'self' 'sha256-[^;]+; ?style-src 'self' 'sha256-/);
  expect(fresh).not.toContain("nonce");
  await reader.getByRole("link", { name: "Archive" }).click();
  await expect(reader.getByRole("button", { name: "Find" })).toHaveCSS("background-color", /^rgb\((?!0, 0, 0\))/);
  await reader.getByRole("link", { name: "Calendar" }).click();
  await expect(reader).toHaveURL(/calendar$/);
  expect(refused).toEqual([]);
}

test("a picture is pointed at, by pointer and by keys, and price moves while it is read", async ({ page }) => {
  await signIn(page, "subscriber");
  await page.goto(`/outlooks/${await newestEdition(page, /first$/)}`);
  await hydrated(page);
  const picture = page.getByRole("group", { name: /Read the picture/ }).first();
  const line = picture.locator("xpath=following-sibling::p").first();
  await picture.focus();
  await page.keyboard.press("ArrowLeft");
  await expect(line).toContainText(/UTC: open [\d.]+, high [\d.]+, low [\d.]+, close [\d.]+\. Here [\d.]+/);
  const [before] = /^.* UTC/.exec(await line.innerText()) ?? [];
  await page.keyboard.press("ArrowLeft");
  await expect(line).not.toContainText(before!);
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(line).toContainText("Price in ink");
  const { x, y, width, height } = (await picture.boundingBox())!;
  await page.mouse.move(x + width / 3, y + height / 3);
  await expect(line).toContainText("close");
  await expect(page.getByText(/^Now [\d.]+, .* market time/).first()).toBeVisible();
});

test("a reader joins by a mail, reads, searches, chooses, asks, and is answered", async ({
  page,
  browser,
  baseURL,
}) => {
  const owner = page;
  await signIn(owner, "owner");
  const own = { ...(baseURL ? { baseURL } : {}) };
  const reader = await (await browser.newContext(own)).newPage();
  const address = `wren-${Date.now()}@meridian.example`;
  await reader.goto("/join");
  await hydratedForm(reader);
  await accessible(reader);
  await reader.getByLabel("Name").fill("Wren Ashby");
  await reader.getByLabel("Mail address").fill(address);
  await reader.getByRole("button", { name: "Join" }).click();
  await expect(reader.getByRole("heading", { name: "Look into your mailbox" })).toBeVisible();
  const [link] = /http\S+\/confirm\/\S+/.exec(await mailTo(owner, address, "Confirm your mail address")) ?? [];
  await accessible(owner);
  // A program that opens every link uses nothing up.
  await reader.request.get(link!);
  await reader.goto(link!);
  await accessible(reader);
  await reader.getByLabel("New password").fill("nine otters by the weir");
  await reader.getByRole("button", { name: "Choose it" }).click();
  await reader.getByRole("link", { name: "Sign in" }).click();
  await reader.getByLabel("Mail address").fill(address);
  await reader.getByLabel("Password").fill("nine otters by the weir");
  await reader.getByRole("button", { name: "Sign in" }).click();
  await expect(reader).toHaveURL(/outlooks$/);
  // The plan shows what is a day old: of today's it says when.
  await expect(reader.getByText(/your plan shows it from/i).first()).toBeVisible();
  await keptPagesWork(reader);
  for (const place of ["/outlooks", "/archive?words=silver", "/calendar", "/record", "/settings"]) {
    await reader.goto(place);
    await accessible(reader);
  }
  await hydrated(reader);
  await reader.getByLabel("Times in").selectOption("Atlantic/Reykjavik");
  await reader.getByLabel("Triggered or entered").check();
  await reader.getByRole("button", { name: "Save" }).click();
  await expect(reader.getByRole("status").first()).toHaveText("Saved; it counts from now on.");
  await reader.goto("/calendar");
  await expect(reader.getByText(/in Reykjavik/)).toBeVisible();

  // A member asks without any script, and is answered.
  const member = await (await browser.newContext({ ...own, javaScriptEnabled: false })).newPage();
  await signIn(member, "subscriber");
  const number = await newestEdition(member);
  await member.goto(`/outlooks/${number}`);
  await member.getByLabel("What it is", { exact: true }).selectOption("disagree");
  await member.getByLabel("In your words").fill("Price stood there in spring and did nothing.");
  await member.getByRole("button", { name: "Send it" }).click();
  await expect(member.getByText(/Others see it once somebody/)).toBeVisible();
  const analyst = await (await browser.newContext(own)).newPage();
  await signIn(analyst, "analyst");
  await analyst.goto("/editions");
  await analyst.getByRole("link", { name: "What readers ask" }).click();
  await hydrated(analyst);
  await accessible(analyst);
  await analyst.getByLabel("Answer").first().fill("It did, and that is why a close is asked for.");
  await analyst.getByRole("button", { name: "Show it" }).first().click();
  await expect(analyst.getByText("Nobody waits for an answer.")).toBeVisible();
  await member.goto(`/outlooks/${number}`);
  await expect(member.getByText(/It did, and that is why a close is asked for/)).toBeVisible();
  // What is answered can be quoted.
  await analyst.getByRole("button", { name: "Quote in my next edition" }).first().click();
  await analyst.waitForURL(/editions\/.+/);
  await expect(analyst.getByLabel("Asked")).toHaveValue(/Price stood there in spring/);
  // A market's page, and on a phone nothing is wider than it.
  await member.setViewportSize({ width: 360, height: 740 });
  for (const place of ["/outlooks", "/markets/skerry-silver", `/outlooks/${number}`, "/archive", "/settings"]) {
    await member.goto(place);
    expect(await member.evaluate(() => document.documentElement.scrollWidth), place).toBeLessThanOrEqual(360);
  }
});

/** Pages before the door have no lamp: the form is there once the page is. */
async function hydratedForm(page: Page): Promise<void> {
  await expect(page.getByRole("button", { name: "Join" })).toBeVisible();
  await page.waitForTimeout(300);
}
