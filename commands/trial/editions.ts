import { Op } from "sequelize";
import { Artefact, Draft, Edition, EditionPicture, WatcherRow } from "../../server/database/models.ts";
import { contentOf, sectionsOf } from "../../server/publishing/content.ts";
import { verifyEdition } from "../../server/publishing/editions.ts";
import { openRecord } from "../../server/record/adopt.ts";
import { forgetCheck } from "../../server/record/check.ts";
import { CommandFault } from "../desk/timing.ts";

/**
 * Every edition is whole: its text and pictures are what was entered in the record, its calls are followed, its draft
 * knows it, and nothing is stored of one that is not there. Returns how many there are.
 */
export async function examineEditions(): Promise<number> {
  const editions = await Edition.findAll({ attributes: ["number", "draftId", "canonical"] });
  // What a kill between the database and the file of heads left out is kept at the next start, as the desk does.
  await openRecord();
  forgetCheck();
  for (const { number, draftId, canonical } of editions) {
    const { holds, why } = await verifyEdition(number);
    if (!holds) throw new CommandFault(`Edition ${number}: ${why}`);
    const scenarios = sectionsOf(contentOf(canonical)).flatMap(({ scenarios: own }) => own).length;
    const followed = { kind: "scenario", subject: { [Op.startsWith]: `${number}/` } };
    if ((await WatcherRow.count({ where: followed })) !== scenarios)
      throw new CommandFault(`Edition ${number} has scenarios that nobody follows.`);
    if ((await Draft.findByPk(draftId))?.published !== number)
      throw new CommandFault(`The draft of edition ${number} does not know it.`);
  }
  const numbers = editions.map(({ number }) => number);
  if ((await Draft.count({ where: { published: { [Op.ne]: null } } })) !== editions.length)
    throw new CommandFault("A draft says it was published and was not.");
  const pictures = await EditionPicture.findAll({ raw: true });
  if (pictures.some(({ edition }) => !numbers.includes(edition)))
    throw new CommandFault("Pictures are stored of an edition that is not there.");
  const used = new Set(pictures.flatMap(({ svgSha256, pngSha256 }) => [svgSha256, pngSha256]).filter(Boolean));
  if ((await Artefact.count()) !== used.size) throw new CommandFault("Bytes are stored that no edition has.");
  return editions.length;
}
