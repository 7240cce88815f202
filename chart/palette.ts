/** Ink for what the market did, pigment for what somebody asserts about it. */
export interface Palette {
  paper: string;
  sheet: string;
  rule: string;
  faint: string;
  ink: string;
  ink2: string;
  ink3: string;
  indigo: string;
  ochre: string;
  slate: string;
  plum: string;
  verdigris: string;
  carmine: string;
  umber: string;
}

export type Pigment = keyof Palette;

export const PAPER: Palette = {
  paper: "#F6F1E6",
  sheet: "#FCF9F2",
  rule: "#D8CFBC",
  faint: "#E9E1D0",
  ink: "#23262B",
  ink2: "#57544C",
  ink3: "#6B665A",
  indigo: "#3A4693",
  ochre: "#8A5E00",
  slate: "#46606F",
  plum: "#7B2F6E",
  verdigris: "#1B6F62",
  carmine: "#A02B3C",
  umber: "#6E4B2A",
};

export const LAMP: Palette = {
  paper: "#1D1915",
  sheet: "#26211B",
  rule: "#463D32",
  faint: "#312A22",
  ink: "#EFE6D2",
  ink2: "#C6BBA5",
  ink3: "#A99D88",
  indigo: "#A5AFF0",
  ochre: "#DDB257",
  slate: "#A3BECD",
  plum: "#DDA0D1",
  verdigris: "#74CBBB",
  carmine: "#F09AA5",
  umber: "#D6AD80",
};
