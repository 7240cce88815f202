import { canSee } from "#core/edition/parts";
import { EditionPicture } from "../database/models.ts";
import { notFound } from "../failure.ts";
import { firstPicture } from "../publishing/editions.ts";
import { LAYOUT_NAMES, type PictureLayout } from "#core/edition/layouts";
import { artefact, pictureFor } from "../publishing/pictures.ts";
import { seeOfView } from "../publishing/sight.ts";
import type { Sight } from "../accounts/plans.ts";
import { seeEdition } from "./seen.ts";

/** Digests of the pictures of one chart somebody is shown, as PNG, by their layout. */
export type PicturesSeen = Partial<Record<PictureLayout, string>>;

/** Which pictures of an edition somebody is shown: for each chart the fullest of what the plan may see. */
export async function picturesSeen(edition: number, { parts }: Sight): Promise<Map<number, PicturesSeen>> {
  const stored = await EditionPicture.findAll({ where: { edition }, raw: true });
  const seen = new Map<number, PicturesSeen>();
  const fullestLast = stored
    .filter(({ view }) => canSee(seeOfView(view), parts))
    .sort((a, b) => a.view.length - b.view.length);
  for (const { section, view, pngSha256 } of fullestLast) {
    if (pngSha256 === "") continue;
    const own = seen.get(section) ?? {};
    for (const layout of LAYOUT_NAMES) if (view === "" || view.split(" ")[0] === layout) own[layout] = pngSha256;
    seen.set(section, own);
  }
  return seen;
}

/** The drawings for paper somebody is shown, as SVG text, by the number of their chart. */
export async function paperDrawings(edition: number, { parts }: Sight): Promise<Record<number, string>> {
  const charts = await EditionPicture.findAll({ where: { edition }, attributes: ["section"], group: ["section"] });
  const drawings = await Promise.all(
    charts.map(async ({ section }) => {
      const stored = await pictureFor(edition, section, "paper", parts);
      return stored?.view ? [[section, (await artefact(stored.svgSha256)).toString("utf8")] as const] : [];
    }),
  );
  return Object.fromEntries(drawings.flat());
}

export interface SeenPicture {
  bytes: Uint8Array;
  /** SHA-256 of the bytes. */
  sha256: string;
}

/** The bytes of a chart's picture as somebody's plan shows it. */
export async function seePicture(
  { number, section, layout, form }: { number: string; section: number; layout: PictureLayout; form: "svg" | "png" },
  sight: Sight,
): Promise<SeenPicture> {
  const { edition, isWhole } = await seeEdition(number, sight);
  const stored = await pictureFor(edition.number, section, layout, sight.parts);
  if (stored) {
    const sha256 = form === "svg" ? stored.svgSha256 : stored.pngSha256;
    if (sha256 === "") throw notFound("picture");
    return { bytes: await artefact(sha256), sha256 };
  }
  if (!isWhole) throw notFound("picture");
  const { svg, png } = await firstPicture(edition.number, section);
  return { bytes: form === "svg" ? Buffer.from(svg) : png, sha256: "" };
}
