import { describe, expect, it } from "vitest";
import { COMMANDS } from "../keys.ts";
import { found, type Offer } from "./offers.ts";
import { OTHER_WORDS, PLACE_WORDS } from "./otherWords.ts";

const run = () => undefined;
const commands = COMMANDS.map(({ id, name }): Offer => ({ group: "Commands", name, also: OTHER_WORDS[id] ?? "", run }));
const places = Object.entries(PLACE_WORDS).map(([name, also]): Offer => ({ group: "Places", name, also, run }));
const first = (typed: string) => found([...commands, ...places], typed).at(0)?.name;

describe("finding by what one calls it", () => {
  it("every command has other words it is found by, and no words are of none", () => {
    for (const { id } of COMMANDS) expect(OTHER_WORDS[id], id).toMatch(/\w/);
    expect(Object.keys(OTHER_WORDS).filter((id) => !COMMANDS.some((one) => one.id === id))).toEqual([]);
  });
  it.each([
    ["ruler", "Measure between two points"],
    ["rsi", "Write a scenario"],
    ["fib", "Place a retracement"],
    ["import", "/library"],
    ["horizontal line", "Place a level"],
    ["delete", "Remove the selected mark"],
    ["replay", "Walk forward from a past moment"],
    ["timeframe lower", "Next rung of the walk"],
    ["alarm", "Set an alert"],
    ["economic calendar", "/events"],
  ])("%s finds %s", (typed, name) => expect(first(typed)).toBe(name));
  it("what is called so stands before what is only meant", () => {
    expect(first("undo")).toBe("Undo");
    expect(first("zone")).toBe("Place a zone");
  });
  it("nothing is found by a word that stands nowhere", () => expect(first("xyzzy")).toBeUndefined());
});
