import { Op } from "sequelize";
import { readChosenStudy, type ChosenStudy } from "#core/studies/chosen";
import type { Series } from "#core/series/series";
import { othersOf } from "../../chart/studies/chartStudies.ts";
import { Market, StudiesRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";

/** Studies under a name, to be put on any chart. */
export interface StudyLook {
  name: string;
  studies: ChosenStudy[];
}

export interface StudiesOfSet {
  chosen: ChosenStudy[];
  looks: StudyLook[];
}

const MOST_LOOKS = 40;

/** What an analyst has on the charts of a set of rungs, and the looks that are kept. */
export async function studiesOf(accountId: string, setId: string): Promise<StudiesOfSet> {
  const rows = await StudiesRow.findAll({
    where: {
      accountId,
      [Op.or]: [
        { setId, name: "" },
        { setId: "", name: { [Op.ne]: "" } },
      ],
    },
    order: [["name", "ASC"]],
  });
  const chosen = rows.find(({ name }) => name === "");
  return {
    chosen: chosen ? known(chosen.studies) : [],
    looks: rows.filter(({ name }) => name !== "").map(({ name, studies }) => ({ name, studies: known(studies) })),
  };
}

/** Stored studies, without those that cannot be read any more. */
function known(stored: unknown): ChosenStudy[] {
  return (Array.isArray(stored) ? stored : []).map(readChosenStudy).filter((one) => typeof one !== "string");
}

/** Studies from outside; a `Failure` with the sentence of the first that is none. */
function read(raw: readonly unknown[]): ChosenStudy[] {
  return raw.map((one) => {
    const study = readChosenStudy(one);
    if (typeof study === "string")
      throw new Failure("study", study, {
        status: 400,
        kept: "Nothing was changed.",
        remedy: "Put it right and save again.",
      });
    return study;
  });
}

export async function saveStudies(accountId: string, setId: string, raw: readonly unknown[]): Promise<ChosenStudy[]> {
  const studies = read(raw);
  await StudiesRow.upsert({ accountId, setId, name: "", studies });
  return studies;
}

/** Keeps a look; one of the same name takes the place of the one before. */
export async function keepLook(accountId: string, said: string, raw: readonly unknown[]): Promise<StudyLook> {
  const [name, studies] = [said.trim(), read(raw)];
  if (name === "") throw new Failure("name", "A look has a name.", { status: 400, kept: "Nothing was changed." });
  const mine = { accountId, setId: "" };
  const isNew = (await StudiesRow.count({ where: { ...mine, name } })) === 0;
  if (isNew && (await StudiesRow.count({ where: { ...mine, name: { [Op.ne]: "" } } })) >= MOST_LOOKS)
    throw new Failure("many", `You keep ${MOST_LOOKS} looks already.`, {
      kept: "Nothing was changed.",
      remedy: "Let go of one that is no longer wanted.",
    });
  await StudiesRow.upsert({ ...mine, name, studies });
  return { name, studies };
}

export async function dropLook(accountId: string, name: string): Promise<void> {
  if (name === "" || (await StudiesRow.destroy({ where: { accountId, setId: "", name } })) === 0)
    throw notFound("look");
}

/** Bars of the other markets that studies read, as they are stored. */
export async function barsBeside(
  chosen: readonly ChosenStudy[],
  rung: string,
  barsOf: (market: Market) => Promise<Series>,
): Promise<Map<string, Series>> {
  const markets = await Market.findAll({ where: { id: othersOf(chosen, rung) } });
  return new Map(await Promise.all(markets.map(async (market) => [market.id, await barsOf(market)] as const)));
}
