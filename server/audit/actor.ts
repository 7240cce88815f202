import { AsyncLocalStorage } from "node:async_hooks";

/** Who does what is being done. */
export interface Actor {
  id: string;
  name: string;
}

const actors = new AsyncLocalStorage<Actor>();

/** Does work in somebody's name: whatever is written down of it says who. */
export function actingAs<T>(actor: Actor, work: () => T): T {
  return actors.run(actor, work);
}

/** Who acts here; nobody where the desk does something by itself. */
export function currentActor(): Actor | undefined {
  return actors.getStore();
}
