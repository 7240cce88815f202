import { PEOPLE } from "../demo/people.ts";
import { seedWorld } from "../demo/seed.ts";
import { readDeskName, runDesk } from "./desk/desk.ts";
import { runCommand, timed } from "./desk/timing.ts";

process.env.COMPASS_LOG ??= "warn";

runCommand(() =>
  runDesk(
    readDeskName(process.argv[2] ?? "demo"),
    async () => {
      await timed("Looking after the Meridian Isles", seedWorld);
    },
    async (address) => {
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
  ),
);
