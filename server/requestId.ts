import { AsyncLocalStorage } from "node:async_hooks";

const current = new AsyncLocalStorage<string>();

/** Does the work of a request under its number, and whatever it begins. */
export const underRequest = <T>(id: string, work: () => T): T => current.run(id, work);

/** The number of the request that is being worked on where this is asked. */
export const requestId = (): string | undefined => current.getStore();
