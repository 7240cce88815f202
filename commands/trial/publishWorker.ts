import { plainDraft, type Block } from "#core/edition/blocks";
import { aFormer } from "#core/testing/written";
import { openDatabase } from "../../server/database/connection.ts";
import { Account } from "../../server/database/models.ts";
import { saveScenario } from "../../server/desk/scenarios.ts";
import { createDraft, saveDraft } from "../../server/publishing/drafts.ts";
import { publish } from "../../server/publishing/publish.ts";
import { readSettings } from "../../server/settings.ts";
import { TRIAL_MARKET } from "./shape.ts";

/** Publishes one edition after the other, with a call and a walk, until it is killed; a dot for each. */
openDatabase(readSettings().COMPASS_DATABASE);
const author = await Account.findOne({ rejectOnEmpty: true });
for (;;) {
  const scenario = aFormer({
    ...{ trigger: { event: "closeAbove", price: 1e6, timeframe: "PT1H" }, entry: { order: "market", price: 100 } },
    ...{ stop: 99, targets: [{ price: 103, share: 1 }], invalidation: 98 },
  });
  await saveScenario(TRIAL_MARKET, { version: 0, step: "save", scenario }, author.id);
  const draft = await createDraft(author.id);
  const { blocks, ...rest } = plainDraft("Trial", "Words.", [
    { market: TRIAL_MARKET, rung: "PT15M", scenarios: [scenario.id] },
  ]);
  const walk: Block = { kind: "walk", id: "walk", market: TRIAL_MARKET, steps: [{ rung: "PT1H", text: "Up." }] };
  await saveDraft(draft.id, { ...rest, version: 1, blocks: [...blocks, walk] });
  await publish(draft.id, { id: author.id, name: author.name });
  process.stdout.write(".");
}
