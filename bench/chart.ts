import { execFileSync } from "node:child_process";
import { chromium } from "@playwright/test";
import { createServer } from "vite";
import type { Ratio } from "./side.ts";
import { SHORT } from "./size.ts";

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** Visible bars, marks and panels that frames are timed with. */
const VIEWS: readonly (readonly [bars: number, marks: number, panels: number])[] = SHORT
  ? [
      [2_000, 0, 0],
      [2_000, 8, 4],
    ]
  : [2_000, 20_000, 1_000_000].flatMap((bars) => [
      [bars, 0, 0] as const,
      [bars, 50, 0] as const,
      [bars, 50, 4] as const,
      [bars, 200, 4] as const,
    ]);

/**
 * The cost of a frame while panning, and while a handle is dragged, against panning the candles alone, for each view.
 */
export async function* frameRatios(): AsyncGenerator<Ratio> {
  const server = await createServer({
    configFile: false,
    root: ".",
    logLevel: "error",
    server: { port: 4710, host: "127.0.0.1" },
    resolve: { tsconfigPaths: true },
  });
  await server.listen();
  const executablePath = execFileSync("sh", ["-c", "command -v chromium"], { encoding: "utf8" }).trim();
  const browser = await chromium.launch({
    executablePath,
    args: ["--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${server.resolvedUrls?.local[0] ?? ""}bench/chart.html`);
    await page.waitForFunction(() => typeof window.benchFrames === "function", undefined, { timeout: 60_000 });
    for (const view of VIEWS) {
      const { candles, chart, drag } = await page.evaluate((asked) => window.benchFrames(...asked), view);
      const other = median(candles);
      const panels = view[2] > 0 ? `, ${view[2]} panels` : "";
      const shown = `${view[0].toLocaleString("en")} bars and ${view[1]} marks${panels}`;
      const line = (name: string, costs: number[]): Ratio => ({
        name: `${name}, ${shown}`,
        otherName: "the candles alone",
        ours: median(costs),
        other,
        ratio: median(costs) / other,
      });
      yield line("pan frame", chart);
      if (drag.length > 0) yield line("handle dragged", drag);
    }
  } finally {
    await browser.close();
    await server.close();
  }
}
