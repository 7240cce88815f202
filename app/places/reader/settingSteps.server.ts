import { PushDto } from "#contracts/push";
import { readDto } from "#contracts/read";
import { ReaderChoicesDto } from "#contracts/choices";
import { browserName } from "../../../server/accounts/browserName.ts";
import type { Person } from "../../../server/accounts/sessions.ts";
import { issueToken, revokeToken, tokensOf } from "../../../server/accounts/tokens.ts";
import { addHook, endHook } from "../../../server/delivery/hooks.ts";
import { siteAddress } from "../../../server/delivery/links.ts";
import { addDevice, endDevice } from "../../../server/delivery/push.ts";
import { standInDevice } from "../../../server/delivery/received.ts";
import { Failure } from "../../../server/failure.ts";
import { saveChoices } from "../../../server/readers/choices.ts";
import { readField, textField, worksAtDesk } from "../../access.server.ts";

/** Private addresses somebody has at most. */
const MOST_FEEDS = 10;

/** What the forms of the settings do, by their step; what is said of it. */
export async function takeStep(form: FormData, person: Person, agent: string) {
  const { id } = person;
  switch (textField(form, "step")) {
    case "feed": {
      if ((await tokensOf(id, "feed")).length >= MOST_FEEDS)
        throw new Failure("many", `There are ${MOST_FEEDS} addresses already.`, { remedy: "End one of them first." });
      const token = await issueToken({ purpose: "feed", accountId: id });
      return {
        said: "Your new address stands below; it is told this once.",
        feed: `${siteAddress()}/feeds/${token}`,
      };
    }
    case "token": {
      const purpose = textField(form, "scope") === "bars" ? "bars" : "api";
      if (purpose === "bars" && !worksAtDesk(person))
        throw new Failure("role", "Bars are sent by those who work at the desk.", { status: 403 });
      if ((await tokensOf(id, purpose)).length >= MOST_FEEDS)
        throw new Failure("many", `There are ${MOST_FEEDS} of them already.`, { remedy: "End one of them first." });
      const token = await issueToken({ purpose, accountId: id });
      return { said: "Your new token stands below; it is told this once.", token };
    }
    case "end token":
      for (const purpose of ["api", "bars"] as const) await revokeToken(id, purpose, textField(form, "token"));
      return { said: "That token opens nothing any more." };
    case "hook":
      return {
        said: "That program is told from now on. What signs its messages stands below; it is told this once.",
        hookSecret: await addHook(id, textField(form, "address").trim()),
      };
    case "end hook":
      await endHook(id, textField(form, "hook"));
      return { said: "That program is told nothing any more." };
    case "push":
      await addDevice(id, readField(form, "subscription", PushDto), browserName(agent));
      return { said: "This browser is notified from now on." };
    case "push stand-in": {
      const read = readDto(PushDto, await standInDevice());
      if (!read.ok) throw new Failure("missing", "There is no stand-in of a browser on this desk.", { status: 404 });
      await addDevice(id, read.value, "The stand-in of a browser");
      return { said: "The stand-in is notified from now on; what it shows stands in the mailbox of its owner." };
    }
    case "end push":
      await endDevice(id, textField(form, "device"));
      return { said: "That browser is notified no more." };
    case "end feed":
      await revokeToken(id, "feed", textField(form, "feed"));
      return { said: "That address shows nothing any more." };
    default:
      return { said: await save(id, form) };
  }
}

async function save(id: string, form: FormData): Promise<string> {
  const all = (name: string) => form.getAll(name).filter((one): one is string => typeof one === "string");
  const isQuiet = textField(form, "isQuiet") === "yes";
  const read = readDto(ReaderChoicesDto, {
    kinds: all("kinds"),
    markets: all("markets"),
    moments: all("moments"),
    mail: textField(form, "mail") === "yes",
    digest: textField(form, "digest") === "yes",
    corrections: textField(form, "corrections") === "yes",
    ...(isQuiet ? { quiet: { from: Number(form.get("from")), to: Number(form.get("to")) } } : {}),
    zone: textField(form, "zone"),
    larger: textField(form, "larger") === "yes",
  });
  if (!read.ok)
    throw new Failure("fields", Object.values(read.fields)[0], { status: 400, kept: "Nothing was changed." });
  await saveChoices(id, { ...read.value, quiet: read.value.quiet ?? null });
  return "Saved; it counts from now on.";
}
