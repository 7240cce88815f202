/** Says what is being done, does it, and says how long it took. */
export async function timed<T>(what: string, work: () => Promise<T> | T): Promise<T> {
  const began = performance.now();
  process.stderr.write(`${what} ... `);
  const value = await work();
  process.stderr.write(`${((performance.now() - began) / 1000).toFixed(1)} s\n`);
  return value;
}

/** A sentence for the person at the shell; the command ends with status 1. */
export class CommandFault extends Error {}

/** Runs a command: expected faults are told in a sentence, others with their stack. */
export function runCommand(work: () => Promise<void>): void {
  work().catch((error: unknown) => {
    process.stderr.write(`\n${error instanceof CommandFault ? error.message : describe(error)}\n`);
    process.exitCode = 1;
    setTimeout(() => process.exit(1), 1500).unref();
  });
}

/** The stack, and what the database said where it said anything. */
function describe(error: unknown): string {
  if (!(error instanceof Error)) return String(error);
  const original = "original" in error && error.original instanceof Error ? `${error.original.message}\n` : "";
  return original + (error.stack ?? error.message);
}
