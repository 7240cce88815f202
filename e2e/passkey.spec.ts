import { expect, test } from "@playwright/test";
import { accessible, hydrated, signInByHand } from "./desk.ts";

/** Numbers are no name of a site: keys are for localhost. */
const named = (baseURL: string) => baseURL.replace("127.0.0.1", "localhost");

test("a passkey is made on the account's page and signs in without password and code", async ({ browser, baseURL }) => {
  const context = await browser.newContext({ baseURL: named(baseURL ?? "") });
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await session.send("WebAuthn.enable");
  await session.send("WebAuthn.addVirtualAuthenticator", {
    options: {
      ...{ protocol: "ctap2", transport: "internal", hasResidentKey: true, hasUserVerification: true },
      ...{ isUserVerified: true, automaticPresenceSimulation: true },
    },
  });
  await signInByHand(page, "subscriber");
  await page.goto("/account");
  await hydrated(page);
  await page.getByRole("button", { name: "Make a passkey" }).click();
  await expect(page.getByRole("button", { name: /^End the passkey of/ }).first()).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Sign out", exact: true }).click();
  await page.waitForURL(/sign-in/);
  await page.goto("/sign-in?then=/archive");
  await accessible(page);
  await page.getByRole("button", { name: "With a passkey" }).click();
  await page.waitForURL((url) => url.pathname === "/archive");
  await page.goto("/account");
  await page
    .getByRole("button", { name: /^End the passkey of/ })
    .first()
    .click();
  await expect(page.getByText("That passkey opens nothing any more.")).toBeVisible();
  await context.close();
});
