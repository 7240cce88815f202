import { execFileSync } from "node:child_process";
import { chromium, type Browser, type BrowserContext } from "@playwright/test";
import { freePort } from "../commands/desk/ports.ts";
import { serve } from "../commands/desk/serve.ts";

const FLAGS = [
  "--headless",
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

/** The built application served on loopback, and a browser in which somebody has signed in. */
export async function withBrowser<T>(
  person: { email: string; password: string },
  work: (all: { origin: string; browser: Browser; signedIn: BrowserContext }) => Promise<T>,
): Promise<T> {
  const port = await freePort(4810);
  const running = await serve(port);
  const executablePath = execFileSync("sh", ["-c", "command -v chromium"], { encoding: "utf8" }).trim();
  const browser = await chromium.launch({ executablePath, args: FLAGS });
  try {
    const origin = `http://127.0.0.1:${port}`;
    const signedIn = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await signedIn.newPage();
    await page.goto(`${origin}/sign-in`);
    await page.fill("input[name=email]", person.email);
    await page.fill("input[name=password]", person.password);
    await page.click("button[type=submit]");
    await page.waitForURL((url) => !url.pathname.startsWith("/sign-in"));
    await page.close();
    return await work({ origin, browser, signedIn });
  } finally {
    await browser.close();
    await running.close();
  }
}
