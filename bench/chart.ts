import { execFileSync } from "node:child_process";
import { chromium } from "@playwright/test";
import { createServer } from "vite";
import type { Ratio } from "./side.ts";

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** The cost of a frame while panning 2,000 visible bars with 50 marks, against the same chart bare. */
export async function panRatio(bars = 2000, marks = 50): Promise<Ratio> {
  const server = await createServer({ configFile: false, root: ".", logLevel: "error", server: { port: 4710, host: "127.0.0.1" }, resolve: { tsconfigPaths: true } });
  await server.listen();
  const executablePath = execFileSync("sh", ["-c", "command -v chromium"], { encoding: "utf8" }).trim();
  const browser = await chromium.launch({ executablePath, args: ["--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${server.resolvedUrls?.local[0] ?? ""}bench/chart.html`);
    await page.waitForFunction(() => typeof window.benchPans === "function", undefined, { timeout: 60_000 });
    const { bare, marked } = await page.evaluate(([b, m]) => window.benchPans(b, m), [bars, marks] as const);
    const [ours, other] = [median(marked), median(bare)];
    return { name: `pan frame, ${bars} bars and ${marks} marks`, otherName: "the same chart bare", ours, other, ratio: ours / other };
  } finally {
    await browser.close();
    await server.close();
  }
}
