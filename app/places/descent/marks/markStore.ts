import type { Mark } from "#core/marks/kind";
import { askJson } from "../../../parts/asked.ts";
import { failureText, postJson, type FailureBody } from "../../../parts/post.ts";
import type { Keeper } from "./keptSteps.ts";
import { plain, same } from "./markContent.ts";
import { mergedMark } from "./mergedMark.ts";

interface Outcome {
  marks: Mark[];
  versions: Record<string, number>;
  conflicts: string[];
  marked: number;
}

/** A change of one mark; without `before` it was placed, without `after` taken away. */
export interface Change {
  id: string;
  before?: Mark | undefined;
  after?: Mark | undefined;
}

/** Changes that were made, and are undone, together. */
export interface Group {
  id: string;
  changes: Change[];
}

export interface Step {
  id: string;
  step: "set" | "remove";
  mark: Mark;
  /** Group the step belongs to, and the mark as it was before: what a refusal takes back. */
  group: string;
  before?: Mark | undefined;
  /** The past moment the desk stood at when it was made. */
  at?: number;
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
  /** Marks this page had changed and somebody else has changed since. */
  news: readonly Change[];
}

/** The marks of a market as the server has them, and its count of changes; and as they stood at a past moment. */
export interface Stand {
  marks: readonly Mark[];
  marked: number;
  past?: Past;
}

export interface Past {
  asOf: number;
  marks: readonly Mark[];
}

const RETRY = 3_000;
/** Steps in one request. */
const MOST_AT_ONCE = 400;

/**
 * The marks of one market as this page holds them. Every change is a step: applied at once, put on the undo stack,
 * and sent in order; undo sends the inverse as a step of its own. Nothing is dropped while the server is away, nor by
 * a reload; what somebody else changes meanwhile is taken over where this page has nothing to say against it.
 */
export class MarkStore {
  private readonly marks = new Map<string, Mark>();
  private readonly versions = new Map<string, number>();
  private readonly listeners = new Set<() => void>();
  private undoStack: Group[] = [];
  private redoStack: Group[] = [];
  private queue: Step[] = [];
  private news: Change[] = [];
  /** Marks that were changed here: what others do to them is told. */
  private readonly touched = new Set<string>();
  /** The past moment the desk stands at, with what stood then; and when what was said here was said. */
  private past: Past | undefined;
  private readonly said = new Map<string, number>();
  private restoring = false;
  private keeps = false;
  private sending = false;
  private asking = false;
  private save: SaveState = { state: "saved" };
  private snapshot: Snapshot;
  /** The count of changes that is known here, and the highest one heard of. */
  private marked: number;
  private told = 0;

  constructor(
    private readonly market: string,
    { marks, marked, past }: Stand,
    private readonly keeper?: Keeper,
  ) {
    for (const mark of marks) {
      this.marks.set(mark.id, mark);
      this.versions.set(mark.id, mark.version);
    }
    this.marked = marked;
    this.past = past;
    this.knowVersions();
    this.snapshot = this.take();
  }

  /**
   * Puts the desk to a past moment, or back to the present: what is shown from now on is what stood then, in the
   * version of then, and what has been said here since at that moment or before it.
   */
  standAt(past: Past | undefined): void {
    if (past === this.past) return;
    this.past = past;
    this.knowVersions();
    this.tell(this.save);
  }

  /** What stood in the past and is no more has a version, too: on it a change is made. */
  private knowVersions(): void {
    for (const { id, version } of this.past?.marks ?? []) if (!this.versions.has(id)) this.versions.set(id, version);
  }

  /** The past moment the desk stands at. */
  get moment(): number | undefined {
    return this.past?.asOf;
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getSnapshot = (): Snapshot => this.snapshot;

  /**
   * Takes up what was kept in the browser: steps that were not sent, and what can be undone. Nothing is kept before.
   */
  async restore(): Promise<void> {
    if (this.restoring) return;
    this.restoring = true;
    const kept = await this.keeper?.load();
    this.keeps = true;
    if (!kept) return;
    this.undoStack = [...kept.undo, ...this.undoStack];
    if (this.redoStack.length === 0 && this.queue.length === 0) this.redoStack = kept.redo;
    for (const { step, mark, at } of kept.queue) {
      if (step === "set") this.marks.set(mark.id, mark);
      else this.marks.delete(mark.id);
      this.touched.add(mark.id);
      this.said.set(mark.id, at ?? Infinity);
      const version = kept.versions[mark.id];
      if (version !== undefined) this.versions.set(mark.id, version);
    }
    this.queue = [...kept.queue, ...this.queue];
    this.tell(this.queue.length > 0 ? { state: "saving" } : this.save);
    void this.flush();
  }

  /** Places marks or gives them another content, as one step of undoing. */
  set(...marks: Mark[]): void {
    const changes = marks.map((mark): Change => ({ id: mark.id, before: this.marks.get(mark.id), after: mark }));
    this.change(changes.filter(({ before, after }) => !same(before, after)));
  }

  remove(...ids: string[]): void {
    this.change(ids.flatMap((id): Change[] => (this.marks.has(id) ? [{ id, before: this.marks.get(id) }] : [])));
  }

  undo(): void {
    this.turnBack(this.undoStack, this.redoStack, ({ id, before, after }) => ({ id, before: after, after: before }));
  }

  redo(): void {
    this.turnBack(this.redoStack, this.undoStack, (change) => change);
  }

  /**
   * Takes the newest group from one stack to the other and does it, unless somebody else has changed its marks since.
   */
  private turnBack(from: Group[], to: Group[], wayOf: (change: Change) => Change): void {
    const group = from.pop();
    if (!group) return;
    const changes = group.changes.map(wayOf);
    if (changes.some(({ id, before }) => !same(this.marks.get(id), before))) {
      this.tell({
        state: "refused",
        sentence: "Somebody else has changed this mark since: the step is left as it is.",
      });
      return;
    }
    to.push(group);
    this.apply({ id: group.id, changes });
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
    } else {
      // A step keeps its id only while it may have been done already; on top of theirs it is another one.
      this.queue = this.queue.map((step) => (ids.includes(step.mark.id) ? { ...step, id: crypto.randomUUID() } : step));
    }
    this.tell(this.queue.length > 0 ? { state: "saving" } : { state: "saved", at: Date.now() });
    void this.flush();
  }

  /** The news have been read. */
  readNews(): void {
    this.news = [];
    this.tell(this.save);
  }

  /** Hears the market's count of changes; a higher one than is known here means that somebody else made some. */
  heard(marked: number): void {
    this.told = Math.max(this.told, marked);
    if (this.told > this.marked && !this.sending) void this.ask(this.told);
  }

  private async ask(told: number): Promise<void> {
    if (this.asking) return;
    this.asking = true;
    // Without an answer the next message asks again.
    const stand = await askJson<Stand>(`/descent/${this.market}/desk`).catch(() => undefined);
    if (stand) this.takeOver(stand);
    this.asking = false;
    // What was told while the answer was on its way is not in it.
    if (this.told > told) this.heard(this.told);
  }

  private takeOver({ marks, marked }: Stand): void {
    // Steps of this page may have landed while the answer was on its way: then it is older than what is here.
    if (marked <= this.marked) return;
    this.marked = marked;
    const waiting = new Set(this.queue.map(({ mark }) => mark.id));
    const there = new Map(marks.map((mark) => [mark.id, mark]));
    for (const id of new Set([...this.marks.keys(), ...there.keys()])) {
      const [before, after] = [this.marks.get(id), there.get(id)];
      // What is still to be sent is judged by the server when it gets there.
      if (waiting.has(id) || (after && after.version <= (this.versions.get(id) ?? 0))) continue;
      if (after) {
        this.marks.set(id, after);
        this.versions.set(id, after.version);
      } else this.marks.delete(id);
      // What is told is how it was here, however often it has been changed since.
      const told = this.news.find((one) => one.id === id);
      if (this.touched.has(id) && !same(before, after))
        this.news = [...this.news.filter((one) => one !== told), { id, before: told ? told.before : before, after }];
    }
    this.tell(this.save);
  }

  private change(changes: Change[]): void {
    if (changes.length === 0) return;
    const group = { id: crypto.randomUUID(), changes };
    this.undoStack.push(group);
    this.redoStack = [];
    this.apply(group);
  }

  private apply({ id: group, changes }: Group): void {
    for (const { id, before, after } of changes) {
      const mark = after ?? before;
      if (!mark) continue;
      if (after) this.marks.set(id, after);
      else this.marks.delete(id);
      this.touched.add(id);
      this.said.set(id, this.past?.asOf ?? Infinity);
      const at = this.past && { at: this.past.asOf };
      this.queue.push({ id: crypto.randomUUID(), step: after ? "set" : "remove", mark, group, before, ...at });
    }
    this.news = this.news.filter(({ id }) => !changes.some((change) => change.id === id));
    this.tell(this.save.state === "conflict" ? this.save : { state: "saving" });
    void this.flush();
  }

  private async flush(): Promise<void> {
    if (this.sending || this.queue.length === 0 || this.save.state === "conflict") return;
    this.sending = true;
    // One request is of one moment.
    const { at } = this.queue[0];
    const other = this.queue.findIndex((step) => step.at !== at);
    const group = this.queue.slice(0, Math.min(MOST_AT_ONCE, other < 0 ? MOST_AT_ONCE : other));
    const steps = group.map(({ id, step, mark }) => ({
      id,
      step,
      version: this.versions.get(mark.id) ?? 0,
      mark: plain(mark),
    }));
    const posted = await postJson<Outcome>(`/descent/${this.market}/steps`, {
      steps,
      ...(at === undefined ? {} : { at }),
    });
    this.sending = false;
    if (posted.ok) this.landed(posted.value, group);
    else if (posted.status === 409 && posted.value?.conflicts) this.met(posted.value);
    else if (posted.status === 0 || posted.status >= 500) this.wait(posted.failure);
    else this.refuse(posted.failure, group);
  }

  private landed({ versions, marked }: Outcome, sent: readonly Step[]): void {
    for (const [id, version] of Object.entries(versions)) this.versions.set(id, version);
    this.queue = this.queue.filter((step) => !sent.includes(step));
    // One more than was known are these steps; anything above are somebody else's.
    if (marked <= this.marked + 1) this.marked = Math.max(marked, this.marked);
    this.heard(marked);
    this.tell(this.queue.length > 0 ? { state: "saving" } : { state: "saved", at: Date.now() });
    void this.flush();
  }

  /** Somebody else was first: what does not contradict theirs goes on top of it, the rest is asked about. */
  private met({ marks, versions, conflicts: ids }: Outcome): void {
    const onTop = ids.flatMap((id) => this.onTopOf(marks.find((mark) => mark.id === id)) ?? []);
    if (onTop.length < ids.length) return this.tell({ state: "conflict", theirs: marks, versions, ids });
    for (const { mark } of onTop) {
      this.versions.set(mark.id, versions[mark.id]);
      this.marks.set(mark.id, mark);
    }
    this.queue = [...this.queue.filter(({ mark }) => !ids.includes(mark.id)), ...onTop];
    this.tell({ state: "saving" });
    void this.flush();
  }

  /** One step that says what this page's steps and somebody else's say of a mark; none where they contradict. */
  private onTopOf(theirs: Mark | undefined): Step | undefined {
    const steps = this.queue.filter((step) => step.mark.id === theirs?.id);
    const [first, last] = [steps.at(0), steps.at(-1)];
    if (!theirs || !first?.before || !last || steps.some(({ step }) => step === "remove")) return undefined;
    const mark = mergedMark(first.before, last.mark, theirs);
    return mark && { ...first, id: crypto.randomUUID(), mark };
  }

  private wait(failure: FailureBody): void {
    this.tell({
      state: "waiting",
      sentence: failureText({ ...failure, kept: "Your changes are kept in this browser." }),
    });
    setTimeout(() => void this.flush(), RETRY);
  }

  /** The server will never take these steps: they are taken back here, and the reason is shown. */
  private refuse(failure: FailureBody, refused: readonly Step[]): void {
    this.queue = this.queue.filter((step) => !refused.includes(step));
    for (const { mark, before } of [...refused].reverse())
      if (before) this.marks.set(mark.id, before);
      else this.marks.delete(mark.id);
    const groups = new Set(refused.map(({ group }) => group));
    this.undoStack = this.undoStack.filter(({ id }) => !groups.has(id));
    this.redoStack = this.redoStack.filter(({ id }) => !groups.has(id));
    this.tell({ state: "refused", sentence: failureText(failure) });
  }

  private take(): Snapshot {
    return {
      marks: this.standing(),
      save: this.save,
      canUndo: this.undoStack.length > 0,
      canRedo: this.redoStack.length > 0,
      news: this.news,
    };
  }

  /** What is shown: the marks as they are or, in the past, as they stood then. */
  private standing(): Mark[] {
    const { past } = this;
    if (!past) return [...this.marks.values()];
    const isSaidHere = (id: string) => (this.said.get(id) ?? Infinity) <= past.asOf;
    return [
      ...past.marks.filter(({ id }) => !isSaidHere(id)),
      ...[...this.marks.values()].filter(({ id }) => isSaidHere(id)),
    ];
  }

  private tell(save: SaveState): void {
    this.save = save;
    this.snapshot = this.take();
    this.listeners.forEach((listener) => listener());
    const ids = new Set(this.queue.map(({ mark }) => mark.id));
    const versions = Object.fromEntries([...this.versions].filter(([id]) => ids.has(id)));
    if (this.keeps)
      this.keeper?.save({
        queue: this.queue,
        versions,
        undo: this.undoStack,
        redo: this.redoStack,
        savedAt: Date.now(),
      });
  }
}
