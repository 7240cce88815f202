import { QueryTypes } from "sequelize";
import { describe, expect, it } from "vitest";
import { sightsByPlan } from "../accounts/plans.ts";
import { theDatabase, transact } from "../database/connection.ts";
import { archiveSeen } from "../readers/archive.ts";
import { callsSeen, changesSeen } from "../readers/calls.ts";
import { frontSeen } from "../readers/front.ts";
import { marketSaid, marketsSeen } from "../readers/marketSaid.ts";
import { becameOf, seeEdition } from "../readers/seen.ts";
import { picturesSeen } from "../readers/seenPictures.ts";
import { recordSoFar } from "../publishing/recordSoFar.ts";
import { aMarketWithTape } from "../testing.ts";
import { faultsAfter, run, withRecord } from "../recordTesting.ts";

withRecord();

/**
 * Tables that what readers are told of editions and calls hangs on. Who a reader is (accounts, sessions, memberships,
 * choices), and what waits to be sent, is not the record's: `docs/record.md` says so.
 */
const TABLES = [
  ...["editions", "edition_pictures", "edition_markets", "edition_words", "artefacts", "follow_ups", "outcome_notes"],
  ...["watchers", "plans", "markets", "record_entries", "record_head", "told_pages", "told_bars"],
];

interface Column {
  name: string;
  type: string;
}

/** Another value of the same type. */
const changed = ({ name, type }: Column): string => {
  if (name === "id" && type === "int") return "2";
  if (/int|double/.test(type)) return `COALESCE(\`${name}\`, 0) + 1`;
  if (type === "longblob") return `CONCAT(\`${name}\`, 'x')`;
  if (/json|longtext/.test(type))
    return (
      `CASE WHEN \`${name}\` IS NULL THEN '{}' WHEN JSON_VALID(\`${name}\`) THEN JSON_ARRAY(\`${name}\`) ` +
      `ELSE CONCAT('x', \`${name}\`) END`
    );
  return `CONCAT(IF(\`${name}\` LIKE 'z%', 'y', 'z'), SUBSTRING(\`${name}\`, 2))`;
};

const columnsOf = (table: string) =>
  theDatabase().query<Column>(
    "SELECT COLUMN_NAME AS name, DATA_TYPE AS type FROM information_schema.COLUMNS " +
      "WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = ? ORDER BY ORDINAL_POSITION",
    { replacements: [table], type: QueryTypes.SELECT },
  );

/** Everything that readers on every plan are told. */
async function answers(markets: readonly string[], now: number): Promise<string> {
  const told: unknown[] = [await recordSoFar()];
  for (const [plan, sight] of [...(await sightsByPlan())].sort(([a], [b]) => a.localeCompare(b))) {
    told.push(plan, await frontSeen(sight, now), await archiveSeen({ words: "", page: 1 }, sight, now));
    told.push(await archiveSeen({ words: "words", page: 1 }, sight, now), await callsSeen(sight, now));
    told.push(await marketsSeen(sight, now), await changesSeen(sight, now, { limit: 50 }));
    for (const id of markets) told.push(await marketSaid(id, sight, now).catch(String));
    for (const number of ["1", "2", "3"]) {
      const seen = await seeEdition(number, sight, now).catch(String);
      if (typeof seen === "string") told.push(seen);
      else {
        told.push(seen.content, await becameOf(Number(number), seen.content, sight, now));
        told.push([...(await picturesSeen(Number(number), sight))]);
      }
    }
  }
  return JSON.stringify(told);
}

describe("a column that somebody changes in the database", () => {
  it("is named by a check, or changes nothing that readers are told", { timeout: 300_000 }, async () => {
    // A market that no edition speaks of stands beside: what is said of it is told to nobody.
    await aMarketWithTape([]);
    // Tomorrow, so that plans which wait have something to show.
    const now = Date.now() + 90_000_000;
    const { rows } = {
      rows: await theDatabase().query<{ id: string }>("SELECT id FROM markets", { type: QueryTypes.SELECT }),
    };
    const markets = rows.map(({ id }) => id);
    const before = await answers(markets, now);
    expect(before).toContain("Scenario 1");
    const [silent, named, same]: string[][] = [[], [], []];
    for (const table of TABLES)
      for (const column of await columnsOf(table)) {
        const which = `${table}.${column.name}`;
        let told = before;
        const faults = await faultsAfter(
          () =>
            transact(async () => {
              await run("SET foreign_key_checks = 0");
              // Of a key that would stand twice one row is changed: that is enough.
              await run(`UPDATE IGNORE ${table} SET \`${column.name}\` = ${changed(column)}`);
              await run("SET foreign_key_checks = 1");
            }),
          {
            tables: [table],
            then: async (found) => {
              if (found === "")
                told = await answers(markets, now).catch((error: unknown) => `failed: ${String(error)}`);
            },
          },
        ).catch((error: unknown) => `failed: ${String(error)}`);
        if (faults !== "") named.push(which);
        else if (told === before) same.push(which);
        else silent.push(which);
      }
    if (process.env.COMPASS_FIGURES)
      process.stdout.write(
        `columns changed: ${named.length} named, ${same.length} change no answer, ${silent.length} silent\n`,
      );
    expect(silent).toEqual([]);
    // What is neither named nor told hangs on nothing: those columns, and no others.
    expect(same).toEqual([
      ...["editions.draftId", "watchers.id", "markets.revision", "markets.history", "markets.marked"],
      ...["markets.toldThrough", "record_entries.format", "record_head.id"],
    ]);
    expect(named.length).toBeGreaterThan(80);
  });
});
