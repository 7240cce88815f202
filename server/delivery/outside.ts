import { lookup, type LookupAddress, type LookupAllOptions } from "node:dns";
import { request as plain } from "node:http";
import { request as secure } from "node:https";
import { isIP, type LookupFunction } from "node:net";
import ipaddr from "ipaddr.js";
import { readSettings } from "../settings.ts";

/** An address outside did not take what it was sent; `final` where it never will. `status` is 0 where none came. */
export class OutsideFault extends Error {
  constructor(
    message: string,
    readonly final = false,
    readonly status = 0,
  ) {
    super(message);
  }
}

/** Whether an address is one of the open internet: not this machine, its network, or a range kept for other things. */
export function isPublic(ip: string): boolean {
  return ipaddr.isValid(ip) && ipaddr.process(ip).range() === "unicast";
}

/** Why an address outside cannot be one that is written to; `undefined` where it can. */
export function addressFault(text: string): string | undefined {
  if (!URL.canParse(text)) return "This is no address.";
  const { protocol, username, password, hostname, host } = new URL(text);
  if (protocol !== "https:" && protocol !== "http:") return "An address begins with https:// or http://.";
  if (username || password) return "An address holds no name or password: what is sent is signed.";
  if (isAllowed(host)) return undefined;
  const bare = hostname.replace(/^\[|\]$/g, "");
  if (isIP(bare) > 0 && !isPublic(bare)) return PRIVATE;
  return /(^|\.)(localhost|local|internal)\.?$/i.test(bare) ? PRIVATE : undefined;
}

const PRIVATE = "That address lies within a network of this desk, and is not written to.";

/** Hosts, with their ports, of this machine that may be written to: stand-ins. */
const isAllowed = (host: string) => (readSettings().COMPASS_HOOKS ?? "").split(",").includes(host);

/**
 * Finds the host at the very moment it is connected to: what is checked is what is written to, whatever the name says a
 * moment later.
 */
const publicLookup =
  (find: FindHost): LookupFunction =>
  (hostname, options, done) =>
    find(hostname, { ...options, all: true }, (error, found) => {
      if (error) return done(error, "", 0);
      if (found.length === 0 || !found.every(({ address }) => isPublic(address)))
        return done(new OutsideFault(PRIVATE, true), "", 0);
      if (options.all) return done(null, found);
      done(null, found[0].address, found[0].family);
    });

/** Finds every address of a host, as the system does. */
export type FindHost = (
  hostname: string,
  options: LookupAllOptions,
  done: (error: NodeJS.ErrnoException | null, found: LookupAddress[]) => void,
) => void;

/** How long the other side has to answer (ms). */
const TIME = 10_000;

/**
 * Sends something to an address outside. Redirects are not followed, and of the answer only its status is read.
 * Throws OutsideFault where it was not taken.
 */
export function postOutside(
  address: string,
  body: string | Buffer,
  headers: Record<string, string>,
  find: FindHost = lookup,
): Promise<void> {
  const fault = addressFault(address);
  if (fault) return Promise.reject(new OutsideFault(fault, true));
  const url = new URL(address);
  return new Promise((taken, refused) => {
    const sent = (url.protocol === "https:" ? secure : plain)(
      url,
      {
        method: "POST",
        // A connection of its own: one that was left open would not be looked up again.
        agent: false,
        signal: AbortSignal.timeout(TIME),
        ...(isAllowed(url.host) ? {} : { lookup: publicLookup(find) }),
        headers: { "Content-Type": "application/json", ...headers, "Content-Length": Buffer.byteLength(body) },
      },
      (answer) => {
        const status = answer.statusCode ?? 0;
        answer.destroy();
        if (status >= 200 && status < 300) taken();
        else if (status >= 300 && status < 400)
          refused(new OutsideFault(`It answers ${status}, a redirect: it is not followed.`));
        else refused(new OutsideFault(`It answers ${status}.`, status === 410, status));
      },
    );
    sent.on("error", (error) =>
      refused(error instanceof OutsideFault ? error : new OutsideFault(`It could not be reached: ${error.message}`)),
    );
    sent.end(body);
  });
}
