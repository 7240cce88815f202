import { randomUUID } from "node:crypto";
import { plainDraft } from "#core/edition/blocks";
import { fromBars, type Bar } from "#core/series/series";
import { MINUTE } from "#core/time/dates";
import { createAccount } from "../server/accounts/accounts.ts";
import { listPlans } from "../server/accounts/plans.ts";
import { appendBars } from "../server/bars/chunks.ts";
import { transact } from "../server/database/connection.ts";
import { ClockRow, Market } from "../server/database/models.ts";
import { createDraft, findDraft, saveDraft } from "../server/publishing/drafts.ts";
import { composeAll } from "../server/publishing/freeze.ts";
import { drawAll } from "../server/publishing/pictures.ts";
import { publish } from "../server/publishing/publish.ts";
import { withDesk } from "./desk.ts";

const START = Date.UTC(2024, 0, 2);
const RUNGS = ["PT15M", "PT5M", "PT1H"];

/** Publishing an edition of many sections against drawing its pictures alone, in turn on this machine. */
export async function publishLines(): Promise<string[]> {
  const [sections, runs] = process.env.COMPASS_SHORT ? [2, 1] : [12, 5];
  const lines: string[] = [];
  await withDesk("var/bench-publish", async () => {
    const author = await createAccount(
      { email: `${randomUUID()}@meridian.example`, name: "Bench", password: randomUUID() },
      "analyst",
    );
    await ClockRow.create({ id: 1, now: START + 3000 * MINUTE, speed: 0, wallTime: Date.now() });
    const markets = await Promise.all(Array.from({ length: sections }, (_, n) => aMarket(n)));
    const plans = (await listPlans()).map(({ parts }) => parts);
    const draft = async () => {
      const { id } = await createDraft(author.id);
      const asked = markets.map((market, n) => ({ market, rung: RUNGS[n % RUNGS.length], scenarios: [] }));
      await saveDraft(id, { version: 1, ...plainDraft("Bench", "Words.", asked) });
      return findDraft(id);
    };
    const [alone, whole]: [number[], number[]] = [[], []];
    let pictures = 0;
    // The first of each warms up the processes that draw.
    for (let run = 0; run <= runs; run++) {
      const composed = await composeAll(await draft());
      const began = performance.now();
      const drawn = await Promise.all(composed.map((section) => drawAll(section, plans, "Bench")));
      const between = performance.now();
      const { id } = await draft();
      const before = performance.now();
      await publish(id, author);
      if (run === 0) continue;
      pictures = drawn.flat().length;
      alone.push(between - began);
      whole.push(performance.now() - before);
    }
    const median = (of: number[]) => of.sort((a, b) => a - b)[Math.floor(of.length / 2)];
    const [draws, publishes] = [median(alone), median(whole)];
    lines.push(
      `publishing ${sections} sections with ${pictures} pictures: ${publishes.toFixed(0)} ms, drawing alone ` +
        `${draws.toFixed(0)} ms: ${(publishes / draws).toFixed(2)} x (goal: at most 2)`,
    );
  });
  return lines;
}

async function aMarket(n: number): Promise<string> {
  const id = `bench-${n}`;
  await Market.create({
    ...{ id, name: `Bench ${n}`, kind: "other", tick: 0.01, pip: 0.01, pipName: "pip", decimals: 2 },
    calendar: { zone: "UTC", sessions: [{ days: [1, 2, 3, 4, 5, 6, 7], open: "00:00", close: "24:00" }] },
  });
  const bars = fromBars(
    Array.from({ length: 3000 }, (_, i): Bar => {
      const close = Number((100 + 5 * Math.sin(i / (40 + n)) + Math.sin(i / 7)).toFixed(2));
      return { time: START + i * MINUTE, open: close, high: close + 0.1, low: close - 0.1, close, volume: 1 };
    }),
  );
  await transact((transaction) => appendBars({ marketId: id, base: "PT1M", shelf: "live" }, bars, transaction));
  return id;
}
