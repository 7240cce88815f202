import { log } from "../../server/log.ts";
import { serve } from "./serve.ts";

/** The web server as a process of its own: its desk starts it again should it end. */
const running = await serve(Number(process.env.COMPASS_PORT), portIsOurs);
let ending: Promise<void> | undefined;
const end = () => (ending ??= running.close().finally(() => process.exit()));
for (const signal of ["SIGTERM", "SIGINT", "SIGHUP"] as const) process.on(signal, end);
// Without its desk nobody would ever stop it.
process.on("disconnect", end);
// A promise that nobody waited for spoils one request, not everybody's.
process.on("unhandledRejection", (error) =>
  log.error({ error: error instanceof Error ? error.stack : String(error) }, "nobody waited for this"),
);
process.send?.("ready");

/** Asks whoever answers in our place for the port. */
function portIsOurs(): Promise<void> {
  if (!process.send) return Promise.resolve();
  return new Promise((done) => {
    process.once("message", () => done());
    process.send?.("port");
  });
}
