import { hash, verify } from "@node-rs/argon2";

/** The package exports its names of algorithms as a const enum, which cannot be read here. */
const ARGON2ID = 2;

/** argon2id with the parameters OWASP's password storage guidance names first (19 MiB, 2 passes, 1 lane). */
const OPTIONS = { algorithm: ARGON2ID, memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export function hashPassword(password: string): Promise<string> {
  return hash(password, OPTIONS);
}

let decoy: Promise<string> | undefined;

/** Checks a password; without an account as much work is done, so that timing does not tell who exists. */
export async function verifyPassword(passwordHash: string | undefined, password: string): Promise<boolean> {
  decoy ??= hashPassword("no such account");
  const matches = await verify(passwordHash ?? (await decoy), password);
  return passwordHash !== undefined && matches;
}
