import { randomUUID } from "node:crypto";
import { plainDraft } from "#core/edition/blocks";
import { writtenOf } from "#core/written/former";
import { ALL_HOURS } from "#core/time/calendar";
import { fromBars, type Series } from "#core/series/series";
import { seeded } from "#demo/random";
import { createAccount } from "../../../server/accounts/accounts.ts";
import { appendBars } from "../../../server/bars/chunks.ts";
import { deriveMarket } from "../../../server/bars/derive.ts";
import { transact } from "../../../server/database/connection.ts";
import { ClockRow, Market } from "../../../server/database/models.ts";
import { applySteps } from "../../../server/desk/marks.ts";
import { saveScenario } from "../../../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../../../server/publishing/drafts.ts";
import { publish } from "../../../server/publishing/publish.ts";

/** Those who ask: a small world of its own, so that a trial begins within seconds. */
export const PASSWORD = "four tin boats at dawn";
export const WHO = {
  owner: "owner@trial.example",
  analyst: "analyst@trial.example",
  subscriber: "reader@trial.example",
} as const;
export type Who = keyof typeof WHO;

/** Analysts that save at once. */
export const SAVERS = 50;
export const saver = (n: number) => `saver-${n}@trial.example`;

const DAY = 86_400_000;
const MINUTE = 60_000;
export const NOW = Date.UTC(2026, 9, 14, 12);
export const MARKETS = ["tin", "lead"] as const;

function walk(name: string, start: number, step: number, count: number): Series {
  const random = seeded(name);
  let price = 400;
  return fromBars(
    Array.from({ length: count }, (_, i) => {
      const open = price;
      price = Math.max(50, price * (1 + 0.01 * random.normal()));
      return {
        time: start + i * step,
        open,
        high: Math.max(open, price) * 1.004,
        low: Math.min(open, price) * 0.996,
        close: price,
        volume: 100,
      };
    }),
  );
}

/** Two markets and one of both, marks, a scenario, an outlook that is published and one that is not. */
export async function seedTrial(): Promise<void> {
  if ((await Market.count()) > 0) return;
  await createAccount({ email: WHO.owner, name: "Orla Pike", password: PASSWORD }, "owner");
  const analyst = await createAccount({ email: WHO.analyst, name: "Ana Reef", password: PASSWORD }, "analyst");
  await createAccount({ email: WHO.subscriber, name: "Sol Brine", password: PASSWORD }, "subscriber");
  for (const id of MARKETS) {
    await Market.create({
      id,
      name: id === "tin" ? "Tin" : "Lead",
      kind: "commodity",
      tick: 0.01,
      pip: 0.01,
      pipName: "point",
      decimals: 2,
      calendar: ALL_HOURS,
    });
    await transact(async (transaction) => {
      await appendBars(
        { marketId: id, base: "P1D", shelf: "live" },
        walk(`${id} days`, NOW - 3012 * DAY - (NOW % DAY), DAY, 3000),
        transaction,
      );
      await appendBars(
        { marketId: id, base: "PT1M", shelf: "live" },
        walk(`${id} minutes`, NOW - 3000 * MINUTE, MINUTE, 3000),
        transaction,
      );
      await appendBars(
        { marketId: id, base: "PT1M", shelf: "tape" },
        walk(`${id} tape`, NOW, MINUTE, 3000),
        transaction,
      );
    });
  }
  await ClockRow.create({ id: 1, now: NOW, speed: 0, wallTime: Date.now() });
  await deriveMarket({
    name: "Tin less lead",
    form: "spread",
    legs: [
      { market: "tin", units: 1 },
      { market: "lead", units: -1 },
    ],
    scale: 1,
    tick: 0.01,
    decimals: 2,
    hoursOf: "",
  });
  const level = (price: number) => ({
    id: randomUUID(),
    step: "set" as const,
    version: 0,
    mark: {
      id: randomUUID(),
      kind: "level",
      rung: "P1D",
      anchors: [{ time: NOW - 100 * DAY - (NOW % DAY), price }],
      props: { label: `at ${price}` },
      note: "",
    },
  });
  // One far above price: its picture once ended the process.
  const note = {
    ...level(1),
    mark: {
      ...level(1).mark,
      kind: "note",
      anchors: [{ time: NOW - 20 * DAY - (NOW % DAY), price: 1e6 }],
      props: { text: "far out" },
    },
  };
  await applySteps("tin", [level(300), level(500), note], analyst.id);
  const scenario = {
    id: randomUUID(),
    title: "A",
    premise: "",
    direction: "long" as const,
    trigger: { event: "closeAbove" as const, price: 1e5, timeframe: "PT1H" },
    entry: { order: "market" as const, price: 1e5 },
    stop: 10,
    targets: [{ price: 3e5, share: 1 }],
    invalidation: 9,
    expiry: NOW + 90 * DAY,
  };
  await saveScenario("tin", { version: 0, step: "save", scenario: writtenOf(scenario) }, analyst.id);
  const sections = [{ market: "tin", rung: "P1D", scenarios: [scenario.id] }];
  for (const published of [true, false]) {
    const draft = await createDraft(analyst.id);
    await saveDraft(draft.id, { version: 1, ...plainDraft("Of tin", "Words.", sections) });
    if (published) await publish(draft.id, analyst);
  }
}

/** Accounts for those who save at once. */
export async function seedSavers(): Promise<void> {
  await Promise.all(
    Array.from({ length: SAVERS }, (_, n) =>
      createAccount({ email: saver(n), name: `Saver ${n}`, password: PASSWORD }, "analyst"),
    ),
  );
}
