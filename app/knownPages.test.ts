import { describe, expect, it } from "vitest";
import type { Caller } from "../server/accounts/sessions.ts";
import { isKnownAddress, knownPage, rememberPage } from "./knownPages.ts";

let address = 0;
const anAddress = () => `/outlooks/${++address}`;
const reader = (changes: Partial<Caller> = {}): Caller => ({
  ...{ id: "one", name: "Wren Ashby", role: "subscriber", plan: "member", hasOwn: false },
  ...{ reading: { zone: "UTC", larger: false }, ...changes },
});

describe("a page others were just shown", () => {
  it("is the page of whoever is on the same plan and reads in the same way", () => {
    const page = anAddress();
    expect([isKnownAddress(page), knownPage(page, reader(), 7)]).toEqual([false, undefined]);
    rememberPage(page, reader(), "a digest", 7);
    expect(isKnownAddress(page)).toBe(true);
    expect(knownPage(page, reader({ id: "two", name: "Bo Lark" }), 7)).toBe("a digest");
  });

  it("is nobody's of another plan, zone or size, at another address, or after something was written", () => {
    const page = anAddress();
    rememberPage(page, reader(), "a digest", 7);
    for (const other of [
      { plan: "free" },
      { reading: { zone: "Atlantic/Reykjavik", larger: false } },
      { reading: { zone: "UTC", larger: true } },
    ])
      expect(knownPage(page, reader(other), 7)).toBeUndefined();
    expect(knownPage(`${page}?as=paper`, reader(), 7)).toBeUndefined();
    expect(knownPage(page, reader(), 8)).toBeUndefined();
  });

  it.each([
    ["is shown something of their own", { hasOwn: true }],
    ["works at the desk", { role: "analyst" as const }],
    ["reviews", { role: "reviewer" as const }],
  ])("is neither of nor for somebody who %s", (_, changes) => {
    const [theirs, usual] = [anAddress(), anAddress()];
    rememberPage(theirs, reader(changes), "theirs", 7);
    expect(isKnownAddress(theirs)).toBe(false);
    rememberPage(usual, reader(), "usual", 7);
    expect(knownPage(usual, reader(changes), 7)).toBeUndefined();
  });

  it("is not known of somebody of whom only the name is: of an answer that changed something", () => {
    const page = anAddress();
    const { id, name, role } = reader();
    rememberPage(page, { id, name, role }, "a digest", 7);
    expect(isKnownAddress(page)).toBe(false);
  });
});
