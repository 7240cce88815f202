import { expect, test } from "@playwright/test";
import { wholeBrowser } from "./browsers.ts";
import { accessible, signIn } from "./desk.ts";

// In a browser of its own it is run after all others of its part.
test.use({ launchOptions: wholeBrowser });

test("a browser is asked for notices, shows what comes, and opens the page it is of", async ({ page, context }) => {
  await context.grantPermissions(["notifications"]);
  // Its own push service cannot be reached from here: one answers in its place.
  await page.addInitScript(() => {
    const keys = { p256dh: `B${"A".repeat(86)}`, auth: "A".repeat(22) };
    PushManager.prototype.subscribe = () =>
      Promise.resolve({ toJSON: () => ({ endpoint: "https://push.example/of-this-browser", keys }) } as never);
  });
  await signIn(page, "subscriber");
  await page.goto("/settings");
  await page.getByRole("button", { name: "Notify this browser" }).click();
  await expect(page.getByText("This browser is notified from now on.")).toBeVisible();
  await expect(page.getByText(/^Chrome or Chromium on Linux, since/)).toBeVisible();
  await accessible(page);

  const devtools = await context.newCDPSession(page);
  const registered = new Promise<string>((found) => {
    devtools.on("ServiceWorker.workerRegistrationUpdated", ({ registrations }) => {
      if (registrations[0]) found(registrations[0].registrationId);
    });
  });
  await devtools.send("ServiceWorker.enable");
  const notice = {
    title: "Sable Tin: entry at 455.10",
    body: "Called in edition 1.",
    address: "/outlooks/1",
    tag: "a",
  };
  await devtools.send("ServiceWorker.deliverPushMessage", {
    ...{ origin: new URL(page.url()).origin, registrationId: await registered, data: JSON.stringify(notice) },
  });
  const shown = () =>
    page.evaluate(async () => {
      const { getNotifications } = await navigator.serviceWorker.ready.then((one) => ({
        getNotifications: () => one.getNotifications(),
      }));
      return (await getNotifications()).map(({ title, body, tag }) => ({ title, body, tag }));
    });
  await expect.poll(shown).toEqual([{ title: notice.title, body: notice.body, tag: notice.tag }]);

  await page.getByRole("button", { name: /^End Chrome/ }).click();
  await expect(page.getByText("That browser is notified no more.")).toBeVisible();
});
