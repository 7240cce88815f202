import { FINDING_DEFAULTS, readFindingParams, type FindingParams } from "#core/finding/params";
import { FindingParamsRow, RungSetRow } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";

/** What the machine looks for on a set of rungs; the defaults where nothing was chosen or it cannot be read any more. */
export async function findingParamsOf(accountId: string, setId: string): Promise<FindingParams> {
  const row = await FindingParamsRow.findOne({ where: { accountId, setId } });
  const read = readFindingParams(row?.params ?? {});
  return typeof read === "string" ? FINDING_DEFAULTS : read;
}

export async function saveFindingParams(accountId: string, setId: string, raw: unknown): Promise<FindingParams> {
  const params = readFindingParams(raw);
  if (typeof params === "string") throw new Failure("params", params, { status: 400, kept: "Nothing was changed." });
  if (setId && !(await RungSetRow.findOne({ where: { id: setId, accountId } }))) throw notFound("set of rungs");
  await FindingParamsRow.upsert({ accountId, setId, params });
  return params;
}
