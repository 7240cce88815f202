import { execFileSync } from "node:child_process";
import { chromium } from "@playwright/test";
import { createServer } from "vite";
import type { Ratio } from "./side.ts";

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** Visible bars and marks that pans are timed with. */
const VIEWS = [2_000, 20_000, 1_000_000].flatMap((bars) => [50, 200].map((marks) => [bars, marks] as const));

/** The cost of a frame while panning, with marks against the same chart bare, for each view. */
export async function* panRatios(): AsyncGenerator<Ratio> {
  const server = await createServer({ configFile: false, root: ".", logLevel: "error", server: { port: 4710, host: "127.0.0.1" }, resolve: { tsconfigPaths: true } });
  await server.listen();
  const executablePath = execFileSync("sh", ["-c", "command -v chromium"], { encoding: "utf8" }).trim();
  const browser = await chromium.launch({ executablePath, args: ["--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${server.resolvedUrls?.local[0] ?? ""}bench/chart.html`);
    await page.waitForFunction(() => typeof window.benchPans === "function", undefined, { timeout: 60_000 });
    for (const view of VIEWS) {
      const { bare, marked } = await page.evaluate(([bars, marks]) => window.benchPans(bars, marks), view);
      const [ours, other] = [median(marked), median(bare)];
      yield { name: `pan frame, ${view[0].toLocaleString("en")} bars and ${view[1]} marks`, otherName: "the same chart bare", ours, other, ratio: ours / other };
    }
  } finally {
    await browser.close();
    await server.close();
  }
}
