import { describe, expect, it } from "vitest";
import { CHOICES } from "#core/readers/choices";
import { ReaderChoicesDto } from "#contracts/choices";
import { DeskSettingsDto } from "#contracts/goingOut";
import { PasskeyDto } from "#contracts/passkey";
import { PaymentDto } from "#contracts/payment";
import { PlanDto } from "#contracts/plan";
import { QuestionDto } from "#contracts/question";
import { readDto } from "#contracts/read";

/** What is refused of it, by field; nothing where all of it is taken. */
function refused<T extends object>(type: new () => T, raw: object): string[] {
  const read = readDto(type, raw);
  return read.ok ? [] : Object.keys(read.fields);
}

describe("what a reader chooses", () => {
  const { quiet: _, ...choices } = CHOICES;
  it("is taken as it comes, with hours in which nothing is sent or without", () => {
    expect(refused(ReaderChoicesDto, choices)).toEqual([]);
    expect(refused(ReaderChoicesDto, { ...choices, quiet: { from: 22, to: 7 } })).toEqual([]);
  });
  it.each([
    ["kinds", { kinds: ["morning", "evening"] }],
    ["kinds", { kinds: ["morning", "morning"] }],
    ["moments", { moments: ["triggered", "everything"] }],
    ["markets", { markets: ["x".repeat(61)] }],
    ["markets", { markets: Array.from({ length: 201 }, (_one, i) => `m${i}`) }],
    ["mail", { mail: "yes" }],
    ["digest", { digest: 1 }],
    ["zone", { zone: "Moon/Base" }],
    ["quiet.to", { quiet: { from: 22, to: 24 } }],
    ["quiet.from", { quiet: { from: 1.5, to: 7 } }],
    ["colour", { colour: "red" }],
  ])("is refused at %s where that is none of it", (field, part) => {
    expect(refused(ReaderChoicesDto, { ...choices, ...part }).join()).toContain(field);
  });
});

describe("a plan", () => {
  const plan = { name: "Member", parts: ["words"], kinds: ["morning"], wait: 0, version: 1 };
  it("may have a price in words, and be open", () => {
    expect(refused(PlanDto, { ...plan, open: true, price: "12 crowns a month" })).toEqual([]);
  });
  it.each([
    ["price", { price: "12\r\na month" }],
    ["price", { price: "x".repeat(61) }],
    ["name", { name: "" }],
    ["name", { name: "two\nlines" }],
    ["parts", { parts: ["words", "everything"] }],
    ["wait", { wait: -2 }],
    ["wait", { wait: 721 }],
    ["open", { open: "yes" }],
  ])("is refused at %s where that is no such thing", (field, part) => {
    expect(refused(PlanDto, { ...plan, ...part }).join()).toContain(field);
  });
});

describe("what a payment house says", () => {
  const said = { type: "membership.paid", data: { account: "a", plan: "member", at: 1 } };
  it("is one of five things, of an account and a plan, at an instant", () => {
    expect(refused(PaymentDto, said)).toEqual([]);
    expect(refused(PaymentDto, { ...said, type: "membership.gifted" }).join()).toContain("type");
    expect(refused(PaymentDto, { ...said, data: [] }).join()).toContain("data");
    for (const part of [{ at: -1 }, { at: 1.5 }, { at: 4e13 }, { until: "soon" }, { account: "" }, { plan: 7 }])
      expect(refused(PaymentDto, { ...said, data: { ...said.data, ...part } }), JSON.stringify(part)).not.toEqual([]);
  });
});

describe("questions, passkeys and the desk's head", () => {
  it("are refused where they are none", () => {
    const asked = { stance: "question", about: "", words: "Why?" };
    expect(refused(QuestionDto, { ...asked, to: "an id" })).toEqual([]);
    for (const part of [{ stance: "shout" }, { words: "?" }, { words: "x".repeat(1001) }, { to: "" }, { to: {} }])
      expect(refused(QuestionDto, { ...asked, ...part }), JSON.stringify(part)).not.toEqual([]);
    expect(refused(PasskeyDto, {})).toEqual([]);
    for (const part of [{ token: "" }, { token: "x".repeat(101) }, { response: "text" }, { response: [] }, { more: 1 }])
      expect(refused(PasskeyDto, part), JSON.stringify(part)).not.toEqual([]);
    const desk = (masthead: unknown) => refused(DeskSettingsDto, { masthead, reading: false, templates: [] });
    expect(desk({ name: "The Lantern", pigment: "plum" })).toEqual([]);
    for (const bad of [undefined, "The Lantern", { name: "The Lantern" }, { name: " \n", pigment: "plum" }])
      expect(desk(bad), JSON.stringify(bad)).not.toEqual([]);
  });
});
