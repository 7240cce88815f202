import { DEGREES, type Degree } from "#core/waves/degrees";

/** How a degree writes its labels. */
export interface DegreeStyle {
  figures: "roman" | "arabic" | "small roman";
  letters: "capital" | "small";
  around: "circled" | "brackets" | "bare";
}
export type Notation = Readonly<Record<Degree, DegreeStyle>>;

const style = (figures: DegreeStyle["figures"], letters: DegreeStyle["letters"], around: DegreeStyle["around"]): DegreeStyle => ({ figures, letters, around });

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

/** A label ("0" to "5", "A" to "E", "W" to "Z") as its degree writes it. Circles no font has are square brackets. */
export function labelText(label: string, degree: Degree, notation: Notation = USUAL_NOTATION): string {
  const { figures, letters, around } = notation[degree];
  const isFigure = /^[0-5]$/.test(label);
  const bare = isFigure ? (figures === "arabic" ? label : figures === "roman" ? ROMAN[Number(label)] : ROMAN[Number(label)].toLowerCase()) : letters === "capital" ? label : label.toLowerCase();
  if (around === "brackets") return `(${bare})`;
  if (around === "bare") return bare;
  if (isFigure && figures === "arabic") return String.fromCodePoint(label === "0" ? 0x24ea : 0x245f + Number(label));
  return `[${bare}]`;
}

/** Larger degrees are written larger; points. */
export function labelSize(degree: Degree): number {
  return 19 - DEGREES.indexOf(degree);
}
