import { EDITION_KINDS, type EditionKind, type TemplateBlock } from "#core/edition/blocks";
import { MASTHEAD, type Masthead } from "#core/edition/masthead";
import { audit } from "../audit/audit.ts";
import { DeskSetting } from "../database/models.ts";

/** What a desk decides for all who work at it. */
export interface DeskSettings {
  /** What stands at the head of everything readers see. */
  masthead: Masthead;
  /** Whether a colleague reads every edition before it goes out. */
  reading: boolean;
  /** The blocks an edition of a kind begins with. */
  templates: Record<EditionKind, TemplateBlock[]>;
}

export const FIRST_SETTINGS: DeskSettings = {
  masthead: MASTHEAD,
  reading: false,
  templates: Object.fromEntries(
    Object.entries(EDITION_KINDS).map(([kind, { begins }]) => [kind, [...begins]]),
  ) as DeskSettings["templates"],
};

const NAMES = Object.keys(FIRST_SETTINGS) as (keyof DeskSettings)[];

/** What the desk has decided; what it has not is as it came. */
export async function deskSettings(): Promise<DeskSettings> {
  const rows = await DeskSetting.findAll({ where: { name: [...NAMES] }, raw: true });
  const decided = Object.fromEntries(rows.map(({ name, value }) => [name, value])) as Partial<DeskSettings>;
  return {
    masthead: decided.masthead ?? FIRST_SETTINGS.masthead,
    reading: decided.reading ?? FIRST_SETTINGS.reading,
    templates: { ...FIRST_SETTINGS.templates, ...decided.templates },
  };
}

/** What stands at the head of everything readers see. */
export const mastheadOf = async (): Promise<Masthead> => (await deskSettings()).masthead;

/** Decides some of it anew. */
export async function decide(change: Partial<DeskSettings>): Promise<void> {
  const before = await deskSettings();
  for (const name of NAMES) {
    const value = change[name];
    if (value === undefined || JSON.stringify(value) === JSON.stringify(before[name])) continue;
    await DeskSetting.upsert({ name, value, version: 1 });
    await audit({ what: "desk decided", subject: name, detail: { before: before[name], after: value } });
  }
}
