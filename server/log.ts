import pino from "pino";

/** Structured log on standard output. Secrets are cut out by name wherever they turn up. */
export const log = pino({
  level: process.env.COMPASS_LOG ?? "info",
  base: undefined,
  redact: {
    paths: ["password", "*.password", "token", "*.token", "cookie", "*.cookie", "req.headers.cookie"],
    censor: "[cut]",
  },
});
