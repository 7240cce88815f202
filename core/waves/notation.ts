import { DEGREES, type Degree } from "#core/waves/degrees";

const FIGURES = ["roman", "arabic", "small roman"] as const;
const LETTERS = ["capital", "small"] as const;
const AROUND = ["circled", "brackets", "bare"] as const;

/** How a degree writes its labels. */
export interface DegreeStyle {
  figures: (typeof FIGURES)[number];
  letters: (typeof LETTERS)[number];
  around: (typeof AROUND)[number];
}
export type Notation = Readonly<Record<Degree, DegreeStyle>>;

const style = (
  figures: DegreeStyle["figures"],
  letters: DegreeStyle["letters"],
  around: DegreeStyle["around"],
): DegreeStyle => ({ figures, letters, around });

/** Frost and Prechter, chapter 1, "Notation and nomenclature", from memory. */
export const USUAL_NOTATION: Notation = {
  "Grand Supercycle": style("roman", "small", "circled"),
  Supercycle: style("roman", "small", "brackets"),
  Cycle: style("roman", "small", "bare"),
  Primary: style("arabic", "capital", "circled"),
  Intermediate: style("arabic", "capital", "brackets"),
  Minor: style("arabic", "capital", "bare"),
  Minute: style("small roman", "small", "circled"),
  Minuette: style("small roman", "small", "brackets"),
  Subminuette: style("small roman", "small", "bare"),
};

const ROMAN = ["0", "I", "II", "III", "IV", "V"];

/**
 * A label ("0" to "5", "A" to "E", "W" to "Z") as its degree writes it. Circles the fonts do not hold are square
 * brackets.
 */
export function labelText(label: string, degree: Degree, notation: Notation = USUAL_NOTATION): string {
  const { figures, letters, around } = notation[degree];
  const isFigure = /^[0-5]$/.test(label);
  const bare = isFigure
    ? figures === "arabic"
      ? label
      : figures === "roman"
        ? ROMAN[Number(label)]
        : ROMAN[Number(label)].toLowerCase()
    : letters === "capital"
      ? label
      : label.toLowerCase();
  if (around === "brackets") return `(${bare})`;
  if (around === "bare") return bare;
  if (isFigure && figures === "arabic" && label !== "0") return String.fromCodePoint(0x245f + Number(label));
  return `[${bare}]`;
}

/** Larger degrees are written larger; points. */
export function labelSize(degree: Degree): number {
  return 19 - DEGREES.indexOf(degree);
}

/** Every way a degree can be written, each with what it makes of a third wave and of an A. */
export const STYLES: readonly { name: string; style: DegreeStyle }[] = FIGURES.flatMap((figures) =>
  AROUND.map((around) => {
    const own = style(figures, figures === "arabic" ? "capital" : "small", around);
    return {
      name:
        `${labelText("3", "Minor", { ...USUAL_NOTATION, Minor: own })} ` +
        `${labelText("A", "Minor", { ...USUAL_NOTATION, Minor: own })}`,
      style: own,
    };
  }),
);

/** A notation from untrusted data; what cannot be read of it is as usual, `undefined` where nothing is left. */
export function readNotation(raw: unknown): Partial<Notation> | undefined {
  if (typeof raw !== "object" || raw === null) return undefined;
  const read = DEGREES.flatMap((degree) => {
    const own = (raw as Record<string, unknown>)[degree] as Partial<Record<keyof DegreeStyle, unknown>> | undefined;
    const figures = FIGURES.find((one) => one === own?.figures);
    const letters = LETTERS.find((one) => one === own?.letters);
    const around = AROUND.find((one) => one === own?.around);
    return figures && letters && around ? [[degree, { figures, letters, around }] as const] : [];
  });
  return read.length > 0 ? Object.fromEntries(read) : undefined;
}
