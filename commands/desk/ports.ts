import { createServer } from "node:net";

function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once("error", () => resolve(false));
    server.listen({ port, host: "127.0.0.1", exclusive: true }, () => server.close(() => resolve(true)));
  });
}

/** The first free port from `first` on, on loopback; below the ephemeral range. Names the busy ones. */
export async function freePort(first: number): Promise<number> {
  for (let port = first; port < 32_768; port++) {
    if (await isFree(port)) return port;
    process.stderr.write(`port ${port} is busy, trying ${port + 1} ... `);
  }
  throw new Error(`No port from ${first} to 32767 is free.`);
}
