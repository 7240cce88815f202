import type { See } from "#core/edition/parts";
import type { Chip } from "#core/edition/words";
import type { Cut } from "../record/leaves.ts";
import type { EditionContent } from "./content.ts";
import { EDITION, seeOfChip, type Rule } from "./shownWith.ts";

/**
 * Where an edition is cut, so that each thing a plan may show or withhold is a leaf of its own. What the table of
 * `shownWith.ts` says of it decides, and nothing else.
 */
export function cutsOf(content: Pick<EditionContent, "blocks">): Cut[] {
  return cutsIn(content, EDITION, "", "all");
}

/** What of an edition is published: every field that the table names, and no other. */
export const published = (content: EditionContent): EditionContent => kept(content, EDITION) as EditionContent;

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null;

/** The rule of what stands at a name within something; none where the table does not know it. */
function ruleAt(rule: Rule, name: string, value: unknown): Rule | undefined {
  if (rule.each) return rule.each(value);
  if (rule.named) return rule.named(name);
  if (!rule.fields) return {};
  if (Object.hasOwn(rule.fields, name)) return rule.fields[name];
  return rule.rest === undefined ? undefined : { see: rule.rest };
}

function kept(value: unknown, rule: Rule): unknown {
  const isOpen = !rule.fields && !rule.each && !rule.named;
  if (isOpen || !isObject(value)) return value;
  if (Array.isArray(value))
    return value.map((item) => (item === null ? null : kept(item, ruleAt(rule, "", item) ?? {})));
  return Object.fromEntries(
    Object.entries(value).flatMap(([name, own]) => {
      const within = ruleAt(rule, name, own);
      return within ? [[name, kept(own, within)]] : [];
    }),
  );
}

function cutsIn(value: unknown, rule: Rule, path: string, within: See): Cut[] {
  if (!isObject(value)) return [];
  if (rule.words) return chipCuts(value, path);
  if (!rule.fields && !rule.each && !rule.named) return [];
  return Object.entries(value).flatMap(([name, own]): Cut[] => {
    // Editions from before the table are cut as they are: what it does not name is shown to nobody.
    const next: Rule = own === null ? {} : (ruleAt(rule, name, own) ?? { see: "desk" });
    const at = path === "" ? name : `${path}/${name}`;
    const see = next.see ?? within;
    const here: Cut[] = own !== undefined && see !== within ? [{ path: at, see }] : [];
    return [...here, ...cutsIn(own, next, at, see)];
  });
}

/** Numbers within words that a plan may withhold while it shows the words. */
function chipCuts(node: object, path: string): Cut[] {
  const { type, attrs, content } = node as { type?: string; attrs?: Chip; content?: object[] };
  const see = type === "chip" && attrs ? seeOfChip(attrs) : "all";
  if (see !== "all") return [{ path: `${path}/attrs/text`, see: `words+${see}` }];
  return (content ?? []).flatMap((one, n) => chipCuts(one, `${path}/content/${n}`));
}
