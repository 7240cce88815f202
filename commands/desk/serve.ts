import { createServer, type Server } from "node:http";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import type { Express } from "express";

interface Application {
  app: Express;
  stop(): Promise<void>;
}

export interface Running {
  close(): Promise<void>;
}

/**
 * Serves the built application on loopback. The environment must have been set before. `before` is waited for once all
 * is ready but the port.
 */
export async function serve(port: number, before: () => Promise<void> = () => Promise.resolve()): Promise<Running> {
  process.env.NODE_ENV = "production";
  const { app, stop } = (await import(pathToFileURL(resolve("build/server/express.js")).href)) as Application;
  // Heads have to come within ten seconds, so that whoever trickles them in holds a connection no longer than that.
  const server = createServer(
    {
      headersTimeout: 10_000,
      requestTimeout: 600_000,
      // Longer than those in front keep a connection that rests: who closes first must not be who is asked next.
      keepAliveTimeout: 75_000,
      maxHeaderSize: 16_384,
      connectionsCheckingInterval: 5_000,
    },
    app,
  );
  server.maxConnections = 2_000;
  await before();
  await new Promise<void>((done, fail) => {
    server.once("error", fail);
    server.listen(port, "127.0.0.1", done);
  });
  // The first page would otherwise pay for loading every module of the server.
  await fetch(`http://127.0.0.1:${port}/sign-in`).then((response) => response.text());
  return { close: () => close(server, stop) };
}

async function close(server: Server, stop: () => Promise<void>): Promise<void> {
  server.closeIdleConnections();
  const forced = setTimeout(() => server.closeAllConnections(), 2_000);
  await new Promise((done) => server.close(done));
  clearTimeout(forced);
  await stop();
}
