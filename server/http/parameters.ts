import type { NextFunction, Request, Response } from "express";

/** What pages that many are shown may be asked with; whatever else stands behind the question mark is dropped. */
const PARAMETERS: [RegExp, readonly string[]][] = [
  [/^\/(outlooks|calendar|record|markets\/[^/]+)$/, []],
  [/^\/archive$/, ["words", "kind", "market", "page"]],
  [/^\/outlooks\/[^/]+$/, ["as"]],
];

/** An address without what its page is not asked with, and with the rest in one order: one page has one address. */
export function plainAddress(address: string): string {
  const [path, search = ""] = address.split("?", 2);
  const known = PARAMETERS.find(([of]) => of.test(path))?.[1];
  if (!known || search === "") return address;
  const asked = new URLSearchParams(search);
  const kept = known.flatMap((name): [string, string][] => {
    const value = asked.get(name);
    return value === null ? [] : [[name, value]];
  });
  return kept.length === 0 ? path : `${path}?${new URLSearchParams(kept)}`;
}

/** Pages are worked out once for everybody who is shown the same: a made-up parameter must not have them made again. */
export function dropUnknown(request: Request, _response: Response, next: NextFunction): void {
  if (request.method === "GET") request.originalUrl = request.url = plainAddress(request.url);
  next();
}
