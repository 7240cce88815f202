import { audit } from "../audit/audit.ts";
import { HookRow, KnownDevice, PushRow, TokenRow } from "../database/models.ts";
import { endSessions } from "./sessions.ts";

/**
 * Ends every way into an account but its passkeys and its second factor: sessions (but the one that is named), private
 * feeds, tokens of programs, addresses of programs that are told, browsers that are notified, shared pictures, and
 * unused links of mails. For whoever changes a password because somebody else may have had a hand in it.
 */
export async function endAccess(accountId: string, exceptSession: string | undefined): Promise<void> {
  await endSessions(accountId, { except: exceptSession });
  const where = { accountId };
  await TokenRow.destroy({ where: { ...where, usedAt: null } });
  await HookRow.destroy({ where });
  await PushRow.destroy({ where });
  await KnownDevice.destroy({ where });
  await audit({ what: "access ended", subject: "sessions, feeds, programs and notices" });
}
