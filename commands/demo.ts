import { randomBytes } from "node:crypto";
import { PEOPLE } from "../demo/people.ts";
import { EVERY_MARKET_READ } from "../demo/said.ts";
import { readMarkets, seedWorld } from "../demo/seed.ts";
import { readDeskName, runDesk } from "./desk/desk.ts";
import { runCommand, timed } from "./desk/timing.ts";

process.env.COMPASS_LOG ??= "warn";
// Plans of the demo are for sale, at a till on which nothing is charged.
process.env.COMPASS_TILL ??= "stand-in";
process.env.COMPASS_TILL_SECRET ??= `whsec_${randomBytes(24).toString("base64")}`;

let isNew = false;

/** The board's rows, beside whoever has signed in already. */
function readEveryMarket(): void {
  readMarkets().then(
    () => process.stdout.write(`${EVERY_MARKET_READ}\n`),
    (error: unknown) => process.stderr.write(`Not every market was read: ${String(error)}\n`),
  );
}

runCommand(() =>
  runDesk(
    readDeskName(process.argv[2] ?? "demo"),
    async () => {
      isNew = await timed("Looking after the Meridian Isles", seedWorld);
    },
    async (address) => {
      if (isNew) readEveryMarket();
      const { analyst, colleague, owner, subscriber } = PEOPLE;
      return [
        "",
        `Even Compass is open at ${address}`,
        `  analyst     ${analyst.email}   ${analyst.password}`,
        `              ${colleague.email} ${colleague.password}`,
        `  owner       ${owner.email}      ${owner.password}`,
        `  subscriber  ${subscriber.email}    ${subscriber.password}`,
        "Ctrl-C ends it.",
      ].join("\n");
    },
    { standIns: true },
  ),
);
