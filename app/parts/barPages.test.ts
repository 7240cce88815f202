import { barPageHeaders } from "#contracts/barPage";
import { afterEach, describe, expect, it, vi } from "vitest";
import { fromBars, slice, toBuffer, type Series } from "#core/series/series";
import {
  joinNewest,
  loadAhead,
  loadEarlier,
  loadNewest,
  loadSince,
  takeAhead,
  withChanged,
  type LoadedSeries,
} from "./barPages.ts";

const PAGE = 4096;
const whole = (length: number) =>
  fromBars(Array.from({ length }, (_, i) => ({ time: i * 10, open: i, high: i, low: i, close: i, volume: 1 })));

/**
 * Answers as the server does: pages from the first bar on, the newest with at least 1,500. Returns the addresses asked
 * for.
 */
function serve(series: Series, history = { now: 1 }): string[] {
  const asked: string[] = [];
  vi.stubGlobal("fetch", (address: string) => {
    asked.push(address);
    const page = new URLSearchParams(address.split("?")[1]).get("page");
    const start = page === null ? Math.max(0, Math.floor((series.length - 1500) / PAGE) * PAGE) : Number(page) * PAGE;
    const end = page === null ? series.length : Math.min(series.length, start + PAGE);
    const headers = barPageHeaders({ start, revision: 7, history: history.now });
    return Promise.resolve(new Response(new Float64Array(toBuffer(slice(series, start, end))), { headers }));
  });
  return asked;
}
afterEach(() => void vi.unstubAllGlobals());

const ADDRESS = { market: "m", rung: "PT1M", hours: "all" } as const;

describe("bars in pages", () => {
  it("all of a million come in a number of steps that grows with the logarithm", async () => {
    const asked = serve(whole(50_000));
    let loaded: LoadedSeries | undefined = await loadNewest(ADDRESS);
    let steps = 0;
    for (; loaded && loaded.start > 0; steps++) loaded = await loadEarlier(ADDRESS, loaded);
    expect([...(loaded as LoadedSeries).series.close.slice(0, 3)]).toEqual([0, 1, 2]);
    expect((loaded as LoadedSeries).series.length).toBe(50_000);
    expect(steps).toBeLessThan(7);
    expect(new Set(asked).size).toBe(asked.length);
  });
  it("back to an instant, with what leads up to it and no page more", async () => {
    const asked = serve(whole(20_000));
    const loaded = await loadSince(ADDRESS, 13_000 * 10);
    expect(loaded.start).toBeLessThanOrEqual(13_000 - 200);
    expect(loaded.start % PAGE).toBe(0);
    expect(asked).toHaveLength(2);
    // An instant just behind the beginning of a page needs the one before it too.
    const further = await loadSince(ADDRESS, (3 * PAGE + 5) * 10);
    expect(further.start).toBeLessThanOrEqual(3 * PAGE - 195);
  });
  it("what is loaded is kept while only the newest is asked for anew", async () => {
    const asked = serve(whole(20_000));
    const first = await loadSince(ADDRESS, 0);
    asked.length = 0;
    const again = await loadSince(ADDRESS, 0, first);
    expect(asked).toHaveLength(1);
    expect(again.series.length).toBe(20_000);
  });
  it("pages of another history are not joined with what was loaded", async () => {
    const history = { now: 1 };
    serve(whole(20_000), history);
    const newest = await loadNewest(ADDRESS);
    history.now = 2;
    expect(await loadEarlier(ADDRESS, newest)).toBeUndefined();
    const after = await loadNewest(ADDRESS);
    expect(joinNewest(newest, after)).toBe(after);
  });
  it("a server that fails is told, and changed bars replace the end", async () => {
    vi.stubGlobal("fetch", () => Promise.resolve(new Response(null, { status: 500 })));
    await expect(loadNewest(ADDRESS)).rejects.toThrow(/could not be had/);
    const series = withChanged(
      whole(5),
      fromBars([
        { time: 40, open: 9, high: 9, low: 9, close: 9, volume: 1 },
        { time: 50, open: 8, high: 8, low: 8, close: 8, volume: 1 },
      ]),
    );
    expect([...series.close]).toEqual([0, 1, 2, 3, 9, 8]);
  });
  it(
    "loaded ahead are asked for once and given once, the newest few; what could not be had is asked " + "for anew",
    async () => {
      const asked = serve(whole(2000));
      loadAhead(ADDRESS);
      loadAhead(ADDRESS);
      expect(asked).toHaveLength(1);
      expect((await takeAhead(ADDRESS))?.series.length).toBe(2000);
      expect(takeAhead(ADDRESS)).toBeUndefined();
      const rungs = ["PT2M", "PT3M", "PT4M", "PT5M", "PT6M"].map((rung) => ({ ...ADDRESS, rung }));
      rungs.forEach(loadAhead);
      expect([takeAhead(rungs[0]), takeAhead(rungs[4]) instanceof Promise]).toEqual([undefined, true]);
      vi.stubGlobal("fetch", () => Promise.reject(new Error("away")));
      const away = { ...ADDRESS, rung: "PT7M" };
      loadAhead(away);
      await new Promise((done) => setTimeout(done));
      expect(takeAhead(away)).toBeUndefined();
    },
  );
});
