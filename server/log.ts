import pino, { type LoggerOptions } from "pino";
import { requestId } from "./requestId.ts";

export const OPTIONS: LoggerOptions = {
  level: process.env.COMPASS_LOG ?? "info",
  base: undefined,
  // Every line says of which request it is.
  mixin: () => ({ id: requestId() }),
  redact: {
    paths: ["password", "*.password", "token", "*.token", "cookie", "*.cookie", "req.headers.cookie"],
    censor: "[cut]",
  },
};

/** Structured log on standard output. Secrets are cut out by name wherever they turn up. */
export const log = pino(OPTIONS);
