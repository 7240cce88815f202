import { createServer, type Server } from "node:http";
import { setTimeout as wait } from "node:timers/promises";

const PAGE = `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="refresh" content="5"><title>In a moment - Even Compass</title></head>
<body style="font:18px/1.5 Georgia,serif;background:#F6F1E6;color:#23262B;
  max-width:34em;margin:15vh auto;padding:0 1em">
<h1 style="font-size:1.5em">In a moment</h1>
<p>The desk is being started again. Nothing that was stored is lost; this page asks again by itself.</p>
</body></html>
`;

/** Somebody who answers in the desk's place while its web server is away: calmly, to every address. */
export interface Calm {
  /** Takes the port, as soon as nobody else has it. */
  begin(): void;
  /** Gives it back. */
  end(): Promise<void>;
}

export function calmOn(port: number): Calm {
  let server: Server | undefined;
  let wanted = false;
  const begin = async () => {
    wanted = true;
    for (let tries = 0; wanted && !server && tries < 100; tries++) {
      const one = createServer((request, response) => {
        request.resume();
        response.writeHead(503, {
          "Content-Type": "text/html; charset=utf-8",
          ...{ "Retry-After": "5", "Cache-Control": "no-store", Connection: "close" },
        });
        response.end(PAGE);
      });
      const listens = await new Promise<boolean>((done) => {
        one.once("error", () => done(false));
        one.listen(port, "127.0.0.1", () => done(true));
      });
      if (listens && wanted) server = one;
      else one.close();
      if (!server) await wait(20);
    }
  };
  return {
    begin: () => void begin(),
    async end() {
      wanted = false;
      const own = server;
      server = undefined;
      if (!own) return;
      await new Promise((done) => {
        own.close(done);
        own.closeAllConnections();
      });
    },
  };
}
