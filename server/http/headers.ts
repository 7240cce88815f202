import { randomBytes } from "node:crypto";
import type { IncomingMessage } from "node:http";
import type { NextFunction, Request, Response } from "express";
import helmet from "helmet";
import onHeaders from "on-headers";

/** A secret word of each answer by which its own scripts and styles are known. */
export function makeNonce(_request: Request, response: Response, next: NextFunction): void {
  response.locals.nonce = randomBytes(16).toString("base64");
  next();
}

const own = (_request: unknown, response: unknown) => `'nonce-${(response as Response).locals.nonce}'`;

/** A draft as readers would see it, and a mail, are looked at within a page of the desk; nothing else is framed. */
const framedBy = (request: IncomingMessage) =>
  /^\/(editions\/[0-9a-f-]{36}\/read\?|mailbox\/)/.test(request.url ?? "") ? "'self'" : "'none'";

/** What every answer says to browsers, files of the build included. */
export function securityHeaders(tls: boolean) {
  const rest = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        "default-src": ["'self'"],
        "script-src": ["'self'", own],
        "style-src": ["'self'", own],
        "style-src-attr": ["'unsafe-inline'"],
        "img-src": ["'self'", "data:", "blob:"],
        "font-src": ["'self'"],
        "connect-src": ["'self'"],
        "worker-src": ["'self'", "blob:"],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "form-action": ["'self'"],
        "frame-ancestors": [framedBy],
      },
    },
    strictTransportSecurity: tls,
    crossOriginEmbedderPolicy: false,
    crossOriginResourcePolicy: false,
    referrerPolicy: { policy: "same-origin" },
  });
  return (request: Request, response: Response, next: NextFunction) => {
    // Pictures that are shared with anybody stand in pages of others; nothing else does.
    const isShared = /^\/shared\/[^/]+\/picture\.png$/.test(request.path);
    response.setHeader("Cross-Origin-Resource-Policy", isShared ? "cross-origin" : "same-origin");
    rest(request, response, next);
  };
}

/** Lets a page have these scripts and styles of its own, by their digests, and no others: it then needs no nonce. */
export function nameSources(response: Response, { scripts, styles }: { scripts: string[]; styles: string[] }): void {
  const policy = String(response.getHeader("Content-Security-Policy"));
  const word = own(undefined, response);
  response.setHeader(
    "Content-Security-Policy",
    policy
      .replace(`script-src 'self' ${word}`, ["script-src 'self'", ...scripts].join(" "))
      .replace(`style-src 'self' ${word}`, ["style-src 'self'", ...styles].join(" ")),
  );
}

/**
 * What does not say how long it may be kept is not kept: nothing here is for whoever uses the browser next. A page that
 * a browser has kept stays under the policy it came with, whose secret word is its own.
 */
export function keepNothing(_request: Request, response: Response, next: NextFunction): void {
  onHeaders(response, () => {
    if (!response.hasHeader("Cache-Control")) response.setHeader("Cache-Control", "no-store");
    if (response.statusCode === 304) response.removeHeader("Content-Security-Policy");
  });
  next();
}
