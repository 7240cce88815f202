import { createServer, type Server } from "node:http";
import type { BrotliOptions } from "node:zlib";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import compression from "compression";
import express from "express";
import compressedStatic from "express-static-gzip";

interface Application {
  app: express.Express;
  stop(): Promise<void>;
}

export interface Running {
  close(): Promise<void>;
}

/** Serves the built application on loopback. The environment must have been set before. */
export async function serve(port: number): Promise<Running> {
  process.env.NODE_ENV = "production";
  const { app, stop } = (await import(pathToFileURL(resolve("build/server/express.js")).href)) as Application;
  const outer = express();
  outer.disable("x-powered-by");
  outer.use("/assets", compressedStatic("build/client/assets", { serveStatic: { immutable: true, maxAge: "1y" } }));
  // A page is compressed as it comes: with room for it nothing waits to be drained.
  outer.use(compression({ brotli: { highWaterMark: 1 << 20 } as BrotliOptions }));
  outer.use(express.static("build/client", { maxAge: "1h", index: false }));
  outer.use(app);
  const server = createServer(outer);
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
