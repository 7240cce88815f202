import type { Browser } from "@playwright/test";
import { withBrowser } from "./browser.ts";

export interface FirstChart {
  rung: string;
  /** Milliseconds from asking for the page until its chart is drawn, in a browser that has kept nothing. */
  drawn: number;
  /** Bytes sent in all, and of script. */
  bytes: number;
  script: number;
}

/**
 * Opens a market's workspace with an empty browser, once for each rung: the first time the server reads the bars, too.
 */
export function firstCharts(
  market: string,
  person: { email: string; password: string },
  rungs: readonly string[],
): Promise<FirstChart[]> {
  return withBrowser(person, async ({ origin, browser, signedIn }) => {
    // The program itself is warm; no bar of the market has been read yet.
    const page = await signedIn.newPage();
    await page.goto(`${origin}/rungs`);
    const cookies = await signedIn.cookies();
    const out: FirstChart[] = [];
    for (const rung of rungs)
      out.push(await firstChart(browser, cookies, `${origin}/descent/${market}?rung=${rung}`, rung));
    return out;
  });
}

type Cookies = Parameters<Awaited<ReturnType<Browser["newContext"]>>["addCookies"]>[0];

async function firstChart(browser: Browser, cookies: Cookies, address: string, rung: string): Promise<FirstChart> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.addCookies(cookies);
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await session.send("Network.enable");
  const scripts = new Set<string>();
  const sent = { bytes: 0, script: 0 };
  session.on("Network.responseReceived", ({ requestId, type }) => type === "Script" && scripts.add(requestId));
  session.on("Network.loadingFinished", ({ requestId, encodedDataLength }) => {
    sent.bytes += encodedDataLength;
    if (scripts.has(requestId)) sent.script += encodedDataLength;
  });
  const began = performance.now();
  await page.goto(address, { waitUntil: "commit" });
  await page.waitForSelector("[data-chart] canvas");
  await page.waitForFunction(() => document.querySelector("[data-chart]")?.getAttribute("data-drawn") === "yes");
  const drawn = performance.now() - began;
  await page.waitForLoadState("networkidle", { timeout: 5000 }).catch(() => undefined);
  await context.close();
  return { rung, drawn, ...sent };
}
