import { cleanImport, importSides } from "../bench/import.ts";
import { coreSides } from "../bench/core.ts";
import { panRatio } from "../bench/chart.ts";
import { compare, ratioLine } from "../bench/side.ts";
import { runCommand } from "./desk/timing.ts";

runCommand(async () => {
  process.stdout.write("Ratios, ours against the other, medians of pairs run in turn on this machine.\n\n");
  for (const side of [...coreSides(), ...importSides()]) process.stdout.write(`${ratioLine(await compare(side))}\n`);
  cleanImport();
  process.stdout.write(`${ratioLine(await panRatio())}\n`);
});
