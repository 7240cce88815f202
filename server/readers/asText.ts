import { EDITION_KINDS } from "#core/edition/blocks";
import { sayRecord } from "#core/edition/recordFigures";
import { textOfWords } from "#core/edition/words";
import { levelText } from "#core/marks/levelText";
import { bandText, percentText, priceText, rungText } from "#core/marks/wording";
import { sayTerms } from "#core/scenarios/sayTerms";
import { termsOfFrozen } from "#core/written/read";
import type { EditionContent, FrozenBlock, Seen } from "../publishing/content.ts";
import type { FrozenSection } from "../publishing/section.ts";

const minute = (text: string) => `${text.slice(0, 16).replace("T", " ")} UTC`;

/**
 * An edition as plain text, for those who read no more than that: what of it may be seen, in its order. Parts that are
 * withheld are missing or null.
 */
export function asText({ number, kind, title, author, publishedAt, blocks }: Seen<EditionContent>): string {
  const head = `${EDITION_KINDS[kind].name}, edition ${number}, ${minute(publishedAt)}, by ${author}`;
  const parts = (blocks as (FrozenBlock | null)[]).map((block) => (block ? textOfBlock(block) : ""));
  return [head, `${title}\n${"=".repeat(Math.min(72, title.length))}`, ...parts].filter(Boolean).join("\n\n");
}

export function textOfBlock(block: FrozenBlock): string {
  switch (block.kind) {
    case "words":
      return textOfWords(block.words);
    case "risk":
      return block.text;
    case "question":
      return [titled("A reader asks"), `"${block.asked}"`, "", block.answer].join("\n");
    case "market": {
      const { section, words } = block;
      const changed = block.changed && [...(block.changed.calls ?? []), ...(block.changed.levels ?? [])];
      return [
        titled(`${section.market.name}, ${rungText(section.rung).toLowerCase()}`),
        viewText(section),
        changed && changed.length > 0 ? `Since edition ${block.changed?.since}: ${changed.join(" ")}` : "",
        words ? textOfWords(words) : "",
        studiesText(section),
        ...section.scenarios.filter(Boolean).map((scenario) => callText(scenario, section)),
        levelsText(section),
      ]
        .filter(Boolean)
        .join("\n\n");
    }
    case "walk": {
      const steps = block.steps.map(({ text, section: { rung } }, i) =>
        [`${i + 1}. ${rungText(rung)}.`, (text as string | undefined) ?? ""].join(" ").trim(),
      );
      return [titled(`${block.market}, step by step`), ...steps].join("\n");
    }
    case "calendar":
      return listed("To respect", block.lines, ({ at, allDay, title }) => {
        const when = new Date(at).toISOString();
        return `${allDay ? when.slice(0, 10) : minute(when)}  ${title}`;
      });
    case "recap":
      return listed("What became of it", block.lines, ({ market, title, since, stands }) => {
        const now = stands === undefined ? "" : ` It stands: ${stands}.`;
        return `${market}, ${title}. ${((since as string[] | undefined) ?? []).join(" ")}${now}`;
      });
    case "ranking":
      return listed("The calls, best first", block.lines, ({ market, direction, title, weight, rank, reward }) => {
        const pays = reward === undefined ? "" : `, ${reward.toFixed(2)} : 1`;
        return `${market}, ${direction}: ${title} (${rank}, ${weight} %${pays})`;
      });
    case "board":
      return listed("Where it all points", block.lines, ({ market, views }) => {
        return `${market}: ${views.map(({ horizon, direction }) => `${horizon} ${direction}`).join(", ")}`;
      });
    case "counts":
      return listed("Counts, and what ends them", block.lines, ({ market, rung, role, weight, says, ends }) => {
        const likely = weight > 0 ? `, ${weight} %` : "";
        const end = ends === undefined ? "" : ` \u00d7 Ends ${ends}.`;
        return `${market}, ${rungText(rung).toLowerCase()}, ${role}${likely}: ${says}${end}`;
      });
    case "areas":
      return listed("Areas about price", block.lines, ({ market, band, distance, rungs, reasons }) => {
        const on = rungs.map((rung) => rungText(rung).toLowerCase()).join(", ");
        return `${market}: ${band}, ${percentText(distance, 1)} away; ${on}: ${reasons.join("; ")}`;
      });
    case "record":
      return [titled("The record so far"), ...sayRecord(block.figures)].join("\n");
  }
}

const titled = (title: string) => `${title}\n${"-".repeat(Math.min(72, title.length))}`;

function listed<T>(title: string, lines: readonly (T | null)[], say: (line: T) => string): string {
  const said = lines.flatMap((line) => (line === null ? [] : [`- ${say(line)}`]));
  return said.length === 0 ? "" : [titled(title), ...said].join("\n");
}

function viewText({ horizons }: FrozenSection): string {
  if (!horizons || horizons.length === 0) return "";
  return `The view: ${horizons.map(({ horizon, direction }) => `${horizon} ${direction}`).join("; ")}.`;
}

/** What the studies of its chart read, a line each. */
export function studiesText({ studies = [] }: FrozenSection): string {
  return studies.map(({ name, says }) => `${name} ${says}.`).join("\n");
}

export function callText(scenario: FrozenSection["scenarios"][number], { market }: FrozenSection): string {
  const { title, premise } = scenario;
  const terms: object = "terms" in scenario ? scenario.terms : scenario;
  const whole = "entry" in terms || "legs" in terms;
  const says = whole
    ? sayTerms(termsOfFrozen(scenario), market, (at) => minute(new Date(at).toISOString()))
    : "Its entries, stops and targets are for other plans than yours.";
  const wrong = !whole && "wrong" in terms && typeof terms.wrong === "number" ? terms.wrong : undefined;
  return [title, premise, says, wrong === undefined ? "" : `\u00d7 Wrong at ${priceText(wrong, market)}.`]
    .filter(Boolean)
    .join("\n");
}

function levelsText({ levels, market }: FrozenSection): string {
  return listed("Levels that matter", (levels as FrozenSection["levels"] | undefined) ?? [], (line) => {
    return `${bandText(line, market)}  ${levelText(line)}, ${percentText(line.distance, 1)} away`;
  });
}
