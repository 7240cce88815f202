import { useEffect, useSyncExternalStore } from "react";
import type { Handlers } from "../../../parts/keys.ts";

/**
 * What can be done by name on the page, each feature adding its own: keys, buttons and the palette run one handler.
 * A command without a handler cannot be done just now.
 */
export class CommandRegistry {
  private readonly features = new Map<string, Handlers>();
  private readonly listeners = new Set<() => void>();
  private available: ReadonlySet<string> = new Set();

  /** What a feature can do now, in place of what it could before. Throws where another has a command of that name. */
  offer(feature: string, handlers: Handlers): void {
    for (const [other, theirs] of this.features)
      for (const id of Object.keys(handlers))
        if (other !== feature && id in theirs)
          throw new Error(`"${id}" of ${feature} is a command of ${other} already.`);
    this.features.set(feature, handlers);
    this.tell();
  }

  withdraw(feature: string): void {
    this.features.delete(feature);
    this.tell();
  }

  all(): Handlers {
    return Object.assign({}, ...this.features.values()) as Handlers;
  }

  run(id: string): void {
    this.all()[id]?.();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  /** Names of what can be done; the same set until that changes. */
  can = (): ReadonlySet<string> => this.available;

  private tell(): void {
    const now = new Set(Object.entries(this.all()).flatMap(([id, handler]) => (handler ? [id] : [])));
    if (now.size === this.available.size && [...now].every((id) => this.available.has(id))) return;
    this.available = now;
    this.listeners.forEach((listener) => listener());
  }
}

/** Adds what a feature can do to a page's commands while the feature is there. */
export function useFeature(commands: CommandRegistry, feature: string, handlers: Handlers): void {
  // Handlers are made anew at every render: what they close over is of that render.
  useEffect(() => commands.offer(feature, handlers));
  useEffect(() => () => commands.withdraw(feature), [commands, feature]);
}

export function useAvailable(commands: CommandRegistry): ReadonlySet<string> {
  return useSyncExternalStore(commands.subscribe, commands.can, commands.can);
}
