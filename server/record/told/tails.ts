import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { recordFolder } from "../../signing.ts";
import type { ToldPage } from "./page.ts";

/** Where a market's pages end, as it is kept outside the database: pages that were cut off are found out by it. */
export type Tail = Pick<ToldPage, "market" | "number" | "bars">;

function tailsFolder(): string {
  const folder = join(recordFolder(), "told");
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  return folder;
}

/** Markets have names of their own making: a file's is safe everywhere. */
const fileOf = (market: string) => join(tailsFolder(), `${Buffer.from(market).toString("hex")}.json`);

export function keepTail({ market, number, bars }: Tail): void {
  const file = fileOf(market);
  const part = `${file}.${process.pid}`;
  writeFileSync(part, JSON.stringify({ market, number, bars }), { mode: 0o600 });
  renameSync(part, file);
}

function readTail(file: string): Tail | undefined {
  try {
    return JSON.parse(readFileSync(file, "utf8")) as Tail;
  } catch {
    return undefined;
  }
}

export function keptTail(market: string): Tail | undefined {
  const file = fileOf(market);
  return existsSync(file) ? readTail(file) : undefined;
}

export function keptTails(): Tail[] {
  const folder = tailsFolder();
  return readdirSync(folder).flatMap((name) => (name.endsWith(".json") ? (readTail(join(folder, name)) ?? []) : []));
}

/** Tails that came with a backup: written down where none is kept. */
export function putBackTails(tails: readonly Tail[]): void {
  for (const tail of tails) if (!keptTail(tail.market)) keepTail(tail);
}

/** Whether pages reach as far as it was kept that they did. */
export function reaches(last: Pick<ToldPage, "number" | "bars"> | undefined, tail: Tail | undefined): boolean {
  if (!tail) return true;
  if (!last) return false;
  return last.number > tail.number || (last.number === tail.number && last.bars >= tail.bars);
}
