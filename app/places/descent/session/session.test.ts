import { describe, expect, it, vi } from "vitest";
import { CommandRegistry } from "./commandRegistry.ts";
import { DescentSession } from "./descentSession.ts";

describe("the commands of a page", () => {
  it("are those of all its features, as each last offered them", () => {
    const commands = new CommandRegistry();
    const [undo, begin, again] = [vi.fn(), vi.fn(), vi.fn()];
    commands.offer("marks", { undo });
    commands.offer("placing", { level: begin, zone: undefined });
    expect([...commands.can()].sort()).toEqual(["level", "undo"]);
    commands.offer("placing", { level: again, zone: again });
    commands.run("level");
    commands.run("undo");
    commands.run("nothing");
    expect([undo, begin, again].map(({ mock }) => mock.calls.length)).toEqual([1, 0, 1]);
    commands.withdraw("placing");
    expect([...commands.can()]).toEqual(["undo"]);
    expect(commands.all()).not.toHaveProperty("level");
  });
  it("have one owner each", () => {
    const commands = new CommandRegistry();
    commands.offer("marks", { undo: undefined });
    expect(() => commands.offer("placing", { undo: vi.fn() })).toThrow(/"undo" of placing is a command of marks/);
  });
  it("tell who listens only when what can be done has changed", () => {
    const commands = new CommandRegistry();
    const told = vi.fn();
    const leave = commands.subscribe(told);
    commands.offer("marks", { undo: vi.fn() });
    const can = commands.can();
    commands.offer("marks", { undo: vi.fn() });
    expect(told).toHaveBeenCalledTimes(1);
    expect(commands.can()).toBe(can);
    commands.offer("marks", { undo: undefined });
    expect(told).toHaveBeenCalledTimes(2);
    leave();
    commands.offer("marks", { undo: vi.fn() });
    expect(told).toHaveBeenCalledTimes(2);
  });
});

describe("a session", () => {
  const of = () => {
    const session = new DescentSession();
    const told = vi.fn();
    session.subscribe(told);
    return { session, told };
  };
  it("chooses marks: these alone, or more; one that is chosen already is let go again", () => {
    const { session, told } = of();
    session.select(["a"]);
    session.select(["b", "c"], true);
    expect(session.get().selected).toEqual(["a", "b", "c"]);
    session.select(["b"], true);
    expect(session.get().selected).toEqual(["a", "c"]);
    session.select(["d"]);
    expect(session.get().selected).toEqual(["d"]);
    expect(told).toHaveBeenCalledTimes(4);
  });
  it("opens one thing at a time and closes it by the same name", () => {
    const { session } = of();
    session.toggle("shown");
    session.toggle("bearing");
    expect(session.get().open).toBe("bearing");
    session.toggle("bearing");
    expect(session.get().open).toBeUndefined();
  });
  it("keeps the rest of how charts are looked at, and of what was not changed", () => {
    const { session } = of();
    session.set({ said: "copied" });
    session.look({ log: true });
    session.look({ moment: 5 });
    expect(session.get()).toMatchObject({ said: "copied", look: { log: true, fits: 0, moment: 5 } });
    const { views, selected } = session.get();
    session.set({ table: true });
    expect(session.get().views).toBe(views);
    expect(session.get().selected).toBe(selected);
  });
  it("where the chart stands is kept and redraws nothing", () => {
    const { session, told } = of();
    const view = { from: 0, to: 10, bottom: 1, top: 2 } as Parameters<typeof session.see>[0];
    session.see(view);
    expect(session.seen).toBe(view);
    expect(told).not.toHaveBeenCalled();
  });
});
