import { serve } from "./serve.ts";

/** The web server as a process of its own: its desk starts it again should it end. */
const port = Number(process.env.COMPASS_PORT);
const running = await serve(port);
let ending: Promise<void> | undefined;
const end = () => (ending ??= running.close().finally(() => process.exit()));
for (const signal of ["SIGTERM", "SIGINT", "SIGHUP"] as const) process.on(signal, end);
// Without its desk nobody would ever stop it.
process.on("disconnect", end);
process.send?.("ready");
