import { randomUUID } from "node:crypto";
import { beforeAll, describe, expect, it } from "vitest";
import { plainDraft } from "#core/edition/blocks";
import { PARTS, partsInOrder, type EditionPart } from "#core/edition/parts";
import { WHOLE, type Sight } from "../accounts/plans.ts";
import { Edition, FollowUpRow } from "../database/models.ts";
import { letterOf } from "../delivery/compose.ts";
import { applySteps } from "../desk/marks.ts";
import { advance } from "../intake/feed.ts";
import { saveDraft } from "../publishing/drafts.ts";
import { artefact, pictureFor } from "../publishing/pictures.ts";
import { publish } from "../publishing/publish.ts";
import { aWorld, MINUTE, START } from "../publishingTesting.ts";
import { withTables } from "../testing.ts";
import { archiveSeen } from "./archive.ts";
import { asPdf } from "./asPdf.ts";
import { expectedAsCalendar } from "./calendar.ts";
import { callsSeen, changesSeen } from "./calls.ts";
import { askedIn, recordAsCsv, recordSeen } from "./record.ts";
import { frontSeen } from "./front.ts";
import { marketSaid } from "./marketSaid.ts";
import { editionNow } from "./now.ts";
import { readPdf } from "./pdfTesting.ts";
import { becameOf, provenSeen, seeEdition } from "./seen.ts";

withTables();

/** Prices that are said once each, with the parts of a plan that show them: written here, not read from the table. */
const PRICES: Record<string, readonly EditionPart[]> = {
  "101.13": ["scenarios"],
  "99.71": ["scenarios"],
  "102.27": ["scenarios", "orders"],
  "97.39": ["scenarios", "orders"],
  "104.53": ["scenarios", "orders"],
  "106.61": ["scenarios", "orders"],
  "98.83": ["levels"],
};

/** Every choice of parts a plan can have. */
const CHOICES = [
  ...new Set(
    Array.from({ length: 2 ** PARTS.length }, (_, bits) =>
      partsInOrder(PARTS.filter((_one, i) => (bits >> i) & 1)).join(),
    ),
  ),
].map((names) => names.split(",").filter(Boolean) as EditionPart[]);

/** In the tests those that see least and most; all of them where figures are asked for (`./compass trial hostile`). */
const ASKED = process.env.COMPASS_FIGURES ? CHOICES : CHOICES.filter(({ length }) => length < 2 || length > 4);

let market = "";
let number = 0;

/** An outlook of one call and one level; the call is entered, its first target met. */
beforeAll(async () => {
  const tape = [102, 102, 102, 102, 102, 102, 103, 103, 105, 105, 105, 105];
  const world = await aWorld(tape, {
    trigger: { event: "closeAbove", price: 101.13, timeframe: "PT5M" },
    ...{ entry: { order: "limit", price: 102.27 }, stop: 97.39, invalidation: 99.71 },
    targets: [
      { price: 104.53, share: 0.5 },
      { price: 106.61, share: 0.5 },
    ],
  });
  const level = {
    ...{ id: randomUUID(), kind: "level", rung: "PT15M", anchors: [{ time: START, price: 98.83 }] },
    ...{ props: { label: "lid" }, note: "" },
  };
  await applySteps(
    world.market.id,
    [{ id: randomUUID(), step: "set", version: 0, mark: level as never }],
    world.author.id,
  );
  await saveDraft(world.draft.id, { version: 2, ...plainDraft("Tin holds", "Words of it.", [world.section]) });
  market = world.market.id;
  number = await publish(world.draft.id, world.author);
  await advance(12);
});

/** What leaves the desk for somebody whose plan has these parts, by the way it goes. */
async function saidTo(sight: Sight): Promise<Record<string, unknown>> {
  const now = Date.now() + MINUTE;
  const { content } = await seeEdition(String(number), sight, now);
  const edition = await Edition.findByPk(number, { rejectOnEmpty: true });
  const letters = await FollowUpRow.findAll({ where: { edition: number }, order: [["sequence", "ASC"]] });
  const events = await Promise.all(
    letters.map(({ scenarioId, sequence }) =>
      letterOf({ what: { edition: number, scenarioId, sequence } } as never, sight, "").catch(() => undefined),
    ),
  );
  const picture = await pictureFor(number, 0, "wide", sight.parts);
  const archive = await Promise.all(Object.keys(PRICES).map((words) => archiveSeen({ words, page: 1 }, sight, now)));
  return {
    "page, API": [content, await becameOf(number, content, sight, now)],
    leaves: provenSeen(edition.canonical, sight),
    "paper (PDF)": (await readPdf((await asPdf(String(number), sight)).bytes)).pages,
    "mail, feed": await letterOf({ what: { edition: number } } as never, sight, "").then(({ text, html }) => [
      text,
      html,
    ]),
    "mail, push, hook of an event": events.map((one) => one && [one.subject, one.text, one.html]),
    calendar: await expectedAsCalendar(sight, 30),
    "front page": await frontSeen(sight, now),
    calls: [await callsSeen(sight, now), await changesSeen(sight, now, { limit: 50 })],
    record: [await recordSeen(askedIn(new URLSearchParams()), sight, now)].map((seen) => [
      seen,
      recordAsCsv(seen.calls),
    ]),
    "page of the market": await marketSaid(market, sight, now),
    "prices as they move": await editionNow(String(number), sight),
    picture: picture ? (await artefact(picture.svgSha256)).toString("utf8") : "",
    search: Object.keys(PRICES).filter((_, i) => archive[i].count > 0),
  };
}

/** Digits that stand by themselves: 102.27 is not in 5102.271. */
const isIn = (price: string, said: string) => new RegExp(`(?<![\\d.])${price.replace(".", "\\.")}(?!\\d)`).test(said);

describe("every way out of the desk", () => {
  it(
    "tells, for every choice of parts that is asked for, no number the plan has not",
    { timeout: 120_000 },
    async () => {
      const figures = new Map<string, { found: number; allowed: number; wrong: string[] }>();
      for (const parts of ASKED) {
        const allowed = Object.entries(PRICES).filter(([, of]) => of.every((part) => parts.includes(part)));
        for (const [way, said] of Object.entries(await saidTo({ ...WHOLE, parts }))) {
          const own = figures.get(way) ?? { found: 0, allowed: 0, wrong: [] };
          const text = JSON.stringify(said ?? "");
          const found = Object.keys(PRICES).filter((price) => isIn(price, text));
          own.found += found.length;
          own.allowed += allowed.length;
          own.wrong.push(
            ...found
              .filter((one) => !allowed.some(([price]) => price === one))
              .map((one) => `${one} to ${parts.join("+")}`),
          );
          figures.set(way, own);
        }
      }
      for (const [way, { found, allowed, wrong }] of figures) {
        if (process.env.COMPASS_FIGURES) process.stdout.write(`${way}: ${found} of ${allowed} allowed numbers found\n`);
        expect(wrong, way).toEqual([]);
      }
      // The crawl says something: what is whole tells them all.
      expect(figures.get("page, API")).toMatchObject({ found: figures.get("page, API")?.allowed });
      expect([...figures.values()].filter(({ found }) => found > 0).length).toBeGreaterThan(7);
    },
  );
});
