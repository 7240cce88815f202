import { randomUUID } from "node:crypto";
import { beforeAll, describe, expect, it } from "vitest";
import { KIND_NAMES, plainDraft, type Block } from "#core/edition/blocks";
import { LAYOUT_NAMES } from "#core/edition/layouts";
import { NEXT_CLOSE } from "#core/readers/wait";
import { PARTS, partsInOrder, type EditionPart } from "#core/edition/parts";
import type { Words } from "#core/edition/words";
import { createAccount } from "../accounts/accounts.ts";
import { listPlans, putOnPlan, savePlan, sightOf, WHOLE, type Sight } from "../accounts/plans.ts";
import { Edition } from "../database/models.ts";
import { applySteps } from "../desk/marks.ts";
import { advance } from "../intake/feed.ts";
import { createDraft, findDraft, saveDraft } from "../publishing/drafts.ts";
import { findEdition } from "../publishing/editions.ts";
import { publish } from "../publishing/publish.ts";
import { aWorld, START } from "../publishingTesting.ts";
import { makeScale } from "../../chart/scale.ts";
import { isLeafProven } from "../record/leaves.ts";
import { verifyProofs, PROOFS_FORMAT } from "../record/proofs.ts";
import { readEntries } from "../record/file.ts";
import { failureOf, withTables } from "../testing.ts";
import { letterOf } from "../delivery/compose.ts";
import { archiveSeen } from "./archive.ts";
import { asHtml } from "./asHtml.ts";
import { asPdf } from "./asPdf.ts";
import { readPdf } from "./pdfTesting.ts";
import { asText } from "./asText.ts";
import { expectedAsCalendar } from "./calendar.ts";
import { frontSeen } from "./front.ts";
import { marketSaid } from "./marketSaid.ts";
import { editionNow } from "./now.ts";
import { pointingAt } from "./pointing.ts";
import { becameOf, editionsSeen, provenSeen, seeEdition } from "./seen.ts";
import { paperDrawings, picturesSeen, seePicture } from "./seenPictures.ts";

withTables();

const seeing = (...parts: EditionPart[]): Sight => ({ ...WHOLE, parts: partsInOrder(parts) });

/** Every choice of parts a plan can have. */
const CHOICES = [
  ...new Map(
    Array.from({ length: 2 ** PARTS.length }, (_, bits) =>
      partsInOrder(PARTS.filter((_one, i) => (bits >> i) & 1)),
    ).map((parts) => [parts.join(), parts]),
  ).values(),
];

/** Prices that are found in one part alone. */
const SECRETS = {
  stop: { text: "97.31", of: ["scenarios", "orders"] },
  target: { text: "123.45", of: ["scenarios", "orders"] },
  wrong: { text: "96.17", of: ["scenarios"] },
  level: { text: "104.63", of: ["levels"] },
  words: { text: "Eighty-eight words", of: ["words"] },
} as const;

let number = 0;
let marketId = "";

beforeAll(async () => {
  const tape = [102, 102, 102, 102, 102, 103, 104.5, 103, 101.9, 101, 96, 95];
  const world = await aWorld(tape, { stop: 97.31, targets: [{ price: 123.45, share: 1 }], invalidation: 96.17 });
  marketId = world.market.id;
  const level = randomUUID();
  const mark = {
    kind: "level",
    rung: "PT15M",
    anchors: [{ time: START, price: 104.63 }],
    props: { label: "lid" },
    note: "",
  };
  await applySteps(
    world.market.id,
    [{ id: randomUUID(), step: "set", version: 0, mark: { id: level, ...mark } }],
    world.author.id,
  );
  const chips = [
    { market: world.market.id, of: "mark" as const, id: level, part: "at lid", text: "" },
    { market: world.market.id, of: "scenario" as const, id: world.scenario.id, part: "stop", text: "" },
  ];
  const words: Words = {
    type: "doc",
    content: [
      {
        type: "paragraph",
        content: [
          { type: "text", text: "Eighty-eight words: " },
          ...chips.map((attrs) => ({ type: "chip" as const, attrs })),
        ],
      },
    ],
  };
  const draft = plainDraft("A title", "", [world.section]);
  const filled: Block[] = [
    { kind: "ranking", id: "ranking" },
    { kind: "recap", id: "recap" },
  ];
  const blocks = [{ kind: "words" as const, id: "words", words }, ...draft.blocks.slice(1), ...filled];
  // Plans are known before: a picture is drawn for each of them.
  for (const [i, parts] of [
    seeing("pictures"),
    seeing("pictures", "levels"),
    seeing("pictures", "scenarios"),
  ].entries())
    await savePlan(undefined, {
      name: `Plan ${i}`,
      parts: [...parts.parts],
      kinds: [...KIND_NAMES],
      wait: 0,
      version: 0,
    });
  await saveDraft(world.draft.id, { ...draft, blocks, version: (await findDraft(world.draft.id)).version });
  await publish(world.draft.id, world.author);
  await advance(12);
  // What became of the first stands in the second.
  const next = await createDraft(world.author.id, { title: "Next", blocks });
  number = await publish(next.id, world.author);
});

describe("what a plan shows of an edition", () => {
  it("is every choice of parts and nothing else, in content, leaves, pictures and what became of it", async () => {
    const { edition } = await findEdition(String(number));
    for (const parts of CHOICES) {
      const sight = seeing(...parts);
      const { content } = await seeEdition(String(number), sight);
      const pictures: string[] = [];
      for (const layout of LAYOUT_NAMES)
        if (parts.includes("pictures"))
          pictures.push(
            Buffer.from(
              (await seePicture({ number: String(number), section: 0, layout, form: "svg" }, sight)).bytes,
            ).toString("utf8"),
          );
      const texts = {
        content: JSON.stringify(content),
        leaves: JSON.stringify(provenSeen(edition.canonical, sight)?.map(({ leaf }) => leaf)),
        pictures: pictures.join(),
        became: JSON.stringify([await becameOf(number, content, sight), await becameOf(1, content, sight)]),
        text: asText(content),
        html: asHtml(content, () => undefined).text,
        front: JSON.stringify(await frontSeen(sight)),
        market: JSON.stringify(await marketSaid(marketId, sight)),
        calendar: await expectedAsCalendar(sight, 30),
        now: JSON.stringify([await editionNow(String(number), sight), await editionNow("1", sight)]),
        letter: JSON.stringify(await letterOf({ what: { edition: number } }, sight, ""), (_key, value: unknown) =>
          Buffer.isBuffer(value) ? "" : value,
        ),
      };
      for (const [where, text] of Object.entries(texts))
        for (const [name, { text: secret, of }] of Object.entries(SECRETS))
          if (!of.every((part) => parts.includes(part)))
            expect(text.includes(secret), `${name} in ${where} of a plan of ${parts.join()}`).toBe(false);
    }
  });

  it("is found by its words where the plan shows those, and nowhere else", async () => {
    const found = async (words: string, ...parts: EditionPart[]) =>
      (await archiveSeen({ words, page: 1 }, seeing(...parts))).count;
    // Both editions have the words and the level; every plan is told their titles.
    expect(await found("Eighty-eight", "words")).toBe(2);
    expect(await found("Eighty-eight", "levels", "scenarios", "orders")).toBe(0);
    expect(await found("title", "pictures")).toBe(1);
    // A number put into words is of the part it is of.
    expect(await found("104.63", "words")).toBe(0);
    expect(await found("104.63", "words", "levels")).toBe(2);
    for (const hostile of ["'; DROP TABLE editions; --", "+", "*", "\\", "%", "(((", "a".repeat(10_000)])
      expect(await found(hostile, ...PARTS)).toBe(0);
    expect((await archiveSeen({ words: "", market: marketId, page: 1 }, WHOLE)).count).toBe(2);
    expect((await archiveSeen({ words: "", kind: "lesson", page: 1 }, WHOLE)).count).toBe(0);
    const later = { ...WHOLE, wait: 24 };
    // What may not be opened yet is not found by what is in it.
    expect((await archiveSeen({ words: "Eighty-eight", page: 1 }, later)).count).toBe(0);
    expect((await archiveSeen({ words: "", market: marketId, page: 1 }, later)).count).toBe(0);
    expect((await frontSeen(later)).lead).toBeUndefined();
    expect((await frontSeen(later)).inForce).toEqual([]);
  });

  it("is there where the plan has it: the whole shows every one of these numbers", async () => {
    const { content } = await seeEdition(String(number), WHOLE);
    const text = JSON.stringify(content);
    for (const { text: secret } of Object.values(SECRETS)) expect(text).toContain(secret);
    const { bytes } = await seePicture({ number: String(number), section: 0, layout: "wide", form: "svg" }, WHOLE);
    for (const price of ["97.31", "104.63"]) expect(Buffer.from(bytes).toString("utf8")).toContain(price);
  });

  it("is proven leaf by leaf by the root that stands in the chain, and a changed one is not", async () => {
    const { edition } = await findEdition(String(number));
    const leaves = provenSeen(edition.canonical, seeing("words", "levels"))!;
    expect(leaves.every((one) => isLeafProven(one, edition.sha256))).toBe(true);
    const file = { format: PROOFS_FORMAT, number, root: edition.sha256, leaves } as const;
    expect(verifyProofs(file, await readEntries())).toEqual([]);
    const [first, ...rest] = structuredClone(leaves);
    first.leaf.content = { title: "Another" };
    expect(verifyProofs({ ...file, leaves: [first, ...rest] })).toEqual([
      `Edition ${number}: what stands at "" is not proven.`,
    ]);
    expect(verifyProofs({ ...file, root: "0".repeat(64), leaves: [] }, await readEntries())).toHaveLength(1);
  });

  it("is read off a picture by the scale it was drawn with, where the plan shows that picture", async () => {
    for (const layout of ["wide", "phone"] as const) {
      const asked = { number: String(number), section: 0, layout };
      const { plot, view, first, bars } = await pointingAt(asked, WHOLE);
      const svg = Buffer.from((await seePicture({ ...asked, form: "svg" }, WHOLE)).bytes).toString("utf8");
      // Where the drawing has the tag of the last price, the scale has the last close.
      const scale = makeScale(view, plot);
      const close = bars[bars.length - 1][4];
      const [, tagged = ""] = new RegExp(`y="([\\d.]+)"[^>]*>${close.toFixed(2)}<`).exec(svg) ?? [];
      expect(Number(tagged)).toBeGreaterThan(0);
      expect(Math.abs(scale.y(close) - Number(tagged))).toBeLessThan(6);
      expect(scale.x(first)).toBeGreaterThanOrEqual(plot.left);
      expect(scale.x(first + bars.length - 1)).toBeLessThan(plot.left + plot.width);
      expect(view.top).toBeGreaterThan(123.45);
      // The axis of a plan without orders has no room for them.
      const less = await pointingAt(asked, seeing("pictures"));
      expect(less.view.top).toBeLessThan(view.top);
      expect(less.bars.at(-1)).toEqual(bars.at(-1));
      expect(await failureOf(pointingAt(asked, seeing("words", "levels")))).toMatchObject({ status: 404 });
    }
    expect(await failureOf(pointingAt({ number: String(number), section: 7, layout: "wide" }, WHOLE))).toMatchObject({
      status: 404,
    });
  });

  it("moves while it is read: price with the pictures, calls where they are shown with their orders", async () => {
    const whole = await editionNow("1", WHOLE);
    expect(whole.markets).toEqual([{ id: marketId, price: expect.any(Number) }]);
    expect((await editionNow("1", seeing("words"))).markets).toEqual([]);
    expect((await editionNow("1", seeing("pictures", "scenarios"))).calls).toEqual([]);
    expect(await failureOf(editionNow("1", { ...WHOLE, wait: 24 }))).toMatchObject({ code: "later" });
  });

  it("is a paper of what each plan shows, with its pictures", async () => {
    const textOf = async (...parts: EditionPart[]) => {
      const { bytes } = await asPdf(String(number), seeing(...parts));
      return { size: bytes.length, text: (await readPdf(bytes)).pages.join(" ") };
    };
    const whole = await textOf(...PARTS);
    for (const [name, { text: secret }] of Object.entries(SECRETS)) expect(whole.text, name).toContain(secret);
    for (const parts of [[], ["words"], ["words", "levels"], ["words", "scenarios"]] as EditionPart[][]) {
      const { text, size } = await textOf(...parts);
      for (const [name, { text: secret, of }] of Object.entries(SECRETS))
        expect(text.includes(secret), `${name} on paper of ${parts.join()}`).toBe(
          of.every((one) => parts.includes(one)),
        );
      expect(size).toBeLessThan(whole.size);
    }
    expect(await failureOf(asPdf(String(number), { ...WHOLE, wait: 24 }))).toMatchObject({ code: "later" });
  });

  it("has a picture of its own bytes for each set of things, laid out for each width", async () => {
    const seen = await picturesSeen(number, WHOLE);
    const bare = await picturesSeen(number, seeing("pictures"));
    const levels = await picturesSeen(number, seeing("pictures", "levels"));
    for (const one of [seen, bare, levels]) expect(Object.keys(one.get(0) ?? {}).sort()).toEqual(["phone", "wide"]);
    const all = [seen, bare, levels].flatMap((one) => Object.values(one.get(0) ?? {}));
    expect(new Set(all).size).toBe(6);
    expect(await picturesSeen(number, seeing("words"))).toEqual(new Map());
    // For paper there is a drawing for each set as well.
    const papers = await Promise.all([WHOLE, seeing("pictures")].map((sight) => paperDrawings(number, sight)));
    expect(papers.map((paper) => paper[0].includes("97.31"))).toEqual([true, false]);
    expect(await paperDrawings(number, seeing("words"))).toEqual({});
    // A plan that was not there when it was published is shown the fullest picture of what it may see.
    expect(await picturesSeen(number, seeing("pictures", "counts"))).toEqual(bare);
  });

  it("comes once its markets have closed, where its plan says so", async () => {
    const { publishedAt, closesAt } = (await Edition.findByPk(number))!;
    const atClose: Sight = { ...WHOLE, wait: NEXT_CLOSE };
    expect(closesAt).toBeGreaterThan(publishedAt);
    const refused = await failureOf(seeEdition(String(number), atClose, closesAt! - 1));
    expect(refused).toMatchObject({ code: "later", status: 403 });
    expect((await seeEdition(String(number), atClose, closesAt!)).isWhole).toBe(true);
    expect((await editionsSeen(atClose)).find((one) => one.number === number)).toMatchObject({
      ...{ from: closesAt, isOpen: false },
    });
  });

  it("comes when its plan says, and of kinds it does not have nobody is told whether they are there", async () => {
    const { publishedAt } = (await Edition.findByPk(number))!;
    const later: Sight = { ...WHOLE, wait: 24 };
    expect(await failureOf(seeEdition(String(number), later, publishedAt + 24 * 3_600_000 - 1))).toMatchObject({
      code: "later",
      status: 403,
    });
    expect((await seeEdition(String(number), later, publishedAt + 24 * 3_600_000)).edition.number).toBe(number);
    const none: Sight = { ...WHOLE, kinds: ["lesson"] };
    const absent = await failureOf(seeEdition("999", none));
    expect(await failureOf(seeEdition(String(number), none))).toEqual(absent);
    expect(await editionsSeen(none)).toEqual([]);
    expect((await editionsSeen(later)).map(({ from }) => from)).toContain(publishedAt + 24 * 3_600_000);
    expect(
      await failureOf(seePicture({ number: String(number), section: 0, layout: "wide", form: "png" }, later)),
    ).toMatchObject({ code: "later" });
  });
});

describe("plans", () => {
  it("are two to begin with; a reader is put on one, and it counts from the next request on", async () => {
    const plans = await listPlans();
    expect(plans.map(({ name }) => name)).toEqual(expect.arrayContaining(["Member", "Free"]));
    const reader = await createAccount(
      { email: `${randomUUID()}@meridian.example`, name: "Rea", password: "long enough" },
      "subscriber",
    );
    expect(await sightOf(reader)).toEqual({ parts: PARTS, kinds: KIND_NAMES, wait: 0 });
    await putOnPlan(reader.id, "free");
    expect(await sightOf(reader)).toMatchObject({ parts: ["words", "levels", "pictures"], wait: 24 });
    expect(await sightOf({ id: reader.id, role: "analyst" })).toEqual(WHOLE);
    expect(await sightOf({ id: randomUUID(), role: "subscriber" })).toMatchObject({ parts: [] });
    expect(await failureOf(putOnPlan(reader.id, "gone"))).toMatchObject({ status: 404 });
  });

  it("are changed by whoever read them as they are, each by its own name, entries only with scenarios", async () => {
    const { version } = (await listPlans()).find(({ id }) => id === "free")!;
    const dto = { name: "Free", parts: ["orders", "words"] as EditionPart[], kinds: [...KIND_NAMES], wait: 2, version };
    expect(await savePlan("free", dto)).toMatchObject({ parts: ["words"], wait: 2, version: version + 1 });
    expect(await failureOf(savePlan("free", dto))).toMatchObject({ code: "stale", status: 409 });
    expect(await failureOf(savePlan(undefined, { ...dto, name: "Member" }))).toMatchObject({ code: "taken" });
  });
});
