import { createHash, randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { plainDraft } from "#core/edition/blocks";
import { LAYOUT_NAMES } from "#core/edition/layouts";
import { PARTS } from "#core/edition/parts";
import { aFormer } from "#core/testing/written";
import { writtenOf } from "#core/written/former";
import { Edition, FollowUpRow } from "../database/models.ts";
import { applySteps } from "../desk/marks.ts";
import { saveScenario, scenariosOf } from "../desk/scenarios.ts";
import { advance } from "../intake/feed.ts";
import { aWorld, MINUTE, START } from "../publishingTesting.ts";
import { anAnalyst, failureOf, watchersOf, withTables } from "../testing.ts";
import { createDraft, findDraft, saveDraft } from "./drafts.ts";
import { findEdition, followUpsOf, verifyEdition } from "./editions.ts";
import { canonicalText, sha256 } from "../canonical.ts";
import { lastPage } from "../record/told/book.ts";
import { leavesOf, rootOfLeaves } from "../record/leaves.ts";
import { checkRecord, forgetCheck } from "../record/check.ts";
import { contentOf, sectionsOf, type EditionContent } from "./content.ts";
import { artefact, pictureFor } from "./pictures.ts";
import { publish } from "./publish.ts";
import { WHOLE } from "../accounts/plans.ts";
import { becameOf, seeEdition } from "../readers/seen.ts";

withTables();

describe("freezing", () => {
  // RFC 8785, section 3.2.2 and appendix B: numbers, and section 3.2.3: keys sorted by UTF-16 code units.
  it("writes the numbers, strings and order of keys of RFC 8785's example", () => {
    const text =
      '{"numbers":[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001],' +
      '"string":"\\u20ac$\\u000F\\u000aA\'\\u0042\\u0022\\u005c\\\\\\"\\/","literals":[null,true,false]}';
    const expected =
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],' +
      '"string":"\u20ac$\\u000f\\nA\'B\\"\\\\\\\\\\"/"}';
    expect(canonicalText(JSON.parse(text) as object)).toBe(expected);
  });
  it("sorts keys as RFC 8785, section 3.2.3 shows", () => {
    const example = {
      "\u20ac": "Euro Sign",
      "\r": "Carriage Return",
      "\ufb33": "Hebrew Letter Dalet With Dagesh",
      "1": "One",
      "\ud83d\ude00": "Emoji: Grinning Face",
      "\u0080": "Control",
      "\u00f6": "Latin Small Letter O With Diaeresis",
    };
    const order = Object.values(JSON.parse(canonicalText(example)) as object) as string[];
    // JSON.parse puts the integer-like key first, as the example does not: compare the text itself.
    expect(
      canonicalText(example)
        .match(/:"(\w+)/g)
        ?.map((word) => word.slice(2)),
    ).toEqual(["Carriage", "One", "Control", "Latin", "Euro", "Emoji", "Hebrew"]);
    expect(order).toHaveLength(7);
  });
  // FIPS 180-4, example: SHA-256 of "abc".
  it("hashes as FIPS 180-4", () =>
    expect(sha256("abc")).toBe("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"));
});

describe("publishing", () => {
  it("freezes bars, marks, levels and scenarios, and chains the edition to the one before", async () => {
    const { market, author, draft } = await aWorld([100]);
    const mark = {
      id: randomUUID(),
      kind: "level",
      rung: "PT15M",
      anchors: [{ time: START, price: 105 }],
      props: { label: "<b>lid</b>" },
      note: "",
    };
    await applySteps(market.id, [{ id: randomUUID(), step: "set", version: 0, mark }], author.id);
    const number = await publish(draft.id, author);
    const { edition, content } = await findEdition(String(number));
    expect(sectionsOf(content)[0].bars.length).toBe(40);
    expect(sectionsOf(content)[0].levels).toMatchObject([{ top: 105, label: "<b>lid</b>", role: "resistance" }]);
    expect(edition.sha256).toBe(rootOfLeaves(leavesOf(edition.canonical) ?? []));
    const later = await aWorld([100]);
    const second = await publish(later.draft.id, later.author);
    expect((await findEdition(String(second))).content.previous).toBe(edition.sha256);
    expect(await verifyEdition(second)).toMatchObject({ holds: true });
    // Later changes on the desk change nothing that was published.
    await applySteps(market.id, [{ id: randomUUID(), step: "remove", version: 1, mark }], author.id);
    expect((await findEdition(String(number))).edition.canonical).toBe(edition.canonical);
  });
  it(
    "freezes what readers are shown and nothing else: no notes, ids, authors, hidden marks, nor marks out " +
      "of sight",
    async () => {
      const { market, author, draft, scenario } = await aWorld([100]);
      const level = (price: number, change: object = {}) => ({
        id: randomUUID(),
        kind: "level",
        rung: "PT15M",
        anchors: [{ time: START, price }],
        props: { label: `at ${price}` },
        note: `between us ${price}`,
        ...change,
      });
      const marks = [level(100.2), level(100.1, { hidden: true }), level(500)];
      await applySteps(
        market.id,
        marks.map((mark) => ({ id: randomUUID(), step: "set" as const, version: 0, mark })),
        author.id,
      );
      const { canonical } = (await findEdition(String(await publish(draft.id, author)))).edition;
      const sections = sectionsOf(contentOf(canonical));
      expect(sections[0].marks).toEqual([
        { kind: "level", rung: "PT15M", anchors: [{ time: START, price: 100.2 }], props: { label: "at 100.2" } },
      ]);
      for (const own of ["between us", author.id, ...marks.map(({ id }) => id), "at 100.1"])
        expect(canonical).not.toContain(own);
      expect(Object.keys(sections[0].scenarios[0])).toEqual(expect.arrayContaining(["id", "title", "terms"]));
      expect(canonical).toContain(scenario.title);
    },
  );
  it("pictures are drawn once, kept, and served byte for byte as they were hashed", async () => {
    const { draft, author } = await aWorld([100]);
    const number = await publish(draft.id, author);
    const [{ pictures = {} }] = sectionsOf((await findEdition(String(number))).content);
    const known = (bytes: Buffer) => createHash("sha256").update(bytes).digest("hex");
    for (const layout of LAYOUT_NAMES) {
      const whole = (await pictureFor(number, 0, layout, PARTS))!;
      // On paper the drawing itself is printed.
      const png = layout === "paper" ? {} : { png: whole.pngSha256 };
      expect(pictures[whole.view]).toEqual({ svg: whole.svgSha256, ...png });
      for (const digest of [whole.svgSha256, ...Object.values(png)]) expect(known(await artefact(digest))).toBe(digest);
    }
  });
  it("another's draft is published only by who says so, and both names stand in it", async () => {
    const [{ draft, author }, colleague] = [await aWorld([100]), { id: (await anAnalyst()).id, name: "Jo Fell" }];
    expect(await failureOf(publish(draft.id, colleague))).toMatchObject({
      code: "another",
      sentence: `This draft is ${author.name}'s.`,
    });
    const { content } = await findEdition(String(await publish(draft.id, colleague, { another: true })));
    expect(content).toMatchObject({ author: author.name, publishedBy: "Jo Fell" });
  });
  it("a text that was tampered with no longer holds", async () => {
    const { draft, author } = await aWorld([100]);
    const number = await publish(draft.id, author);
    const row = (await Edition.findByPk(number))!;
    await row.update({ canonical: row.canonical.replace("A title", "B title") });
    expect((await verifyEdition(number)).holds).toBe(false);
    await row.update({ canonical: row.canonical.replace("B title", "A title") });
    forgetCheck();
    expect((await verifyEdition(number)).holds).toBe(true);
  });
  it(
    "while the feed runs, freezes one moment: the scenario is followed from the bar after the last " + "frozen one",
    async () => {
      const { market, draft, author } = await aWorld(Array.from({ length: 200 }, (_, i) => 100 + (i % 3)));
      const [number] = await Promise.all([
        publish(draft.id, author),
        (async () => {
          for (let i = 0; i < 10; i++) await advance(1);
        })(),
      ]);
      const { content } = await findEdition(String(number));
      const told = await lastPage(market.id);
      const bars = sectionsOf(content)[0].bars;
      const quarter = 15 * MINUTE;
      const now = Date.parse(content.marketTime);
      expect(bars.at(-1)!.time).toBe(Math.floor((now - MINUTE) / quarter) * quarter);
      expect(told?.through).toBeGreaterThanOrEqual(now);
      expect(sectionsOf(content)[0].market.id).toBe(market.id);
    },
  );
  it("twice, or by two at once, is once", async () => {
    const { draft, author } = await aWorld([100]);
    const before = await Edition.count();
    const numbers = await Promise.all([publish(draft.id, author), publish(draft.id, author)]);
    expect(new Set([...numbers, await publish(draft.id, author)]).size).toBe(1);
    expect(await Edition.count()).toBe(before + 1);
  });
  it("a scenario beside two charts of its market is followed once", async () => {
    const { market, draft, author, scenario } = await aWorld([100]);
    const section = { market: market.id, scenarios: [scenario.id] };
    const sections = ["PT15M", "PT1H"].map((rung) => ({ ...section, rung }));
    await saveDraft(draft.id, { version: 2, ...plainDraft("Two charts", "Words.", sections) });
    const number = await publish(draft.id, author);
    expect((await watchersOf(number)).length).toBe(1);
  });
  it("several at once make one unbroken chain", async () => {
    const worlds = await Promise.all([aWorld([100]), aWorld([100]), aWorld([100])]);
    const numbers = await Promise.all(worlds.map(({ draft, author }) => publish(draft.id, author)));
    expect(new Set(numbers).size).toBe(3);
    for (const number of numbers) expect(await verifyEdition(number)).toMatchObject({ holds: true });
    forgetCheck();
    expect(await checkRecord()).toMatchObject({ holds: true, faults: [] });
  });
  it("a draft without words, or with a scenario that cannot be, is refused by field", async () => {
    const { draft, author } = await aWorld([100], { stop: 103 });
    expect(await failureOf(publish(draft.id, author))).toMatchObject({
      code: "incomplete",
      details: { fields: { markets: expect.stringContaining("The stop of a long stands below its entry") as string } },
    });
    const empty = await createDraft(author.id);
    expect((await failureOf(publish(empty.id, author))).details.fields).toMatchObject({
      title: "An outlook needs a title.",
      words: "An outlook needs some words.",
    });
    expect((await findDraft(draft.id)).published).toBeNull();
  });
  it("two preferred ones, or weights that leave less than nothing for neither, are no set", async () => {
    const { market, draft, author, scenario, section } = await aWorld([100]);
    const second = { ...aFormer({ title: "B", expiry: scenario.expiry }), weight: 60 };
    const first = { ...writtenOf(scenario), weight: 60 };
    await saveScenario(market.id, { version: 1, step: "save", scenario: first }, author.id);
    const { version } = await saveScenario(market.id, { version: 0, step: "save", scenario: second }, author.id);
    const both = [{ ...section, scenarios: [first.id, second.id] }];
    await saveDraft(draft.id, { version: 2, ...plainDraft("A title", "Words.", both) });
    const markets = `${market.name}: Their weights sum to 120 %, which leaves less than nothing for neither.`;
    expect(await failureOf(publish(draft.id, author))).toMatchObject({ details: { fields: { markets } } });
    const alternate = { ...second, role: "alternate" as const, weight: 40 };
    await saveScenario(market.id, { version, step: "save", scenario: alternate }, author.id);
    expect(await publish(draft.id, author)).toBeGreaterThan(0);
  });
  it("a published draft is frozen, a stale one is not overwritten", async () => {
    const { draft, author } = await aWorld([100]);
    const words = { version: 1, ...plainDraft("Other", "Words.", []) };
    expect(await failureOf(saveDraft(draft.id, words))).toMatchObject({ code: "stale" });
    await publish(draft.id, author);
    expect(await failureOf(saveDraft(draft.id, { ...words, version: 2 }))).toMatchObject({ code: "published" });
  });
  it("draws a section as SVG without any script or live markup, and as PNG", async () => {
    const { market, author, draft } = await aWorld([100]);
    const mark = {
      id: randomUUID(),
      kind: "level",
      rung: "PT15M",
      anchors: [{ time: START, price: 100.1 }],
      props: { label: "<script>alert(1)</script>" },
      note: "",
    };
    await applySteps(market.id, [{ id: randomUUID(), step: "set", version: 0, mark }], author.id);
    const number = await publish(draft.id, author);
    const { svgSha256, pngSha256 } = (await pictureFor(number, 0, "wide", PARTS))!;
    const [svg, png] = [(await artefact(svgSha256)).toString("utf8"), await artefact(pngSha256)];
    expect(svg).toContain("&lt;script&gt;alert(1)");
    expect(svg).not.toMatch(/<script|<style|onload|href=/);
    expect(svg).toContain("<title>");
    expect([...png.subarray(1, 4)].map((code) => String.fromCharCode(code)).join("")).toBe("PNG");
  });
});

describe("following what was published", () => {
  const names = async (number: number) => (await followUpsOf(number)).map(({ event }) => event.event);
  it("the feed's bars trigger, fill and pay a scenario, and the record stands with the bars", async () => {
    const { draft, author } = await aWorld([102, 102, 102, 102, 102, 102, 103, 104, 105, 106, 107, 107]);
    const number = await publish(draft.id, author);
    await advance(4);
    expect(await names(number)).toEqual([]);
    await advance(1);
    expect(await names(number)).toEqual(["triggered"]);
    await advance(7);
    expect(await names(number)).toEqual(["triggered", "entered", "target", "breakEven", "target", "completed"]);
    const last = (await followUpsOf(number)).at(-1);
    expect(last?.event.r).toBeCloseTo(1.5, 12);
    await advance(60);
    expect(await FollowUpRow.count({ where: { edition: number } })).toBe(6);
    expect((await watchersOf(number))[0].done).toBe(true);
  });
  it("step by step or in one leap, the record is the same", async () => {
    const tape = [102, 102, 102, 102, 102, 103, 104.5, 103, 101.9, 101, 100, 99];
    const one = await aWorld(tape);
    const slow = await publish(one.draft.id, one.author);
    for (let i = 0; i < tape.length; i++) await advance(1);
    const two = await aWorld(tape);
    const fast = await publish(two.draft.id, two.author);
    await advance(tape.length);
    const plain = async (number: number) =>
      (await followUpsOf(number)).map(({ sequence, event }) => ({ sequence, event }));
    expect(await plain(fast)).toEqual(await plain(slow));
    expect((await names(slow)).at(-1)).toBe("stopped");
  });
  it("a call that is called again as it was goes on, and one that was changed or is over begins anew", async () => {
    const world = await aWorld([102, 102, 102, 102, 102, 102, 103, 104, 105, 106, 107, 107]);
    const { author, market, section, scenario } = world;
    const again = async () => {
      const draft = await createDraft(author.id);
      await saveDraft(draft.id, { version: 1, ...plainDraft("Again", "Words.", [section]) });
      const number = await publish(draft.id, author);
      const { content } = await seeEdition(String(number), WHOLE);
      return { number, content, became: await becameOf(number, content, WHOLE) };
    };
    const calledIn = ({ content }: { content: EditionContent }) =>
      sectionsOf(content)[0].scenarios.map((one) => ("calledIn" in one ? one.calledIn : undefined));
    const first = await publish(world.draft.id, author);
    await advance(7);
    const second = await again();
    expect(calledIn(second)).toEqual([first]);
    expect(await watchersOf(second.number)).toHaveLength(0);
    expect(second.became.followUps.map(({ event: { event } }) => event)).toEqual(["triggered", "entered"]);
    expect(second.became.standings).toMatchObject([{ edition: first, phase: "open" }]);
    // A third names the first, too, and not the second.
    expect(calledIn(await again())).toEqual([first]);
    const [{ scenario: own, version }] = await scenariosOf(market.id);
    const wider = { ...own, terms: { ...own.terms, expires: new Date(scenario.expiry! + MINUTE).toISOString() } };
    await saveScenario(market.id, { version, step: "save", scenario: wider }, author.id);
    const changed = await again();
    expect(calledIn(changed)).toEqual([undefined]);
    expect(await watchersOf(changed.number)).toHaveLength(1);
    await advance(20);
    // The first is over: called once more as it was, it is a call of its own.
    await saveScenario(market.id, { version: version + 1, step: "save", scenario: own }, author.id);
    expect(calledIn(await again())).toEqual([undefined]);
    expect((await checkRecord()).faults).toEqual([]);
  });
  it("bars before the publication do not count", async () => {
    const world = await aWorld([102, 102, 102, 102, 102, 100, 100]);
    await advance(5);
    const number = await publish(world.draft.id, world.author);
    await advance(1);
    expect(await names(number)).toEqual([]);
  });
});
