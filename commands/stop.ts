import { DESKS, runningDesk } from "./desk/desk.ts";
import { runCommand, timed } from "./desk/timing.ts";

runCommand(async () => {
  const running = DESKS.map(runningDesk).filter((note) => note !== undefined);
  if (running.length === 0) process.stderr.write("Nothing of Even Compass is running from this folder.\n");
  for (const { pid, address } of running)
    await timed(`Stopping ${address}`, async () => {
      process.kill(pid, "SIGTERM");
      for (let tries = 0; tries < 150; tries++) {
        try {
          process.kill(pid, 0);
        } catch {
          return;
        }
        await new Promise((done) => setTimeout(done, 100));
      }
    });
});
