import "fake-indexeddb/auto";
import { createStore, get } from "idb-keyval";
import { expect, it } from "vitest";
import { keptSteps, type Kept } from "./keptSteps.ts";
import type { Step } from "./markStore.ts";

const store = createStore("test", "desk");
const step = (id: string) => ({ id, step: "set", group: "g", mark: { id: `mark of ${id}` } }) as Step;
const kept = (...ids: string[]): Kept => ({
  queue: ids.map(step),
  versions: { [`mark of ${ids[0]}`]: 3 },
  undo: [],
  redo: [],
  savedAt: Date.now(),
});
const open = (account: string, market: string, tab: string) => keptSteps(account, market, tab, store);
const written = (key: string) => expect.poll(() => get<Kept>(key, store)).toBeDefined();

it("a tab finds its own after a reload, nobody else's account or market", async () => {
  open("ada", "tin", "one").save(kept("s1"));
  await written("ada tin one");
  expect((await open("ada", "tin", "one").load())?.queue.map(({ id }) => id)).toEqual(["s1"]);
  expect(await open("bea", "tin", "two").load()).toBeUndefined();
  expect(await open("ada", "silver", "two").load()).toBeUndefined();
});

it("what a closed tab could not send is taken over once, and kept by the tab that took it", async () => {
  open("ada", "gold", "closed").save(kept("s2", "s3"));
  await written("ada gold closed");
  const next = open("ada", "gold", "open");
  expect((await next.load())?.queue.map(({ id }) => id)).toEqual(["s2", "s3"]);
  expect((await next.load())?.versions).toEqual({ "mark of s2": 3 });
  expect(await open("ada", "gold", "third").load()).toMatchObject({ queue: [{ id: "s2" }, { id: "s3" }] });
});

it("what a tab could undo stays its own, until it is a month old", async () => {
  const group = { id: "g", changes: [] };
  open("ada", "salt", "first").save({ ...kept("s5"), undo: [group] });
  open("ada", "salt", "old").save({ ...kept(), undo: [group], savedAt: Date.now() - 40 * 86_400_000 });
  await written("ada salt first");
  await written("ada salt old");
  expect(await open("ada", "salt", "next").load()).toMatchObject({ queue: [{ id: "s5" }], undo: [] });
  expect(await open("ada", "salt", "first").load()).toMatchObject({ undo: [group] });
  expect(await open("ada", "salt", "old").load()).toMatchObject({ undo: [] });
});

it("only the newest state is written when many come at once", async () => {
  const keeper = open("ada", "iron", "one");
  for (let i = 0; i < 50; i++) keeper.save(kept(`s${i}`));
  await expect.poll(async () => (await keeper.load())?.queue.map(({ id }) => id)).toEqual(["s49"]);
});

it("where the browser keeps nothing the page works without", async () => {
  const broken = keptSteps("ada", "tin", "one", () => Promise.reject(new Error("no room")));
  broken.save(kept("s1"));
  expect(await broken.load()).toBeUndefined();
});
