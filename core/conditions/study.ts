import { ABOUT_NONE, closesOf, metBy, OF_BAR, type Condition, type Judged } from "#core/conditions/condition";
import type { Fields } from "#core/conditions/fields";
import { meterName } from "#core/observe/meter";
import { rungWord } from "#core/marks/wording";
import { readStudyParams } from "#core/studies/params";
import { studyName } from "#core/studies/reading";
import { STUDIES, studyOf } from "#core/studies/registry";
import type { Study, StudyParams } from "#core/studies/study";

/**
 * Any study at a close: its line against a number (`above`, `below`), the close on one side of it, or one of its lines
 * on one side of another (`than`).
 */
/** A study with its parameters, as `compute` asks for it. */
export type AskedStudy = { quantity: string } & StudyParams;

export interface StudyConditionTerms {
  on: "study";
  of: AskedStudy;
  /** The line that is asked; the one the study is read by where it is left out. */
  line: string;
  above?: number;
  below?: number;
  side?: "above" | "below";
  /** The line that it is held against; the close where it is left out. */
  than?: string;
  rung?: string;
}

/** Studies that bars alone make: no other market, no periods of a calendar, no beginning of one's own. */
export const ASKED_STUDIES: readonly Study[] = STUDIES.filter(({ parameters }) =>
  parameters.every(({ kind }) => kind === "whole" || kind === "number" || kind === "choice"),
);

function readOf(fields: Fields): AskedStudy {
  const own = fields.at(fields.take("of"), "of");
  const name = own.oneOf(
    "quantity",
    ASKED_STUDIES.map((one) => one.name),
  );
  const found = studyOf(name)!;
  const given = Object.fromEntries(
    found.parameters.flatMap((parameter) =>
      own.has(parameter.name) ? [[parameter.name, own.take(parameter.name)]] : [],
    ),
  );
  own.done();
  const params = readStudyParams(found, given);
  if (typeof params === "string") return fields.fault("of", `cannot be read: ${params.replace(/\.$/, "")}`);
  return { quantity: name, ...params };
}

/** What is measured of it. */
const meterOf = ({ quantity, ...params }: AskedStudy) => ({ study: quantity, params: params as StudyParams });

const lineAt = (of: AskedStudy, name: string) => studyOf(of.quantity)!.lines.findIndex((line) => line.name === name);

export const study: Condition<StudyConditionTerms, null> = {
  on: "study",
  read(fields) {
    const of = readOf(fields);
    const { lines, main, place } = studyOf(of.quantity)!;
    const names = lines.map(({ name }) => name);
    const line = fields.has("line") ? fields.oneOf("line", names) : (main ?? names[0]);
    const bounds = (["above", "below"] as const).flatMap((name) =>
      fields.has(name) ? [[name, fields.number(name, -Infinity)] as const] : [],
    );
    const isSided = fields.has("side");
    if (isSided === bounds.length > 0) fields.fault("side", `is wanted, or a number "above" or "below", not both`);
    const than = fields.has("than") ? { than: fields.oneOf("than", names) } : {};
    if (isSided && place !== "price" && !("than" in than))
      fields.fault("than", "is wanted: this study has a scale of its own");
    return {
      ...{ on: "study", of, line, ...Object.fromEntries(bounds) },
      ...(isSided ? { side: fields.oneOf<"above" | "below">("side", ["above", "below"]), ...than } : {}),
      ...fields.rung(),
    };
  },
  needs: ({ of, rung }) => [{ rung, of: "meter", meter: meterOf(of) }],
  start: () => null,
  next({ of, line, above, below, side, than, rung }, _state, look) {
    const name = meterName(meterOf(of));
    const [at, against] = [lineAt(of, line), than === undefined ? -1 : lineAt(of, than)];
    const isPrice = studyOf(of.quantity)!.lines[at].unit === "price";
    const judged = closesOf(look, rung).map((close): Judged => {
      const values = close.measured?.get(name);
      const value = values?.[at] ?? NaN;
      const other = against < 0 ? close.bar.close : (values?.[against] ?? NaN);
      const by = metBy(close, rung);
      if (Number.isNaN(value) || (side !== undefined && Number.isNaN(other))) return { by };
      if (side === undefined)
        return { met: (above === undefined || value > above) && (below === undefined || value < below), by };
      // "The close above the line", but "the line above the other one".
      const apart = against < 0 ? other - value : value - other;
      return { met: (side === "above" ? apart : -apart) > (isPrice ? look.tolerance : 0), by };
    });
    return { state: null, judged };
  },
  binds: () => OF_BAR,
  ...ABOUT_NONE,
  say({ of, line, above, below, side, than, rung }) {
    const { quantity, ...params } = of;
    const found = studyOf(quantity)!;
    const name = studyName(found, params as StudyParams);
    const named = found.lines.length > 1 ? `${line} of ${name}` : name;
    if (side !== undefined && than === undefined) return `a ${rungWord(rung)} closes ${side} the ${named}`;
    const bounds = [above === undefined ? "" : `above ${above}`, below === undefined ? "" : `below ${below}`];
    const where = side === undefined ? bounds.filter(Boolean).join(" and ") : `${side} its ${than}`;
    return `the ${named} stands ${where} at a close of a ${rungWord(rung)}`;
  },
};
