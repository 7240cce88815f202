import type { Block, MarketBlock } from "#core/edition/blocks";
import { randomUUID } from "node:crypto";
import { Draft, Edition } from "../database/models.ts";
import { Failure, notFound } from "../failure.ts";
import { scenariosOf } from "../desk/scenarios.ts";
import { allStandings } from "../watch/standing.ts";
import { createDraft } from "./drafts.ts";

/**
 * A draft that goes on from an edition: the same blocks in their order with the same words, whose numbers say what the
 * desk says now; what was said aloud is of its day and goes. Calls that are over or were taken back go, and each market
 * calls what has been written on it since. `more`: markets that get a section, too, where they have none.
 */
export async function rollForward(number: number, accountId: string, more: readonly string[] = []): Promise<Draft> {
  const edition = await Edition.findByPk(number, { attributes: ["draftId"] });
  if (!edition) throw notFound("outlook");
  const before = await Draft.findByPk(edition.draftId);
  if (!before)
    throw new Failure("gone", "The draft of this outlook is no longer there.", {
      status: 404,
      kept: "The outlook stays as it is.",
      remedy: "Begin a new one of its kind.",
    });
  const sections = before.blocks.filter((block) => block.kind === "market");
  const added = [...new Set(more)].filter((id) => !sections.some(({ market }) => market === id));
  const ids = [...new Set([...sections.map(({ market }) => market), ...added])];
  const over = new Set(
    (await allStandings(ids)).filter(({ phase }) => phase === "done").map(({ scenarioId }) => scenarioId),
  );
  const open = new Map<string, string[]>();
  for (const id of ids)
    open.set(
      id,
      (await scenariosOf(id)).map(({ scenario }) => scenario.id).filter((scenario) => !over.has(scenario)),
    );
  const section = (block: MarketBlock): MarketBlock => ({ ...block, scenarios: open.get(block.market) ?? [] });
  const kept = before.blocks.map((block): Block => {
    if (block.kind === "market") return section(block);
    return block.kind === "walk" ? { ...block, steps: block.steps.map(({ voice: _, ...step }) => step) } : block;
  });
  const begun = added.map((market): Block =>
    section({ kind: "market", id: randomUUID(), market, rung: "P1D", scenarios: [] }),
  );
  return createDraft(accountId, { kind: before.kind, title: "", blocks: withMarkets(kept, begun) });
}

/** New markets come behind the last one, or before whatever ends the edition. */
function withMarkets(blocks: readonly Block[], added: readonly Block[]): Block[] {
  const last = blocks.findLastIndex(({ kind }) => kind === "market");
  const at =
    last >= 0
      ? last + 1
      : Math.max(
          0,
          blocks.findIndex(({ kind }) => kind === "risk"),
        );
  return [...blocks.slice(0, at), ...added, ...blocks.slice(at)];
}
