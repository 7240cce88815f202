import { describe, expect, it } from "vitest";
import { failureOf } from "../testing.ts";
import { openStream, openStreams } from "./streams.ts";

const yes = () => Promise.resolve(true);
const soon = (ms = 60) => new Promise((done) => setTimeout(done, ms));

describe("a stream", () => {
  it("ends when the browser leaves, and makes room", () => {
    const browser = new AbortController();
    const { signal } = openStream("a", browser.signal, yes);
    expect([openStreams("a"), signal.aborted]).toEqual([1, false]);
    browser.abort();
    expect([openStreams("a"), signal.aborted]).toEqual([0, true]);
  });
  it("ends within a beat of its session", async () => {
    let still = true;
    const { signal } = openStream("b", new AbortController().signal, () => Promise.resolve(still), 10);
    await soon();
    expect(signal.aborted).toBe(false);
    still = false;
    await expect.poll(() => signal.aborted).toBe(true);
    expect(openStreams("b")).toBe(0);
  });
  it("lives on while nobody can say whether its session does", async () => {
    const { signal, leave } = openStream(
      "c",
      new AbortController().signal,
      () => Promise.reject(new Error("the database is away")),
      10,
    );
    await soon();
    expect(signal.aborted).toBe(false);
    leave();
  });
  it("is one of 24 at most, each account's counted by itself, and left once however often", async () => {
    const all = Array.from({ length: 24 }, () => openStream("d", new AbortController().signal, yes));
    expect((await failureOf((async () => openStream("d", new AbortController().signal, yes))())).details).toMatchObject(
      { status: 429 },
    );
    openStream("e", new AbortController().signal, yes).leave();
    all[0].leave();
    all[0].leave();
    expect(openStreams("d")).toBe(23);
    all.forEach(({ leave }) => leave());
    expect(openStreams("d")).toBe(0);
  });
});
