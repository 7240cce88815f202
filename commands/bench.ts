import { basename } from "node:path";
import { Account } from "../server/database/models.ts";
import { frameRatios } from "../bench/chart.ts";
import { coreSides } from "../bench/core.ts";
import { foundLines, foundSides } from "../bench/found.ts";
import { firstCharts } from "../bench/first.ts";
import { grownLines } from "../bench/grown.ts";
import { cleanImport, importSides } from "../bench/import.ts";
import { withDesk } from "../bench/desk.ts";
import { patternLines, patternSides } from "../bench/patterns.ts";
import { publishLines } from "../bench/publish.ts";
import { roundLines } from "../bench/round.ts";
import { scenarioLines } from "../bench/scenarios.ts";
import { compare, ratioLine } from "../bench/side.ts";
import { truthLines, type Named } from "../bench/truth.ts";
import { waveLines, waveSides } from "../bench/waves.ts";
import { storeLines, withMillion } from "../bench/store.ts";
import { readBarFile } from "./compute/request.ts";
import { ensureBuild } from "./desk/build.ts";
import { runCommand } from "./desk/timing.ts";

process.env.COMPASS_LOG ??= "warn";

const say = (line: string) => process.stdout.write(`${line}\n`);

function barsOf(file: string): Named {
  return { name: basename(file), series: readBarFile(file, "UTC") };
}

/**
 * Everything, or parts by name: core, found, patterns, grown, scenarios, waves, truth, publish, import, store, first,
 * chart, round. `truth` and `patterns` may be followed by files of daily bars (CSV).
 */
runCommand(async () => {
  const asked = process.argv.slice(2);
  const wants = (part: string) => asked.length === 0 || asked.includes(part);
  say("Ratios, ours against the other, medians of pairs run in turn on this machine.\n");
  if (wants("core")) for (const side of coreSides()) say(ratioLine(await compare(side)));
  if (wants("found")) {
    for (const side of foundSides()) say(ratioLine(await compare(side)));
    say("\nWhat was planted and what is found:");
    for (const line of foundLines()) say(line);
    say("");
  }
  if (wants("patterns")) {
    for (const side of patternSides()) say(ratioLine(await compare(side)));
    for (const line of patternLines(asked.filter((name) => name.endsWith(".csv")).map(barsOf))) say(line);
    say("");
  }
  if (wants("grown")) {
    say("\nOne new minute on a market of 1,000,000 with 10 rungs, 200 marks and 50 watchers:");
    for await (const line of grownLines()) say(line);
    say("");
  }
  if (wants("scenarios")) {
    for await (const line of scenarioLines()) say(line);
    say("");
  }
  if (wants("waves")) {
    for (const side of waveSides()) say(ratioLine(await compare(side)));
    say("\nPlanted counts and how often they are found again:");
    for (const line of waveLines()) say(line);
    say("");
  }
  if (wants("truth")) {
    for (const line of truthLines(asked.filter((name) => name.endsWith(".csv")).map(barsOf))) say(line);
    say("");
  }
  if (wants("publish")) for (const line of await publishLines()) say(line);
  if (wants("import")) for (const side of importSides()) say(ratioLine(await compare(side)));
  cleanImport();
  if (wants("chart")) for await (const ratio of frameRatios()) say(ratioLine(ratio));
  if (wants("store") || wants("first"))
    await withMillion(async ({ market, person }) => {
      const { id } = await Account.findOne({ where: { email: person.email }, rejectOnEmpty: true });
      for (const line of await storeLines(market, id, wants("store"))) say(line);
      if (!wants("first")) return;
      await ensureBuild();
      say("\nFirst chart of a market of 1,000,000 minutes, in a browser that has kept nothing:");
      for (const { rung, drawn, bytes, script } of await firstCharts(market, person, ["P1W", "P1D", "PT1M", "PT45M"]))
        say(
          `${rung.padEnd(6)} drawn after ${drawn.toFixed(0)} ms; ${(bytes / 1000).toFixed(0)} kB sent, ` +
            `${(script / 1000).toFixed(0)} kB of them script`,
        );
    });
  if (wants("round")) {
    await ensureBuild();
    say("\nThe round over the demo world:");
    await withDesk("var/bench-round", async (url) => {
      for (const line of await roundLines(url)) say(line);
    });
  }
});
