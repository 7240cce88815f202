import { canSee } from "#core/edition/parts";
import { LAYOUTS } from "#core/edition/layouts";
import { findPlan, WHOLE } from "../accounts/plans.ts";
import { findToken, issueToken, tokensOf } from "../accounts/tokens.ts";
import { audit } from "../audit/audit.ts";
import type { Person } from "../accounts/sessions.ts";
import { Failure, notFound } from "../failure.ts";
import { siteAddress } from "./links.ts";
import { sectionsOf } from "../publishing/content.ts";
import { seeEdition } from "../readers/seen.ts";
import { seePicture } from "../readers/seenPictures.ts";

/** A picture of an edition that anybody may see who has its address, as readers on one plan see it. */
interface Share {
  edition: number;
  section: number;
  plan: string;
}

/** Pictures one person shares at a time. */
const MOST = 200;

const { width, height, zoom } = LAYOUTS.wide;
/** Pixels of a shared picture. */
export const SHARED_SIZE = { width: width * zoom, height: height * zoom };

/** Gives a market's picture an address for anybody, with what a plan shows in it; told this once. */
export async function sharePicture(share: Share, by: Person): Promise<string> {
  const { title, plan } = await looked(share);
  if ((await tokensOf(by.id, "share")).length >= MOST)
    throw new Failure("many", `You share ${MOST} pictures already.`, { remedy: "End some of them first." });
  const token = await issueToken({ purpose: "share", accountId: by.id, data: { ...share } });
  await audit({ what: "picture shared", subject: title, detail: { ...share, plan: plan.name } });
  return `${siteAddress()}/shared/${token}`;
}

async function looked({ edition, section, plan: id }: Share) {
  const plan = await findPlan(id);
  if (!canSee("pictures", plan.parts))
    throw new Failure("picture", `${plan.name} shows no pictures.`, { kept: "Nothing was shared." });
  const { content } = await seeEdition(String(edition), WHOLE);
  const market = sectionsOf(content).at(section)?.market;
  if (!market || section < 0) throw notFound("picture");
  return { plan, title: content.title, market };
}

export interface SharedPicture {
  edition: number;
  title: string;
  market: string;
  publishedAt: string;
  /** Root of the edition's leaves, by which it can be checked. */
  root: string;
  /** The picture's bytes. */
  bytes(): Promise<Uint8Array>;
}

/** What a shared address shows; the Failure of one that shows nothing, or does so later. */
export async function sharedPicture(token: string): Promise<SharedPicture> {
  const row = await findToken("share", token);
  if (!row?.data) throw notFound("picture");
  const share = row.data as unknown as Share;
  const { plan, title, market } = await looked(share);
  const number = String(share.edition);
  const { edition, content } = await seeEdition(number, plan);
  const asked = { number, section: share.section, layout: "wide", form: "png" } as const;
  return {
    ...{ edition: share.edition, title, market: market.name, publishedAt: content.publishedAt, root: edition.sha256 },
    bytes: async () => (await seePicture(asked, plan)).bytes,
  };
}

/** Pictures of an edition somebody shares, the newest first. */
export async function sharesOf(number: number, by: Person): Promise<{ id: string; section: number; plan: string }[]> {
  return (await tokensOf(by.id, "share")).flatMap(({ id, data }) => {
    const { edition, section, plan } = data as unknown as Share;
    return edition === number ? [{ id, section, plan }] : [];
  });
}
