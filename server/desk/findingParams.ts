import { isDeepStrictEqual } from "node:util";
import { FINDING_DEFAULTS, readFindingParams, type FindingParams } from "#core/finding/params";
import { FindingParamsRow, RungSetRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { forgetReadings } from "./readings.ts";

/**
 * What the machine looks for on a set of rungs; the defaults where nothing was chosen or it cannot be read any more.
 */
export async function findingParamsOf(accountId: string, setId: string): Promise<FindingParams> {
  const row = await FindingParamsRow.findOne({ where: { accountId, setId } });
  const read = readFindingParams(row?.params ?? {});
  return typeof read === "string" ? FINDING_DEFAULTS : read;
}

export async function saveFindingParams(accountId: string, setId: string, raw: unknown): Promise<FindingParams> {
  const params = readFindingParams(raw);
  if (typeof params === "string") throw new Failure("params", params, { status: 400, kept: "Nothing was changed." });
  if (setId && !(await RungSetRow.findOne({ where: { id: setId, accountId } }))) throw notFound("set of rungs");
  const before = await findingParamsOf(accountId, setId);
  await FindingParamsRow.upsert({ accountId, setId, params });
  // Somebody else who looks for the same has it worked out once more; what everybody begins with is kept.
  if (!isDeepStrictEqual(before, FINDING_DEFAULTS)) await forgetReadings(before);
  return params;
}
