import type { Mark } from "#core/marks/kind";
import { failureText, postJson, type FailureBody } from "../../parts/post.ts";

interface Outcome {
  marks: Mark[];
  versions: Record<string, number>;
  conflicts: string[];
}

/** A change of one mark; without `before` it was placed, without `after` taken away. */
interface Change {
  id: string;
  before?: Mark;
  after?: Mark;
}

interface Step {
  id: string;
  step: "set" | "remove";
  version: number;
  mark: Mark;
}

export type SaveState =
  | { state: "saved"; at?: number }
  | { state: "saving" }
  | { state: "waiting"; sentence: string }
  | { state: "refused"; sentence: string }
  | { state: "conflict"; theirs: Mark[]; versions: Record<string, number>; ids: string[] };

export interface Snapshot {
  marks: readonly Mark[];
  save: SaveState;
  canUndo: boolean;
  canRedo: boolean;
}

const RETRY = 3_000;

/**
 * The marks of one market as this page holds them. Every change is a step: applied at once, put on the undo stack,
 * and sent in order; undo sends the inverse as a step of its own. Nothing is dropped while the server is away.
 */
export class MarkStore {
  private readonly marks = new Map<string, Mark>();
  private readonly versions = new Map<string, number>();
  private readonly listeners = new Set<() => void>();
  private undoStack: Change[] = [];
  private redoStack: Change[] = [];
  private queue: Step[] = [];
  private sending = false;
  private save: SaveState = { state: "saved" };
  private snapshot: Snapshot;

  constructor(
    private readonly market: string,
    marks: readonly Mark[],
  ) {
    for (const mark of marks) {
      this.marks.set(mark.id, mark);
      this.versions.set(mark.id, mark.version);
    }
    this.snapshot = this.take();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getSnapshot = (): Snapshot => this.snapshot;

  /** Places a mark or gives it another content. */
  set(mark: Mark): void {
    const before = this.marks.get(mark.id);
    if (before && JSON.stringify({ ...before, version: 0 }) === JSON.stringify({ ...mark, version: 0 })) return;
    this.change({ id: mark.id, before, after: mark });
  }

  remove(id: string): void {
    const before = this.marks.get(id);
    if (before) this.change({ id, before });
  }

  undo(): void {
    const change = this.undoStack.pop();
    if (!change) return;
    this.redoStack.push(change);
    this.apply({ id: change.id, before: change.after, after: change.before });
  }

  redo(): void {
    const change = this.redoStack.pop();
    if (!change) return;
    this.undoStack.push(change);
    this.apply(change);
  }

  /** Ends a conflict: theirs replaces ours, or ours is sent again on top of theirs. */
  settle(take: "theirs" | "ours"): void {
    if (this.save.state !== "conflict") return;
    const { theirs, versions, ids } = this.save;
    for (const [id, version] of Object.entries(versions)) this.versions.set(id, version);
    if (take === "theirs") {
      this.queue = this.queue.filter(({ mark }) => !ids.includes(mark.id));
      for (const id of ids) this.marks.delete(id);
      for (const mark of theirs) if (ids.includes(mark.id)) this.marks.set(mark.id, mark);
    }
    this.tell({ state: "saved" });
    void this.flush();
  }

  private change(change: Change): void {
    this.undoStack.push(change);
    this.redoStack = [];
    this.apply(change);
  }

  private apply({ id, before, after }: Change): void {
    const mark = after ?? before;
    if (!mark) return;
    if (after) this.marks.set(id, after);
    else this.marks.delete(id);
    this.queue.push({ id: crypto.randomUUID(), step: after ? "set" : "remove", version: 0, mark });
    this.tell(this.save.state === "conflict" ? this.save : { state: "saving" });
    void this.flush();
  }

  private async flush(): Promise<void> {
    if (this.sending || this.queue.length === 0 || this.save.state === "conflict") return;
    this.sending = true;
    const group = this.queue.slice();
    const steps = group.map((step) => ({ ...step, version: this.versions.get(step.mark.id) ?? 0, mark: plain(step.mark) }));
    const posted = await postJson<Outcome>(`/descent/${this.market}/steps`, { steps });
    this.sending = false;
    if (posted.ok) this.landed(posted.value, group.length);
    else if (posted.status === 409 && posted.value?.conflicts) {
      const { marks, versions, conflicts } = posted.value;
      this.tell({ state: "conflict", theirs: marks, versions, ids: conflicts });
    } else if (posted.status === 0 || posted.status >= 500) this.wait(posted.failure);
    else this.refuse(posted.failure, group);
  }

  private landed({ versions }: Outcome, sent: number): void {
    for (const [id, version] of Object.entries(versions)) this.versions.set(id, version);
    this.queue = this.queue.slice(sent);
    this.tell(this.queue.length > 0 ? { state: "saving" } : { state: "saved", at: Date.now() });
    void this.flush();
  }

  private wait(failure: FailureBody): void {
    this.tell({ state: "waiting", sentence: failureText({ ...failure, kept: "Your changes are kept here." }) });
    setTimeout(() => void this.flush(), RETRY);
  }

  /** The server will never take these steps: they are taken back here, and the reason is shown. */
  private refuse(failure: FailureBody, group: readonly Step[]): void {
    this.queue = this.queue.slice(group.length);
    for (const change of this.undoStack.splice(-group.length).reverse())
      if (change.before) this.marks.set(change.id, change.before);
      else this.marks.delete(change.id);
    this.tell({ state: "refused", sentence: failureText(failure) });
  }

  private take(): Snapshot {
    return {
      marks: [...this.marks.values()],
      save: this.save,
      canUndo: this.undoStack.length > 0,
      canRedo: this.redoStack.length > 0,
    };
  }

  private tell(save: SaveState): void {
    this.save = save;
    this.snapshot = this.take();
    this.listeners.forEach((listener) => listener());
  }
}

/** A mark as it is sent: what the server decides itself is left out. */
function plain({ id, kind, rung, anchors, props, note }: Mark) {
  return { id, kind, rung, anchors, props, note };
}
