import { createHash } from "node:crypto";
import { createReadStream, createWriteStream, statSync } from "node:fs";
import { once } from "node:events";
import { createInterface } from "node:readline";
import { pipeline } from "node:stream/promises";
import { Readable, Transform } from "node:stream";
import { createGunzip, createGzip } from "node:zlib";
import { DatabaseError, QueryTypes, Transaction, type Sequelize } from "sequelize";
import { checkCalls } from "../../server/record/check.ts";
import { recordFile } from "../../server/record/file.ts";
import { keptHeads, putBackHeads, type Head as RecordHead } from "../../server/record/heads.ts";
import { keepPublic, publicKeys, type PublicKeys } from "../../server/signing.ts";
import { keptTails, putBackTails, type Tail } from "../../server/record/told/tails.ts";
import { verifyRecord } from "../../server/record/verify.ts";
import { CommandFault } from "./timing.ts";

/** In an order in which every row finds what it refers to. */
const TABLES = [
  "plans",
  "accounts",
  "rung_sets",
  "chart_layouts",
  "chart_studies",
  "finding_params",
  "markets",
  "market_clock",
  "bar_chunks",
  "bar_imports",
  "restatements",
  "marks",
  "mark_steps",
  "scenarios",
  "scenario_steps",
  "own_sentences",
  "desk_settings",
  "drafts",
  "voices",
  "editions",
  "artefacts",
  "edition_pictures",
  "edition_markets",
  "edition_words",
  "reader_choices",
  "tokens",
  "passkeys",
  "hooks",
  "push_devices",
  "memberships",
  "payments",
  "outbox",
  "questions",
  "record_entries",
  "record_head",
  "audit_log",
  "follow_ups",
  "outcome_notes",
  "market_lists",
  "rounds",
  "verdicts",
  "looks",
  "setups",
  "horizons",
  "calendar_events",
  "alerts",
  "firings",
  "watchers",
  "told_bars",
  "told_pages",
] as const;
const FORMAT = "even-compass-backup-1";

type Row = Record<string, unknown>;

/** The first line: which version wrote it, and what of the record lies outside the database. */
interface Head {
  format: string;
  migrations: string[];
  keys?: PublicKeys;
  heads?: RecordHead[];
  tails?: Tail[];
}

/**
 * Writes every table (sessions and failed sign-ins apart) as lines of JSON, compressed, read in one snapshot so
 * that a desk at work is caught at one moment. The last line counts the rows and carries their digest.
 */
export async function writeArchive(sequelize: Sequelize, file: string): Promise<number> {
  let rows = 0;
  const digest = createHash("sha256");
  async function* lines(): AsyncGenerator<string> {
    const migrations = await sequelize.query<{ name: string }>("SELECT name FROM migrations ORDER BY name", {
      type: QueryTypes.SELECT,
    });
    const names = migrations.map(({ name }) => name);
    const head: Head = {
      format: FORMAT,
      migrations: names,
      keys: publicKeys(),
      heads: keptHeads(),
      tails: keptTails(),
    };
    yield `${JSON.stringify(head)}\n`;
    const transaction = await sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ });
    try {
      for (const table of TABLES) {
        const keys = await keysOf(sequelize, table, transaction);
        for (const key of keys) {
          const where = Object.keys(key)
            .map((name) => `\`${name}\` = :${name}`)
            .join(" AND ");
          const [row] = await sequelize.query<Row>(`SELECT * FROM ${table} WHERE ${where}`, {
            replacements: key,
            transaction,
            type: QueryTypes.SELECT,
          });
          if (!row) continue;
          const line = `${JSON.stringify([table, pack(row)])}\n`;
          digest.update(line);
          rows++;
          yield line;
        }
      }
    } finally {
      await transaction.rollback();
    }
    yield `${JSON.stringify({ rows, sha256: digest.digest("hex") })}\n`;
  }
  await pipeline(Readable.from(lines()), createGzip({ level: 1 }), createWriteStream(file, { mode: 0o600 }));
  return rows;
}

async function keysOf(sequelize: Sequelize, table: string, transaction: Transaction): Promise<Row[]> {
  const columns = await sequelize.query<{ name: string }>(
    "SELECT COLUMN_NAME AS name FROM information_schema.KEY_COLUMN_USAGE WHERE TABLE_SCHEMA = DATABASE() " +
      "AND TABLE_NAME = :table AND CONSTRAINT_NAME = 'PRIMARY' ORDER BY ORDINAL_POSITION",
    { replacements: { table }, type: QueryTypes.SELECT },
  );
  const list = columns.map(({ name }) => `\`${name}\``).join(", ");
  return sequelize.query<Row>(`SELECT ${list} FROM ${table} ORDER BY ${list}`, {
    transaction,
    type: QueryTypes.SELECT,
  });
}

function pack(row: Row): Row {
  return Object.fromEntries(
    Object.entries(row).map(([name, value]) => [
      name,
      Buffer.isBuffer(value) ? { base64: value.toString("base64") } : value,
    ]),
  );
}

function unpack(value: unknown): unknown {
  if (value === null || typeof value !== "object") return value;
  if ("base64" in value && typeof value.base64 === "string") return Buffer.from(value.base64, "base64");
  return JSON.stringify(value);
}

/** Reads an archive into an empty database, in one transaction: everything or, if a line is damaged, nothing. */
export async function readArchive(sequelize: Sequelize, file: string): Promise<number> {
  const digest = createHash("sha256");
  const size = statSync(file, { throwIfNoEntry: false })?.size ?? 0;
  const input = createReadStream(file);
  await once(input, "open").catch(() => {
    throw new CommandFault(`The file ${file} cannot be read.`);
  });
  let rows = 0;
  let ended = false;
  let head: Head | undefined;
  try {
    await sequelize.transaction(async (transaction) => {
      // Made here and read at once: lines that come before anybody asks for them would be lost.
      const unpacked = createGunzip();
      const counted = boundedLines(size);
      // What goes wrong on the way is told by the last of them.
      input.on("error", (error) => counted.destroy(error));
      unpacked.on("error", (error) => counted.destroy(error));
      const failed = new Promise<never>((_, fail) => counted.once("error", fail));
      failed.catch(() => {});
      const lines = createInterface({ input: input.pipe(unpacked).pipe(counted), crlfDelay: Infinity });
      for await (const line of untilFailed(lines, failed)) {
        const entry = JSON.parse(line) as unknown;
        if (!head) {
          head = await checkHead(sequelize, entry);
          // What new tables hold of themselves.
          for (const table of ["record_head", "plans"]) await sequelize.query(`DELETE FROM ${table}`, { transaction });
        } else if (Array.isArray(entry)) {
          const [table, packed] = entry as [string, Row];
          if (!TABLES.some((name) => name === table))
            throw new CommandFault(`The file names a table "${table}" that is not known.`);
          const names = Object.keys(packed).map((name) => FORMER[`${table}.${name}`] ?? name);
          if (names.some((name) => !/^\w+$/.test(name)))
            throw new CommandFault("The file is damaged: a column has no proper name.");
          digest.update(`${line}\n`);
          rows++;
          await sequelize.query(
            `INSERT INTO ${table} (${names.map((name) => `\`${name}\``).join(", ")}) VALUES ` +
              `(${names.map(() => "?").join(", ")})`,
            {
              replacements: Object.values(packed).map(unpack),
              transaction,
            },
          );
        } else {
          const tail = entry as { rows: number; sha256: string };
          ended = tail.rows === rows && tail.sha256 === digest.digest("hex");
        }
      }
      if (!ended || !head) throw new CommandFault("The file is cut short or damaged: nothing was put back.");
      await checkRestored(head);
    });
    if (head) keepRestored(head);
  } catch (error) {
    if (
      error instanceof SyntaxError ||
      error instanceof DatabaseError ||
      (error as { code?: string }).code?.startsWith("Z_")
    )
      throw new CommandFault("The file is no backup of Even Compass, or is damaged: nothing was put back.");
    throw error;
  }
  return rows;
}

/** Columns by names they once had: backups written then are put back all the same. */
const FORMER: Readonly<Record<string, string>> = {
  "scenarios.plan": "scenario",
  "scenario_steps.plan": "scenario",
};

/** The migration since which whoever watches a market stands in one table: what was written before has others. */
const OLDEST = "0008-watchers";

/** Refuses a desk whose record is not what it was when it was written down. */
async function checkRestored({ keys = {}, heads = [], tails = [] }: Head): Promise<void> {
  // What its own keys signed holds; the rows' seals are looked at by them, too.
  keepPublic(keys);
  const file = { ...(await recordFile({ desk: true })), keys: { ...keys, ...publicKeys() } };
  const faults = [...verifyRecord(file, heads), ...(await checkCalls(file, tails))];
  if (faults.length > 0)
    throw new CommandFault(
      `The record in the file does not hold: nothing was put back.\n${faults
        .slice(0, 20)
        .map((fault) => `  ${fault}`)
        .join("\n")}`,
    );
}

/** The keys and heads of the record lie outside the database, and go with it. */
function keepRestored({ heads = [], tails = [] }: Head): void {
  putBackHeads(heads);
  putBackTails(tails);
}

/**
 * Most letters of a line, and how many times its own size a file may unpack to: bars pack ten to one, a file made to
 * fill a disk a thousand.
 */
const LONGEST_LINE = 256 * 1024 * 1024;
const PACKED = 300;

/** Lets text through until a line, or all of it, is longer than that of any desk. */
function boundedLines(size: number): Transform {
  let [line, all] = [0, 0];
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      const last = chunk.lastIndexOf(10);
      line = last === -1 ? line + chunk.length : chunk.length - last - 1;
      all += chunk.length;
      if (line > LONGEST_LINE || all > PACKED * size + LONGEST_LINE)
        done(new CommandFault("The file unpacks to far more than a backup does: nothing was put back."));
      else done(null, chunk);
    },
  });
}

async function* untilFailed(lines: AsyncIterable<string>, failed: Promise<never>): AsyncGenerator<string> {
  const iterator = lines[Symbol.asyncIterator]();
  for (;;) {
    const { value, done } = await Promise.race([iterator.next(), failed]);
    if (done) return;
    yield value;
  }
}

async function checkHead(sequelize: Sequelize, head: unknown): Promise<Head> {
  const { format, migrations } = (head ?? {}) as Partial<Head>;
  if (format !== FORMAT || !migrations) throw new CommandFault("The file is no backup of Even Compass.");
  const here = await sequelize.query<{ name: string }>("SELECT name FROM migrations ORDER BY name", {
    type: QueryTypes.SELECT,
  });
  const newer = migrations.filter((name) => !here.some((known) => known.name === name));
  if (newer.length > 0)
    throw new CommandFault(`The backup is from a newer version (${newer.join(", ")}): use that version to restore it.`);
  if (!migrations.includes(OLDEST))
    throw new CommandFault(
      "The backup is of an earlier version, nothing was put back: restore it with that one, then start this one on it.",
    );
  return head as Head;
}
