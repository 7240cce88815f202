import { beforeEach, describe, expect, it, vi } from "vitest";
import { days } from "#core/testing/openData";
import { day, mark, market } from "#core/testing/marks";
import type { LoadedBars } from "../charts/useBars.ts";

/** The worker as the board sees it: requests wait until they are answered by hand. */
const asked: { marks: { id: string }[]; asOf?: number; shown?: unknown }[] = [];
const answers: ((ids: string[] | Error) => void)[] = [];
vi.mock("comlink", () => ({
  wrap: () => ({
    follow: (request: (typeof asked)[number]) => {
      asked.push(request);
      return new Promise((resolve, reject) =>
        answers.push((ids) => (ids instanceof Error ? reject(ids) : resolve(ids.map((id) => ({ id }))))),
      );
    },
  }),
}));
vi.stubGlobal("Worker", class {});
const { LivesBoard } = await import("./livesBoard.ts");

const bars = (revision: number): LoadedBars => ({
  subject: "",
  asOf: undefined,
  series: days([1, 2, 1, 2]),
  start: 0,
  revision,
  history: 1,
});
const marks = (id: string, ...born: number[]) =>
  [id, ...born].map((_, i) => ({ ...mark("level", [[born[i - 1] ?? 0, 5]]), id: i === 0 ? id : `${id}${i}` }));
const view = (asOf?: number) => ({ rung: "P1D", hours: "all" as const, asOf });
const settle = () => new Promise((resolve) => setTimeout(resolve, 0));

beforeEach(() => {
  asked.length = 0;
  answers.length = 0;
});

describe("the lives of a market's marks", () => {
  it("are asked for once for the same marks on the same data, whichever chart asks", async () => {
    const board = new LivesBoard(market, { zone: "UTC", sessions: [] });
    const one = marks("a");
    board.want(one, view(), bars(1));
    board.want(one, { ...view(), rung: "P1W" }, bars(1));
    expect(asked).toHaveLength(1);
    answers[0](["a"]);
    await settle();
    expect([...board.get().keys()]).toEqual(["a"]);
    board.want(one, view(), bars(2));
    expect(asked).toHaveLength(2);
  });
  it("while they are worked out, only the newest wish waits, and the last lives stand", async () => {
    const board = new LivesBoard(market, { zone: "UTC", sessions: [] });
    let told = 0;
    board.subscribe(() => told++);
    for (const id of ["a", "b", "c"]) board.want(marks(id), view(), bars(1));
    expect(board.get().size).toBe(0);
    answers[0](["a"]);
    await settle();
    expect(asked.map(({ marks: [{ id }] }) => id)).toEqual(["a", "c"]);
    answers[1](["c"]);
    await settle();
    expect([...board.get().keys()]).toEqual(["c"]);
    expect(told).toBe(2);
  });
  it("at a past moment are others, and bars of regular hours alone are not what they are followed over", async () => {
    const board = new LivesBoard(market, { zone: "UTC", sessions: [] });
    const one = marks("a");
    board.want(one, { ...view(day(3)), hours: "regular" }, bars(1));
    answers[0](["a"]);
    await settle();
    board.want(one, view(day(4)), bars(1));
    expect(asked.map(({ asOf, shown }) => [asOf, shown !== undefined])).toEqual([
      [day(3), false],
      [day(4), true],
    ]);
  });
  it("that could not be had leave the last ones, and are asked for again", async () => {
    const board = new LivesBoard(market, { zone: "UTC", sessions: [] });
    const one = marks("a");
    board.want(one, view(), bars(1));
    answers[0](new Error("away"));
    await settle();
    board.want(one, view(), bars(1));
    expect(asked).toHaveLength(2);
  });
});
