import { choicesFrom, type ReaderChoices } from "#core/readers/choices";
import { Account, ReaderChoicesRow } from "../database/models.ts";

/** What somebody has chosen, and what everybody has where they have not. */
export async function choicesOf(accountId: string): Promise<ReaderChoices> {
  const row = await ReaderChoicesRow.findByPk(accountId);
  return choicesFrom(row?.choices);
}

export async function saveChoices(accountId: string, choices: ReaderChoices): Promise<void> {
  await ReaderChoicesRow.upsert({ accountId, choices });
}

/** No mail is sent to somebody any more; what else was chosen stays. */
export async function endMail(accountId: string): Promise<void> {
  if (!(await Account.findByPk(accountId, { attributes: ["id"] }))) return;
  await saveChoices(accountId, { ...(await choicesOf(accountId)), mail: false });
}
