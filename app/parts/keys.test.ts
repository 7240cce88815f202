import { describe, expect, it } from "vitest";
import { COMMANDS, keyOf, keyText, meet, pressed } from "./keys.ts";

const event = (key: string, held: Partial<Record<"ctrlKey" | "metaKey" | "shiftKey", boolean>> = {}) => ({
  key,
  ctrlKey: false,
  metaKey: false,
  shiftKey: false,
  ...held,
});

describe("keys", () => {
  it("no two commands of one place share one", () => {
    const clashes = COMMANDS.flatMap((a, i) =>
      COMMANDS.slice(i + 1).flatMap((b) =>
        a.key !== "" && a.key === b.key && meet(a.where, b.where) ? [`${a.id} ${b.id}`] : [],
      ),
    );
    expect(clashes).toEqual([]);
    expect(new Set(COMMANDS.map(({ id }) => id)).size).toBe(COMMANDS.length);
  });
  it.each([
    [event("L"), "l"],
    [event("k", { ctrlKey: true }), "ctrl+k"],
    [event("k", { metaKey: true }), "ctrl+k"],
    [event("Z", { ctrlKey: true, shiftKey: true }), "ctrl+y"],
    [event("PageDown"), "pagedown"],
  ])("%o is %s", (given, key) => expect(pressed(given)).toBe(key));
  it("a changed key stands before the list's", () => {
    expect(keyOf("level", { changed: { level: "v" }, off: false })).toBe("v");
    expect(keyOf("zone", { changed: { level: "v" }, off: false })).toBe("z");
    expect(keyOf("nothing", { changed: {}, off: false })).toBe("");
  });
  it("are written as they are on the board", () =>
    expect(["ctrl+k", "pagedown", "l", "?", "escape"].map(keyText)).toEqual([
      "Ctrl K",
      "Page down",
      "L",
      "?",
      "Escape",
    ]));
});
