import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { LiveMessage } from "../../server/feed/live.ts";
import { listenChart, listenLive } from "./live.ts";

/** Streams as they are opened; a message is sent by hand. */
class FakeSource {
  static readonly all: FakeSource[] = [];
  static readonly CLOSED = 2;
  readyState = 1;
  onmessage: (message: { data: string }) => void = () => undefined;
  constructor(readonly address: string) {
    FakeSource.all.push(this);
  }
  close(): void {
    this.readyState = FakeSource.CLOSED;
  }
  say(message: Partial<LiveMessage>): void {
    this.onmessage({ data: JSON.stringify({ now: 0, speed: 0, simulated: true, charts: [], marked: {}, ...message }) });
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  FakeSource.all.length = 0;
  vi.stubGlobal("EventSource", FakeSource);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const chart = (rung: string) => ({ market: "tin", rung, hours: "all" as const });
const open = () => FakeSource.all.filter(({ readyState }) => readyState === 1);

it("all charts of a page share one stream, opened once they are all known and closed after the last", async () => {
  const heard: string[] = [];
  const leave = ["P1D", "PT1H", "P1D"].map((rung, i) =>
    listenChart(chart(rung), ({ revision }) => heard.push(`${i} ${rung} ${revision}`)),
  );
  await vi.runAllTimersAsync();
  expect(FakeSource.all).toHaveLength(1);
  expect(new URLSearchParams(FakeSource.all[0].address.split("?")[1]).getAll("chart")).toEqual([
    "tin P1D all",
    "tin PT1H all",
  ]);
  open()[0].say({ charts: [{ ...chart("P1D"), revision: 7, history: 1, bars: "" }] });
  expect(heard).toEqual(["0 P1D 7", "2 P1D 7"]);

  // One of two listeners to the same chart leaves: the stream stays as it is.
  leave[0]();
  await vi.runAllTimersAsync();
  expect(FakeSource.all).toHaveLength(1);
  leave[2]();
  await vi.runAllTimersAsync();
  expect(open().map(({ address }) => address)).toEqual(["/live?chart=tin+PT1H+all"]);
  leave[1]();
  await vi.runAllTimersAsync();
  expect(open()).toEqual([]);
});

it(
  "who asks for the clock alone is told it, and a stream that broke off is opened anew with the next " + "change",
  async () => {
    const clocks: number[] = [];
    const leave = listenLive(({ now }) => clocks.push(now));
    await vi.runAllTimersAsync();
    open()[0].say({ now: 5 });
    expect(clocks).toEqual([5]);
    open()[0].close();
    const second = listenLive(() => undefined);
    await vi.runAllTimersAsync();
    expect(open()).toHaveLength(1);
    leave();
    second();
    await vi.runAllTimersAsync();
  },
);
