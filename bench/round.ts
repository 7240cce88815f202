import type { Page } from "@playwright/test";
import { QueryTypes } from "sequelize";
import { seedWorld } from "../demo/seed.ts";
import { PEOPLE } from "../demo/people.ts";
import { openDatabase } from "../server/database/connection.ts";
import { Account, BoardStanding, Market, ReadingRow } from "../server/database/models.ts";
import { boardOf, boardRow } from "../server/round/board.ts";
import { saveList } from "../server/round/lists.ts";
import { withBrowser } from "./browser.ts";
import { compare, ratioLine } from "./side.ts";

const MARKETS = 50;

/** The demo world, and copies of its markets until there are fifty; the readings of the copies are copied, too. */
async function fifty(url: string, account: string): Promise<void> {
  const database = openDatabase(url);
  const all = await Market.findAll({ order: [["id", "ASC"]] });
  for (const { id } of all) await boardRow(id, account);
  const markets = all.filter(({ formula }) => !formula);
  for (let n = 0; n < MARKETS - all.length; n++) {
    const source = markets[n % markets.length];
    const id = `${source.id}-${n}`;
    const { kind, tick, pip, pipName, decimals, calendar, ties } = source;
    await Market.create({ id, name: `${source.name} ${n}`, kind, tick, pip, pipName, decimals, calendar, ties });
    const copy = (table: string, columns: string) =>
      database.query(
        `INSERT INTO ${table} (marketId, ${columns}) SELECT :id, ${columns} FROM ${table} WHERE marketId = :source`,
        { replacements: { id, source: source.id }, type: QueryTypes.INSERT },
      );
    await copy("bar_chunks", "shelf, base, startTime, endTime, length, data");
    await copy("readings", "rung, params, history, validUntil, summary, reading");
    await copy("market_boards", "params, history, marked, validUntil, standing");
  }
}

/** Board and round over the demo world: what the board of fifty markets costs, and a whole round by keys alone. */
export async function roundLines(url: string): Promise<string[]> {
  await seedWorld();
  const { id: account } = await Account.findOne({ where: { email: PEOPLE.analyst.email }, rejectOnEmpty: true });
  const world = (await Market.findAll({ order: [["id", "ASC"]] }))
    .filter(({ formula }) => !formula)
    .map(({ id }) => id);
  const began = performance.now();
  for (const id of world) await boardRow(id, account);
  const cold = performance.now() - began;
  await fifty(url, account);
  const list = await saveList({ id: "", name: "World", markets: world, rare: false }, account);
  const lines = [`board, ${world.length} markets x 10 rungs read for the first time: ${(cold / 1000).toFixed(1)} s`];
  lines.push(
    ratioLine(
      await compare({
        name: `board of ${MARKETS} markets x 10 rungs from what is kept`,
        ours: async () => {
          const { rows } = await boardOf(account);
          if (rows.length !== MARKETS || rows.some(({ standing }) => !standing))
            throw new Error("The board is not whole.");
        },
        other: async () => {
          await ReadingRow.findAll({ attributes: ["marketId", "rung", "summary", "validUntil"], raw: true });
          await BoardStanding.findAll({ raw: true });
        },
        otherName: "reading the rows alone",
      }),
    ),
  );
  await withBrowser(PEOPLE.analyst, async ({ origin, signedIn }) => {
    const page = await signedIn.newPage();
    await page.goto(`${origin}/round`);
    await page.waitForSelector("[data-cell]");
    const times: number[] = [];
    for (let n = 0; n < 3; n++) {
      const start = performance.now();
      await page.goto(`${origin}/round`, { waitUntil: "commit" });
      await page.waitForFunction(
        (count) => document.querySelectorAll("[data-cell='0 0'] svg, [data-cell] svg").length >= count,
        MARKETS * 8,
      );
      times.push(performance.now() - start);
    }
    lines.push(
      `the page of that board, shown with every needle: ${times.map((time) => time.toFixed(0)).join(", ")} ms`,
    );
    lines.push(await walkedRound(page, `${origin}/round?list=${list}`));
  });
  return lines;
}

/**
 * Every stop of a list by keys alone, as soon as its chart stands there; every seventh market is watched with a remark.
 */
async function walkedRound(page: Page, address: string): Promise<string> {
  await page.goto(address);
  await page.waitForSelector("[data-cell]");
  await page.waitForLoadState("networkidle").catch(() => undefined);
  let [strokes, waited, stops, worst] = [0, 0, 0, 0];
  let market = "";
  let seen = 0;
  const press = async (key: string) => {
    strokes++;
    await page.keyboard.press(key);
  };
  const began = performance.now();
  await press("g");
  for (;;) {
    const start = performance.now();
    const stop = await page.waitForFunction((before) => {
      if (document.querySelector("[aria-label='End of the round']")) return "end";
      const at = document.querySelector("[data-stop]")?.getAttribute("data-stop");
      return at && at !== before && document.querySelector("[data-drawn=yes]") ? at : false;
    }, market);
    const at = String(await stop.jsonValue());
    const took = performance.now() - start;
    if (at === "end") break;
    stops++;
    waited += took;
    worst = Math.max(worst, took);
    if (at.split(" ")[0] !== market.split(" ")[0] && ++seen % 7 === 0) {
      await press("w");
      await press("r");
      for (const letter of "at area") await press(letter === " " ? "Space" : letter);
      await press("Enter");
    }
    market = at;
    await press("n");
  }
  const seconds = (performance.now() - began) / 1000;
  return (
    `a whole round by keys alone: ${seen} markets, ${stops} stops, ${strokes} key strokes, ` +
    (`${seconds.toFixed(0)} s, of them ${(waited / 1000).toFixed(1)} s waiting for charts (mean ` +
      `${(waited / stops).toFixed(0)} ms, longest ${worst.toFixed(0)} ms)`)
  );
}
