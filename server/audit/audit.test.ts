import { plainDraft } from "#core/edition/blocks";
import { aFormer } from "#core/testing/written";
import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { AuditRow, Market } from "../database/models.ts";
import { deriveMarket } from "../bars/derive.ts";
import { importUpload } from "../intake/import.ts";
import { removeMarket } from "../bars/remove.ts";
import { saveMarket } from "../bars/settings.ts";
import { undoImport } from "../intake/undo.ts";
import { BarImport } from "../database/models.ts";
import { applySteps } from "../desk/marks.ts";
import { saveScenario } from "../desk/scenarios.ts";
import { importEvents, removeEvent, saveEvent } from "../events/events.ts";
import { createDraft, saveDraft } from "../publishing/drafts.ts";
import { aMarket, anAnalyst, confirmation, dailyFile, failureOf, setClock, upload, withTables } from "../testing.ts";
import { actingAs } from "./actor.ts";
import { audit, auditLines } from "./audit.ts";

withTables();

/** What somebody's acts left behind, oldest first. */
async function acts(person: { id: string }, work: () => Promise<unknown>) {
  await actingAs({ name: "Ada Reed", ...person }, work);
  const rows = await AuditRow.findAll({ where: { accountId: person.id }, order: [["number", "ASC"]] });
  return rows.map(({ what, who, subject, detail }) => ({ what, who, subject, detail }));
}

const level = (id: string, price: number, version: number, step: "set" | "remove" = "set") => ({
  id: randomUUID(),
  step,
  version,
  mark: { id, kind: "level", rung: "P1D", anchors: [{ time: 0, price }], props: { label: "a" }, note: "" },
});

describe("the log of what was done", () => {
  it("bars that come and go", async () => {
    const person = await anAnalyst();
    const list = await acts(person, async () => {
      const { market } = await importUpload(
        await upload(dailyFile(0, 20), person.id),
        confirmation({ name: `Tin ${person.id}` }),
        person.id,
      );
      const one = await BarImport.findOne({ where: { marketId: market }, rejectOnEmpty: true });
      await undoImport(one.id, person.id);
    });
    expect(list.map(({ what, who }) => `${who}: ${what}`)).toEqual(["Ada Reed: imported", "Ada Reed: import undone"]);
    expect(list[0].detail).toMatchObject({ added: 20 });
  });
  it("a market that is changed, with what it was before, made of others and removed", async () => {
    const person = await anAnalyst();
    const [{ id }, other] = [await aMarket(), await aMarket()];
    const sessions = [{ days: [1], open: "08:00", close: "16:00", opensDayBefore: false, kind: "regular" as const }];
    const list = await acts(person, async () => {
      await saveMarket(id, {
        name: "Renamed",
        kind: "other",
        tick: 0.5,
        decimals: 1,
        pip: 0.5,
        pipName: "tick",
        zone: "UTC",
        sessions,
        holidays: [],
        halfDays: [],
      });
      const made = await deriveMarket({
        name: `D ${id}`,
        form: "spread",
        legs: [
          { market: id, units: 1 },
          { market: other.id, units: -1 },
        ],
        scale: 1,
        tick: 1,
        decimals: 0,
        hoursOf: "",
      });
      await removeMarket(made.id);
    });
    expect(list.map(({ what }) => what)).toEqual(["market changed", "market made", "market removed"]);
    expect(list[0].detail).toMatchObject({ before: { name: id, tick: 0.01 } });
  });
  it("events by hand and from files", async () => {
    const person = await anAnalyst();
    await setClock(Date.UTC(2026, 0, 1));
    const event = {
      id: "",
      kind: "release" as const,
      title: "Rates",
      at: 1,
      allDay: false,
      impact: 1 as const,
      markets: [],
      currencies: [],
      region: "",
      sector: "",
    };
    const list = await acts(person, async () => {
      const id = await saveEvent(event);
      await saveEvent({ ...event, id, title: "Other rates" });
      await removeEvent(id);
      await importEvents("time,title\n2026-01-02,Holiday\n", "a.csv", "UTC");
    });
    expect(list.map(({ what }) => what)).toEqual(["event made", "event changed", "event removed", "events imported"]);
    expect([list[1].detail, list[2].detail]).toMatchObject([
      { before: { title: "Rates" } },
      { before: { title: "Other rates" } },
    ]);
  });
  it("a draft once in a while for whoever writes in it, with what stood there", async () => {
    const [person, colleague] = [await anAnalyst(), await anAnalyst()];
    const { id } = await createDraft(person.id);
    const words = (title: string, version: number) => ({ ...plainDraft(title, "", []), version });
    const own = await acts(person, async () => {
      await saveDraft(id, words("one", 1));
      await saveDraft(id, words("two", 2));
    });
    expect(own.map(({ what }) => what)).toEqual(["draft changed"]);
    const theirs = await acts(colleague, () => saveDraft(id, words("three", 3)));
    expect(theirs[0].detail).toMatchObject({ before: { title: "two" } });
  });
  it("marks and scenarios of others, never one's own", async () => {
    const [person, colleague, market] = [await anAnalyst(), await anAnalyst(), await aMarket()];
    const id = randomUUID();
    const scenario = aFormer();
    const own = await acts(person, async () => {
      await applySteps(market.id, [level(id, 1, 0)], person.id);
      await applySteps(market.id, [level(id, 2, 1)], person.id);
      await saveScenario(market.id, { version: 0, step: "save", scenario }, person.id);
    });
    expect(own).toEqual([]);
    const theirs = await acts(colleague, async () => {
      await applySteps(market.id, [level(id, 3, 2)], colleague.id);
      await applySteps(market.id, [level(id, 3, 3, "remove")], colleague.id);
      await saveScenario(market.id, { version: 1, step: "remove", scenario }, colleague.id);
    });
    expect(theirs.map(({ what }) => what)).toEqual(["mark changed", "mark removed", "scenario changed"]);
    expect(theirs[0].detail).toMatchObject({ of: person.id, before: { anchors: [{ time: 0, price: 2 }] } });
  });
  it("nothing of what did not come about, and no more of a long text than can be read", async () => {
    const person = await anAnalyst();
    expect(await acts(person, () => failureOf(removeMarket("nowhere")))).toEqual([]);
    const [line] = await acts(person, () =>
      audit({ what: "market changed", subject: "s".repeat(500), detail: { before: "x".repeat(30_000) } }),
    );
    expect(line.subject).toHaveLength(200);
    expect(line.detail).toEqual({ long: expect.any(Number) as number });
    expect((await auditLines({ what: "market changed" })).lines[0].what).toBe("changed a market");
    expect(await Market.count()).toBeGreaterThan(0);
  });
});
