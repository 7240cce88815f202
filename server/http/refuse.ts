import type { NextFunction, Request, Response } from "express";

/** How long what a refused request still sends is taken (ms). */
const DRAINED = 500;
/** A body of at most so many bytes is taken whole, and the connection is kept. */
const SMALL = 64 * 1024;

/**
 * Refuses a request whose body nobody reads. Answered or closed under what is still on its way, the connection would be
 * reset, and with it whatever its client asks next: for a moment the body is taken and thrown away.
 */
export function refuse(request: Request, response: Response, status: number, says: string | object): void {
  const answer = () => {
    if (response.headersSent) return;
    if (typeof says === "string") response.status(status).type("text").send(says);
    else response.status(status).json(says);
  };
  const { "content-length": length = "0", "transfer-encoding": coding } = request.headers;
  if (coding === undefined && length === "0") return answer();
  if (coding !== undefined || !(Number(length) <= SMALL)) response.setHeader("Connection", "close");
  const soon = setTimeout(answer, DRAINED);
  request.once("end", () => {
    clearTimeout(soon);
    answer();
  });
  request.resume();
}

/**
 * Takes what of a body nobody had read when its request was answered, and throws it away. Left where it is, it would
 * hold the connection: whatever its client asks next would never be read, and never be answered.
 */
export function dropUnread(request: Request, response: Response, next: NextFunction): void {
  response.once("finish", () => {
    if (request.readableEnded || request.destroyed) return;
    const late = setTimeout(() => request.destroy(), DRAINED);
    request.once("end", () => clearTimeout(late));
    // A reader that was given up half way would stop it again.
    request.removeAllListeners("data");
    request.resume();
  });
  next();
}
