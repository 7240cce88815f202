import { readFileSync } from "node:fs";
import { basename } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { CommandFault } from "./timing.ts";

/** A feed that is not ours, played from a file. */
export interface OutsideFeed {
  /** Where the desk answers, as http://127.0.0.1:4400. */
  address: string;
  /** A token of scope "bars", from somebody's settings. */
  token: string;
  market: string;
  file: string;
  /** How long a bar is, as PT1M: a single one does not say it. */
  timeframe: string;
  /** IANA zone of times that say none. */
  zone: string;
  /** Bars of a piece, and how long after one the next is sent (ms). */
  bars: number;
  every: number;
}

/** How long a desk that is away, or has too much to do, is left alone (ms). */
const AGAIN = 5_000;

/**
 * Sends a file's bars to a desk piece by piece, as a feed would as they close: a head line and the rows that are new,
 * by its open way in. What a desk did not take because it was away is sent again, which changes nothing where it was
 * taken after all. Returns how many bars were added. A `CommandFault` with the desk's own words where it refuses.
 */
export async function playFile(feed: OutsideFeed, said: (line: string) => void, again = AGAIN): Promise<number> {
  const { address, market, file, timeframe, zone, bars, every } = feed;
  const [head, ...rows] = readFileSync(file, "utf8").split(/\r?\n/).filter(Boolean);
  const url = new URL(`/api/bars/${encodeURIComponent(market)}`, address);
  url.search = String(new URLSearchParams({ timeframe, zone, name: basename(file) }));
  let added = 0;
  for (let from = 0; from < rows.length; from += bars) {
    const piece = [head, ...rows.slice(from, from + bars)].join("\n");
    const report = await send(url, feed.token, `${piece}\n`, said, again);
    added += report.added;
    said(`${Math.min(from + bars, rows.length)} of ${rows.length}: ${report.added} added, ${report.same} known`);
    if (from + bars < rows.length) await pause(every);
  }
  return added;
}

interface Report {
  added: number;
  same: number;
}

/** Sends a piece until the desk has taken or refused it. */
async function send(url: URL, token: string, body: string, said: (line: string) => void, again: number) {
  const headers = { Authorization: `Bearer ${token}`, "Content-Type": "text/csv" };
  for (;;) {
    const answer = await fetch(url, { method: "POST", headers, body }).catch(() => undefined);
    if (answer?.status === 202) return reportOf(new URL(answer.headers.get("Location") ?? "", url), token, again);
    if (answer?.ok) return (await answer.json()) as Report;
    if (answer && answer.status !== 429 && answer.status < 500) throw new CommandFault(await refusalOf(answer));
    said(`The desk ${answer ? `answers ${answer.status}` : "is away"}; it is sent again in ${again / 1000} s.`);
    await pause(again);
  }
}

/** What became of a piece that the desk stores while others are answered: asked until it is known. */
async function reportOf(url: URL, token: string, again: number): Promise<Report> {
  const headers = { Authorization: `Bearer ${token}` };
  for (;;) {
    await pause(Math.min(again, 1_000));
    const answer = await fetch(url, { headers }).catch(() => undefined);
    if (!answer || answer.status === 429) continue;
    if (!answer.ok) throw new CommandFault(await refusalOf(answer));
    const { report } = (await answer.json()) as { report?: Report };
    if (report) return report;
  }
}

/** Why it was refused (problem details, RFC 9457). */
async function refusalOf(answer: Response): Promise<string> {
  const { title, detail } = (await answer.json().catch(() => ({}))) as { title?: string; detail?: string };
  return [`The desk answers ${answer.status}.`, title, detail].filter(Boolean).join(" ");
}
