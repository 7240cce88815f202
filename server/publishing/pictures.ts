import { createHash } from "node:crypto";
import type { Transaction } from "sequelize";
import { canSee, type EditionPart } from "#core/edition/parts";
import { Artefact, EditionPicture } from "../database/models.ts";
import { notFound } from "../failure.ts";
import { drawingOf, drawPictures, type DrawnPicture, type Drawing } from "../pictures/pictures.ts";
import { LAYOUT_NAMES, LAYOUTS, type PictureLayout } from "#core/edition/layouts";
import { pictureOf, type Drawable } from "./pictureOf.ts";
import type { PictureDigests, Section } from "./section.ts";
import { drawnFor, picturesFor, seeOfView, viewName } from "./sight.ts";

/** A picture that is drawn, by the name of its view. */
export interface NamedPicture extends DrawnPicture {
  view: string;
  digests: PictureDigests;
}

/**
 * Every picture of a section: one for each set of things one of the plans shows, laid out for each width. What is
 * hidden is in none of their bytes, and the axis makes no room for it.
 */
export async function drawAll(
  section: Section,
  plans: readonly (readonly EditionPart[])[],
  title: string,
): Promise<NamedPicture[]> {
  const wanted = picturesFor(section, plans).flatMap((parts) => LAYOUT_NAMES.map((layout) => ({ layout, parts })));
  const name = `${section.market.name}, ${section.rung}: ${title.trim()}`;
  const drawn = await drawPictures(wanted.map(({ layout, parts }) => laidOut(drawnFor(section, parts), layout, name)));
  return drawn.map(({ svg, png }, i): NamedPicture => {
    const { layout, parts } = wanted[i];
    const digests = { svg: digestOf(svg), ...(png.length > 0 ? { png: digestOf(png) } : {}) };
    return { svg, png, view: viewName(layout, parts), digests };
  });
}

function laidOut(section: Drawable, layout: PictureLayout, title: string): Drawing {
  const { width, height, bars, zoom } = LAYOUTS[layout];
  const { picture, view } = pictureOf(section, bars);
  return { ...drawingOf(picture, view, { width, height }, title), zoom };
}

export async function drawOne(section: Drawable, layout: PictureLayout, title: string): Promise<DrawnPicture> {
  return (await drawPictures([{ ...laidOut(section, layout, title), zoom: 2 }]))[0];
}

const digestOf = (bytes: string | Uint8Array) => createHash("sha256").update(bytes).digest("hex");

/** Stores the pictures of an edition's charts; the same bytes once. */
export async function storePictures(
  edition: number,
  charts: readonly (readonly NamedPicture[])[],
  transaction: Transaction,
): Promise<void> {
  const all = charts.flatMap((pictures, section) => pictures.map((picture) => ({ section, ...picture })));
  const bytes = new Map<string, Buffer>();
  for (const { svg, png, digests } of all) {
    bytes.set(digests.svg, Buffer.from(svg));
    if (digests.png !== undefined) bytes.set(digests.png, Buffer.from(png));
  }
  await Artefact.bulkCreate(
    [...bytes].map(([sha256, own]) => ({ sha256, bytes: own })),
    { transaction, ignoreDuplicates: true },
  );
  await EditionPicture.bulkCreate(
    all.map(({ section, view, digests }) => ({
      ...{ edition, section, view },
      svgSha256: digests.svg,
      pngSha256: digests.png ?? "",
    })),
    { transaction },
  );
}

/** The picture of a chart that shows the most of what a plan may see; `undefined` where it may see none. */
export async function pictureFor(
  edition: number,
  section: number,
  layout: PictureLayout,
  parts: readonly EditionPart[],
): Promise<EditionPicture | undefined> {
  const stored = await EditionPicture.findAll({ where: { edition, section } });
  const isLaidOut = ({ view }: EditionPicture) => view === "" || view.split(" ")[0] === layout;
  return stored
    .filter((one) => isLaidOut(one) && canSee(seeOfView(one.view), parts))
    .sort((a, b) => b.view.length - a.view.length)
    .at(0);
}

/** Bytes that were published. */
export async function artefact(sha256: string): Promise<Buffer> {
  const stored = await Artefact.findByPk(sha256);
  if (!stored) throw notFound("picture");
  return stored.bytes;
}
