import { runDesk } from "../../desk/desk.ts";
import { runCommand } from "../../desk/timing.ts";
import { seedSavers, seedTrial } from "./world.ts";

/** The desk that is attacked, as a process of its own, supervised like any other. */
runCommand(() =>
  runDesk(
    "trial-hostile",
    async () => {
      await seedTrial();
      await seedSavers();
    },
    (address) => Promise.resolve(address),
    { standIns: true },
  ),
);
