import { existsSync } from "node:fs";
import { playFile } from "./desk/outsideFeed.ts";
import { CommandFault, runCommand } from "./desk/timing.ts";

const USAGE =
  "COMPASS_TOKEN=... ./compass play MARKET FILE timeframe=PT1M [bars=1] [every=1] [zone=UTC] " +
  "[to=http://127.0.0.1:4400]";

/** Plays a file as a feed from outside would come in: piece by piece, every so many seconds, over HTTP. */
runCommand(async () => {
  const [market, file, ...rest] = process.argv.slice(2);
  const asked = new URLSearchParams(rest.join("&"));
  const token = process.env.COMPASS_TOKEN;
  const [timeframe, bars, every] = [asked.get("timeframe"), whole(asked, "bars"), whole(asked, "every")];
  if (!market || !file || !existsSync(file) || !timeframe || !token) throw new CommandFault(USAGE);
  const feed = { market, file, token, timeframe, bars, every: every * 1000, zone: asked.get("zone") ?? "UTC" };
  const address = asked.get("to") ?? "http://127.0.0.1:4400";
  const added = await playFile({ ...feed, address }, (line) => process.stdout.write(`${line}\n`));
  process.stdout.write(`${added} bars were added.\n`);
});

function whole(asked: URLSearchParams, name: string): number {
  const value = Number(asked.get(name) ?? 1);
  if (!Number.isInteger(value) || value < 1) throw new CommandFault(`"${name}" is a whole number from 1 on.\n${USAGE}`);
  return value;
}
