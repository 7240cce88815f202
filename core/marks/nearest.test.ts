import { expect, it } from "vitest";
import type { Life } from "#core/marks/kind";
import { nearestMarks } from "#core/marks/nearest";
import { live, mark } from "#core/testing/marks";
import { days } from "#core/testing/openData";

const series = days([10, 12, 8, 11], [11, 12, 8, 10]);
const lived = (id: string, price: number, dead = false) => {
  const level = { ...mark("level", [[0, price]]), id };
  return { mark: level, life: { ...live(level, series), dead } as Life };
};
const ids = (...of: Parameters<typeof nearestMarks>) => nearestMarks(...of).map(({ mark: { id } }) => id);

it("a chart shows all marks it has room for, else those nearest to price, dead ones last, chosen ones always", () => {
  const marks = [lived("far", 90), lived("dead", 10, true), lived("near", 11), lived("below", 6), lived("top", 20)];
  expect(ids(marks, 10, 5, [])).toEqual(["far", "dead", "near", "below", "top"]);
  expect(ids(marks, 10, 3, [])).toEqual(["near", "below", "top"]);
  expect(ids(marks, 10, 3, ["far"])).toEqual(["far", "near", "below"]);
  expect(ids(marks, 10, 4, ["dead"])).toEqual(["dead", "near", "below", "top"]);
});

it("a note without prices is as far as its place", () => {
  const note = {
    mark: { ...mark("note", [[0, 12]], { text: "x" }), id: "note" },
    life: live(mark("note", [[0, 12]], { text: "x" }), series),
  };
  expect(ids([lived("far", 90), note], 10, 1, [])).toEqual(["note"]);
});
