import { describe, expect, it } from "vitest";
import { anAnalyst, failureOf, withTables } from "../testing.ts";
import { StudiesRow } from "../database/models.ts";
import { dropLook, keepLook, saveStudies, studiesOf } from "./studies.ts";

withTables();

const rsi = { study: "rsi", params: { period: 9 } };

describe("studies on the charts", () => {
  it("are kept for each set of rungs, completed by what is usual", async () => {
    const { id } = await anAnalyst();
    expect(await studiesOf(id, "")).toEqual({ chosen: [], looks: [] });
    await saveStudies(id, "", [rsi]);
    await saveStudies(id, "another", [{ study: "macd" }, rsi]);
    const { chosen } = await studiesOf(id, "");
    expect(chosen).toEqual([{ study: "rsi", params: { period: 9, of: "close" }, rungs: [], height: 0.14 }]);
    expect((await studiesOf(id, "another")).chosen.map(({ study }) => study)).toEqual(["macd", "rsi"]);
    await saveStudies(id, "", []);
    expect((await studiesOf(id, "")).chosen).toEqual([]);
  });
  it("are one analyst's: another sees neither them nor the looks, and cannot let go of one", async () => {
    const [one, two] = [await anAnalyst(), await anAnalyst()];
    await saveStudies(one.id, "", [rsi]);
    await keepLook(one.id, "Momentum", [rsi]);
    expect(await studiesOf(two.id, "")).toEqual({ chosen: [], looks: [] });
    expect(await failureOf(dropLook(two.id, "Momentum"))).toMatchObject({ code: "not-found" });
    expect((await studiesOf(one.id, "")).looks).toHaveLength(1);
  });
  it("as a look stand under a name, once, on every set", async () => {
    const { id } = await anAnalyst();
    await keepLook(id, " Momentum ", [rsi]);
    await keepLook(id, "Momentum", [rsi, { study: "atr" }]);
    await keepLook(id, "momentum", []);
    const { looks, chosen } = await studiesOf(id, "any");
    expect(looks.map(({ name, studies }) => [name, studies.length])).toEqual([
      ["Momentum", 2],
      ["momentum", 0],
    ]);
    expect(chosen).toEqual([]);
    await dropLook(id, "Momentum");
    expect((await studiesOf(id, "")).looks.map(({ name }) => name)).toEqual(["momentum"]);
  });
  it("that cannot be read are refused whole, with the sentence of the first", async () => {
    const { id } = await anAnalyst();
    await saveStudies(id, "", [rsi]);
    const refused = await failureOf(saveStudies(id, "", [rsi, { study: "rsi", params: { period: 0 } }]));
    expect(refused.sentence).toContain("whole number from 1");
    expect((await studiesOf(id, "")).chosen).toHaveLength(1);
    expect(await failureOf(keepLook(id, "  ", [rsi]))).toMatchObject({ code: "name" });
    // The empty name is that of the charts themselves.
    expect(await failureOf(dropLook(id, ""))).toMatchObject({ code: "not-found" });
    expect((await studiesOf(id, "")).chosen).toHaveLength(1);
  });
  it("that were stored and cannot be read any more are left out", async () => {
    const { id } = await anAnalyst();
    await StudiesRow.create({ accountId: id, setId: "", name: "", studies: [rsi, { study: "gone" }] as never });
    expect((await studiesOf(id, "")).chosen.map(({ study }) => study)).toEqual(["rsi"]);
  });
});
