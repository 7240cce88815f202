import { hash, verify } from "@node-rs/argon2";
import PQueue from "p-queue";
import { Failure } from "../failure.ts";

/** The package exports its names of algorithms as a const enum, which cannot be read here. */
const ARGON2ID = 2;

/** argon2id with the parameters OWASP's password storage guidance names first (19 MiB, 2 passes, 1 lane). */
const OPTIONS = { algorithm: ARGON2ID, memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** Digests are dear on purpose: so many are worked out at once and may wait, whoever asks for them. */
const digests = new PQueue({ concurrency: 2 });
const WAITING = 200;

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (digests.size >= WAITING)
    throw new Failure("busy", "Too many people are signing in at this moment.", {
      status: 503,
      remedy: "Try again in a few seconds.",
    });
  return (await digests.add(work)) as T;
}

export function hashPassword(password: string): Promise<string> {
  return inTurn(() => hash(password.normalize("NFC"), OPTIONS));
}

/** Stands where a password's digest does while none was chosen: no password fits it. */
export const NO_PASSWORD = "none";

let decoy: Promise<string> | undefined;

/** Checks a password; without an account as much work is done, so that timing does not tell who exists. */
export async function verifyPassword(passwordHash: string | undefined, password: string): Promise<boolean> {
  decoy ??= hashPassword("no such account");
  const chosen = passwordHash === NO_PASSWORD ? undefined : passwordHash;
  const known = chosen ?? (await decoy);
  const matches = await inTurn(() => verify(known, password.normalize("NFC")));
  return chosen !== undefined && matches;
}

/** The shipped list of passwords that are tried first everywhere; read when one is first chosen. */
let common: Promise<ReadonlySet<string>> | undefined;

async function commonPasswords(): Promise<ReadonlySet<string>> {
  const { dictionary } = await import("@zxcvbn-ts/language-common");
  return new Set(dictionary.passwords as string[]);
}

/**
 * Why a password cannot be chosen, in a sentence (OWASP ASVS 4.0, 2.1.1 and 2.1.7): too short, one of the many that are
 * tried first, such a one with digits or signs hung on, one letter over and over, or the person's own name.
 */
export async function passwordFault(
  password: string,
  { email, name }: { email: string; name: string },
): Promise<string | undefined> {
  const plain = password.normalize("NFC").toLowerCase();
  if ([...plain].length < 12) return "A password has at least 12 characters.";
  if (new Set(plain).size < 5) return "A password has at least five different characters.";
  const known = await (common ??= commonPasswords());
  const core = plain.replace(/^[\d\W_]+|[\d\W_]+$/g, "");
  if (known.has(plain) || known.has(core))
    return (
      "This password is on the list of those that are tried first. Choose several words that do not belong " +
      "together."
    );
  const own = [email.split("@")[0], ...name.split(/\s+/)]
    .map((part) => part.toLowerCase())
    .filter((part) => part.length >= 4);
  if (own.some((part) => core === part || plain === `${part}${part}`)) return "A password is not one's own name.";
  return undefined;
}
