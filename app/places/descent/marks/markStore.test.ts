import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Mark } from "#core/marks/kind";
import type { Kept, Keeper } from "./keptSteps.ts";
import { MarkStore, type Stand } from "./markStore.ts";

const mark = (id: string, price: number, version = 0): Mark => ({
  id,
  kind: "level",
  market: "tin",
  rung: "P1D",
  anchors: [{ time: 0, price }],
  props: { label: "" },
  note: "",
  author: "",
  version,
});

const NOTHING = { marks: [], marked: 0 };

interface Sent {
  at?: number;
  steps: { step: string; version: number; mark: Mark }[];
}

/** A server that answers as told, in order; what it was sent is kept. */
const sent: Sent[] = [];
let landed = 0;
/** What the server says the marks of the market are. */
let stand: Stand = NOTHING;
let answers: ((body: Sent) => { status: number; body: object } | Error)[] = [];
const accept = (body: Sent) => ({
  status: 200,
  body: {
    marks: [],
    versions: Object.fromEntries(body.steps.map(({ mark: { id }, version }) => [id, version + 1])),
    conflicts: [],
    marked: ++landed,
  },
});

beforeEach(() => {
  vi.useFakeTimers();
  sent.length = 0;
  landed = 0;
  answers = [];
  vi.stubGlobal("fetch", async (_address: string, init?: { body?: string }) => {
    if (!init?.body) return new Response(JSON.stringify(stand));
    const body = JSON.parse(init.body) as Sent;
    sent.push(body);
    const answer = (answers.shift() ?? accept)(body);
    if (answer instanceof Error) throw answer;
    return new Response(JSON.stringify(answer.body), { status: answer.status });
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const settle = () => vi.advanceTimersByTimeAsync(1);
const prices = (store: MarkStore) => store.getSnapshot().marks.map(({ anchors }) => anchors[0].price);

describe("the marks on a page", () => {
  it("are saved as they are placed, moved and removed, each on the version before", async () => {
    const store = new MarkStore("tin", NOTHING);
    store.set(mark("a", 1));
    await settle();
    store.set(mark("a", 2));
    await settle();
    store.remove("a");
    await settle();
    expect(sent.flatMap(({ steps }) => steps.map(({ step, version }) => `${step} ${version}`))).toEqual([
      "set 0",
      "set 1",
      "remove 2",
    ]);
    expect(store.getSnapshot().save.state).toBe("saved");
  });
  it("undo and redo go through every change, and are saved like any other", async () => {
    const store = new MarkStore("tin", NOTHING);
    store.set(mark("a", 1));
    store.set(mark("a", 2));
    store.set(mark("b", 5));
    store.undo();
    store.undo();
    expect(prices(store)).toEqual([1]);
    store.redo();
    expect(prices(store)).toEqual([2]);
    store.undo();
    store.undo();
    expect(prices(store)).toEqual([]);
    expect(store.getSnapshot().canUndo).toBe(false);
    await settle();
    expect(sent.at(-1)?.steps.at(-1)?.step).toBe("remove");
  });
  it("a change that changes nothing is none", () => {
    const store = new MarkStore("tin", { marks: [mark("a", 1, 4)], marked: 1 });
    store.set(mark("a", 1));
    expect(store.getSnapshot().canUndo).toBe(false);
  });
  it("wait while the server is away and are sent when it is back, nothing lost", async () => {
    answers = [() => new Error("away"), () => ({ status: 503, body: {} })];
    const store = new MarkStore("tin", NOTHING);
    store.set(mark("a", 1));
    await settle();
    expect(store.getSnapshot().save).toMatchObject({ state: "waiting" });
    store.set(mark("b", 2));
    await settle();
    await vi.advanceTimersByTimeAsync(7000);
    expect(store.getSnapshot().save.state).toBe("saved");
    expect(sent.at(-1)?.steps.map(({ mark: { id } }) => id)).toEqual(["a", "b"]);
  });
  it("a step the server will never take is taken back, and the reason shown", async () => {
    answers = [
      () => ({ status: 400, body: { failure: { code: "mark", sentence: "A level has 1 to 1 anchors, not 0." } } }),
    ];
    const store = new MarkStore("tin", { marks: [mark("a", 1, 3)], marked: 1 });
    store.set(mark("a", 9));
    await settle();
    expect(prices(store)).toEqual([1]);
    expect(store.getSnapshot().save).toEqual({ state: "refused", sentence: "A level has 1 to 1 anchors, not 0." });
  });
  it.each([
    ["theirs", 7, 1],
    ["ours", 2, 2],
  ] as const)("another's change asks; taking %s leaves %d", async (take, price, requests) => {
    answers = [() => ({ status: 409, body: { marks: [mark("a", 7, 5)], versions: { a: 5 }, conflicts: ["a"] } })];
    const store = new MarkStore("tin", { marks: [mark("a", 1, 4)], marked: 1 });
    store.set(mark("a", 2));
    await settle();
    expect(store.getSnapshot().save.state).toBe("conflict");
    expect(prices(store)).toEqual([2]);
    store.settle(take);
    await settle();
    expect(prices(store)).toEqual([price]);
    expect(sent).toHaveLength(requests);
    if (take === "ours") expect(sent[1].steps[0].version).toBe(5);
  });
  it("another's change of another field is no conflict: both stand, on top of theirs", async () => {
    const theirs = { ...mark("a", 7, 5), note: "" };
    answers = [() => ({ status: 409, body: { marks: [theirs], versions: { a: 5 }, conflicts: ["a"] } })];
    const store = new MarkStore("tin", { marks: [mark("a", 1, 4)], marked: 1 });
    store.set({ ...mark("a", 1, 4), note: "held" });
    store.set({ ...mark("a", 1, 4), note: "held twice" });
    await settle();
    await settle();
    expect(store.getSnapshot().save.state).toBe("saved");
    expect(store.getSnapshot().marks[0]).toMatchObject({ note: "held twice", anchors: [{ price: 7 }] });
    const { steps } = sent[1];
    expect(steps).toHaveLength(1);
    expect(steps[0]).toMatchObject({ version: 5, mark: { note: "held twice", anchors: [{ price: 7 }] } });
  });
  it("several changed at once are undone at once", () => {
    const store = new MarkStore("tin", { marks: [mark("a", 1, 1), mark("b", 2, 1)], marked: 1 });
    store.set(mark("a", 5), mark("b", 6));
    store.remove("a", "b");
    store.undo();
    expect(prices(store)).toEqual([5, 6]);
    store.undo();
    expect(prices(store)).toEqual([1, 2]);
    expect(store.getSnapshot().canUndo).toBe(false);
  });
});

describe("what others do to the marks", () => {
  it("is taken over; where it was changed here before, the difference is told", async () => {
    const store = new MarkStore("tin", { marks: [mark("a", 1, 1), mark("b", 2, 1)], marked: 4 });
    store.set(mark("a", 3));
    landed = 4;
    await settle();
    stand = { marks: [mark("a", 9, 3), mark("c", 7, 1)], marked: 8 };
    store.heard(8);
    await settle();
    expect(prices(store)).toEqual([9, 7]);
    expect(
      store.getSnapshot().news.map(({ id, before, after }) => [id, before?.anchors[0].price, after?.anchors[0].price]),
    ).toEqual([["a", 3, 9]]);
    // However often it is changed, it is told against what it was here.
    stand = { marks: [mark("a", 11, 4), mark("c", 7, 1)], marked: 9 };
    store.heard(9);
    await settle();
    expect(
      store.getSnapshot().news.map(({ before, after }) => [before?.anchors[0].price, after?.anchors[0].price]),
    ).toEqual([[3, 11]]);
    // Undoing would wipe out what somebody else said: it is not done, and that is said.
    store.undo();
    expect(store.getSnapshot().save.state).toBe("refused");
    expect(prices(store)).toEqual([11, 7]);
    store.readNews();
    expect(store.getSnapshot().news).toEqual([]);
  });
  it("is asked for once more where it was told while an older answer was on its way", async () => {
    const store = new MarkStore("tin", { marks: [mark("a", 1, 1)], marked: 4 });
    stand = { marks: [mark("a", 5, 2)], marked: 5 };
    store.heard(5);
    // The server has read what it answers; before the answer is here something else is changed, and told.
    stand = { marks: [mark("a", 6, 3)], marked: 6 };
    store.heard(6);
    await settle();
    expect(prices(store)).toEqual([6]);
    // Asked for and not had, it is not asked for without end.
    let asked = 0;
    vi.stubGlobal("fetch", async () => {
      asked++;
      throw new Error("away");
    });
    store.heard(7);
    await settle();
    expect(asked).toBe(1);
  });
  it("is left to the server where something is still to be sent, and an older answer is left alone", async () => {
    answers = [() => new Error("away")];
    const store = new MarkStore("tin", { marks: [mark("a", 1, 1)], marked: 4 });
    store.set(mark("a", 3));
    await settle();
    stand = { marks: [mark("a", 9, 3)], marked: 5 };
    store.heard(5);
    await settle();
    expect(prices(store)).toEqual([3]);
    stand = { marks: [], marked: 5 };
    store.heard(6);
    await settle();
    expect(prices(store)).toEqual([3]);
  });
});

describe("what a page keeps in the browser", () => {
  const keeper = (kept?: Kept) => {
    const saved: Kept[] = [];
    return {
      saved,
      load: async () => kept,
      save: (now: Kept) => void saved.push(structuredClone(now)),
    } satisfies Keeper & { saved: Kept[] };
  };
  it("undo goes on after a reload", async () => {
    const before = keeper();
    const store = new MarkStore("tin", NOTHING, before);
    await store.restore();
    store.set(mark("a", 1));
    store.set(mark("a", 2));
    store.undo();
    await settle();
    const after = new MarkStore("tin", { marks: [mark("a", 1, 3)], marked: 3 }, keeper(before.saved.at(-1)));
    await after.restore();
    after.redo();
    expect(prices(after)).toEqual([2]);
    after.undo();
    after.undo();
    expect(prices(after)).toEqual([]);
  });
  it("steps the server never confirmed are sent by the next page, on the version they were made on", async () => {
    answers = [() => new Error("away")];
    const before = keeper();
    const store = new MarkStore("tin", { marks: [mark("a", 1, 4)], marked: 9 }, before);
    await store.restore();
    store.set(mark("a", 2));
    store.set(mark("b", 5));
    await settle();
    // Meanwhile somebody else changed the first: the server must be able to see that.
    const after = new MarkStore("tin", { marks: [mark("a", 7, 5)], marked: 10 }, keeper(before.saved.at(-1)));
    await after.restore();
    expect(prices(after)).toEqual([2, 5]);
    await settle();
    expect(sent.at(-1)?.steps.map(({ version, mark: { id } }) => [id, version])).toEqual([
      ["a", 4],
      ["b", 0],
    ]);
    expect(before.saved.at(-1)?.queue.map(({ id }) => id)).toEqual(
      (sent.at(-1)?.steps as unknown as { id: string }[]).map(({ id }) => id),
    );
  });
  it("what is done before the kept steps are read neither covers them nor is lost with them", async () => {
    const old = keeper();
    const gone = new MarkStore("tin", NOTHING, old);
    await gone.restore();
    answers = [() => new Error("away")];
    gone.set(mark("a", 1));
    await settle();
    const now = keeper(old.saved.at(-1));
    const store = new MarkStore("tin", NOTHING, now);
    store.set(mark("b", 2));
    expect(now.saved).toEqual([]);
    await store.restore();
    await settle();
    await settle();
    expect(prices(store)).toEqual([2, 1]);
    expect(sent.flatMap(({ steps }) => steps.map(({ mark: { id } }) => id)).sort()).toEqual(["a", "a", "b"]);
    expect(now.saved.at(-1)?.queue).toEqual([]);
  });
});

describe("a desk put to a past moment", () => {
  const NOW = { marks: [mark("a", 2, 2), mark("b", 9, 1)], marked: 4 };
  it("shows what stood then, in the version of then, and what is there now when it comes back", () => {
    const store = new MarkStore("tin", { ...NOW, past: { asOf: 100, marks: [mark("a", 1, 2), mark("gone", 5, 3)] } });
    expect(prices(store)).toEqual([1, 5]);
    store.standAt(undefined);
    expect(prices(store)).toEqual([2, 9]);
    store.standAt({ asOf: 50, marks: [] });
    expect(prices(store)).toEqual([]);
  });
  it("shows what is said there from that moment on, not before it, and sends the moment along", async () => {
    const store = new MarkStore("tin", { ...NOW, past: { asOf: 100, marks: [mark("a", 1, 2)] } });
    store.set(mark("new", 7));
    await settle();
    expect(sent).toMatchObject([{ at: 100, steps: [{ step: "set", version: 0 }] }]);
    expect(prices(store)).toEqual([1, 7]);
    store.standAt({ asOf: 90, marks: [] });
    expect(prices(store)).toEqual([]);
    // Its answer is older than what was said here: walked on, the page still knows it.
    store.standAt({ asOf: 110, marks: [mark("a", 1, 2)] });
    expect(prices(store)).toEqual([1, 7]);
    store.remove("new");
    expect(prices(store)).toEqual([1]);
  });
  it("what was said at present is not there in the past; steps of two moments go in two requests", async () => {
    const store = new MarkStore("tin", NOW);
    answers = [() => new Error("away")];
    store.set(mark("a", 3, 2));
    await settle();
    store.standAt({ asOf: 100, marks: [mark("a", 1, 2)] });
    expect(prices(store)).toEqual([1]);
    store.set(mark("new", 7));
    await vi.advanceTimersByTimeAsync(3_100);
    await settle();
    expect(sent.slice(1).map(({ at, steps }) => [at, steps.length])).toEqual([
      [undefined, 1],
      [100, 1],
    ]);
  });
  it("a mark that is no more can be changed from there: its version is known", async () => {
    const store = new MarkStore("tin", { ...NOW, past: { asOf: 100, marks: [mark("gone", 5, 3)] } });
    store.set({ ...mark("gone", 6, 3) });
    await settle();
    expect(sent[0].steps[0].version).toBe(3);
  });
});
