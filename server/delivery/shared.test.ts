import { beforeAll, describe, expect, it } from "vitest";
import { findPlan, savePlan } from "../accounts/plans.ts";
import type { Person } from "../accounts/sessions.ts";
import { revokeToken } from "../accounts/tokens.ts";
import { findEdition } from "../publishing/editions.ts";
import { publish } from "../publishing/publish.ts";
import { aWorld } from "../publishingTesting.ts";
import { seePicture } from "../readers/seenPictures.ts";
import { anAnalyst, failureOf, withTables } from "../testing.ts";
import { sharedPicture, sharePicture, sharesOf } from "./shared.ts";

withTables();

let number = 0;
let desk: Person;
beforeAll(async () => {
  const plan = await findPlan("free");
  await savePlan("free", { ...plan, parts: [...plan.parts, "pictures"], kinds: [...plan.kinds], wait: 24 });
  const { draft, author } = await aWorld([100]);
  number = await publish(draft.id, author);
  desk = { ...(await anAnalyst()), role: "analyst" };
});

const share = async (plan: string, section = 0) => {
  const address = await sharePicture({ edition: number, section, plan }, desk);
  return address.split("/").at(-1) ?? "";
};

describe("a picture that is shared with anybody", () => {
  it("is the one readers on that plan see, with the root it can be checked by, until it is ended", async () => {
    const token = await share("member");
    const shared = await sharedPicture(token);
    const { edition, content } = await findEdition(String(number));
    expect(shared).toMatchObject({ edition: number, title: content.title, root: edition.sha256 });
    const asked = { number: String(number), section: 0, layout: "wide", form: "png" } as const;
    const seen = await seePicture(asked, await findPlan("member"));
    expect(Buffer.from(await shared.bytes()).equals(Buffer.from(seen.bytes))).toBe(true);
    // The signature of PNG (ISO/IEC 15948, section 5.2).
    expect(
      Buffer.from(await shared.bytes())
        .subarray(0, 8)
        .toString("hex"),
    ).toBe("89504e470d0a1a0a");
    const [{ id }] = await sharesOf(number, desk);
    await revokeToken(desk.id, "share", id);
    expect(await failureOf(sharedPicture(token))).toMatchObject({ status: 404 });
    expect(await sharesOf(number, desk)).toEqual([]);
  });

  it("waits as that plan waits, and is of a chart and a plan that are there", async () => {
    const token = await share("free");
    expect(await failureOf(sharedPicture(token).then(({ bytes }) => bytes()))).toMatchObject({ code: "later" });
    expect(await failureOf(share("member", 7))).toMatchObject({ status: 404 });
    expect(await failureOf(share("member", -1))).toMatchObject({ status: 404 });
    const { version, ...plan } = await findPlan("free");
    await savePlan("free", { ...plan, version, parts: ["words"], kinds: [...plan.kinds] });
    expect(await failureOf(share("free"))).toMatchObject({ sentence: "Free shows no pictures." });
    expect(await failureOf(share("nobody"))).toMatchObject({ status: 404 });
    expect(await failureOf(sharedPicture("x".repeat(43)))).toMatchObject({ status: 404 });
  });
});
