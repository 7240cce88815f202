import { createRequire } from "node:module";
import PDFDocument from "pdfkit";

const require = createRequire(import.meta.url);
const font = (file: string) => require.resolve(`@expo-google-fonts/${file}.ttf`);
const FONTS = {
  text: font("source-sans-3/400Regular/SourceSans3_400Regular"),
  strong: font("source-sans-3/600SemiBold/SourceSans3_600SemiBold"),
  title: font("source-serif-4/600SemiBold/SourceSerif4_600SemiBold"),
};

/** A part of a paper: plain text, a line of dashes under a heading, and the pictures that belong to it (PNG). */
export interface PaperPart {
  text: string;
  pictures: Uint8Array[];
}

/** What is set on paper. */
export interface Paper {
  house: string;
  /** Stands over the title. */
  head: string;
  title: string;
  author: string;
  /** ms */
  publishedAt: number;
  parts: PaperPart[];
  /** Stands at the end: by what it can be checked. */
  foot: string;
}

const MARGIN = 54;
/** A4, in points. */
const WIDTH = 595.28 - 2 * MARGIN;
const INK = "#23262b";
const GREY = "#57544c";

/** A paper as a PDF, its pages numbered, with the fonts it is set in. */
export async function drawPdf({ house, head, title, author, publishedAt, parts, foot }: Paper): Promise<Uint8Array> {
  const pdf = new PDFDocument({
    ...{ size: "A4", margin: MARGIN, bufferPages: true, lang: "en", displayTitle: true },
    info: { Title: title, Author: author, Creator: house, CreationDate: new Date(publishedAt) },
  });
  const chunks: Buffer[] = [];
  pdf.on("data", (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise((done) => pdf.on("end", done));
  pdf.fillColor(GREY).font(FONTS.text).fontSize(9).text(`${house}. ${head}`);
  pdf.moveDown(0.4).fillColor(INK).font(FONTS.title).fontSize(20).text(title).moveDown(0.6);
  for (const part of parts) setPart(pdf, part);
  pdf.moveDown(1).fillColor(GREY).font(FONTS.text).fontSize(8).text(foot);
  const { count } = pdf.bufferedPageRange();
  for (let page = 0; page < count; page++) {
    pdf.switchToPage(page);
    // Below the margin, where text of its own would begin another page.
    pdf.page.margins.bottom = 0;
    const y = pdf.page.height - MARGIN / 2 - 6;
    pdf.fillColor(GREY).font(FONTS.text).fontSize(8);
    pdf.text(`${title}, ${page + 1} of ${count}`, MARGIN, y, { width: WIDTH, align: "right", lineBreak: false });
  }
  pdf.end();
  await ended;
  return new Uint8Array(Buffer.concat(chunks));
}

/** The pictures of a part stand under its first heading, which goes to the next page with them. */
function setPart(pdf: PDFKit.PDFDocument, { text, pictures }: PaperPart): void {
  let left = pictures;
  for (const { heading, line } of linesOf(text)) {
    if (heading) {
      const below = left.length > 0 ? heightOf(left[0]) + 60 : 80;
      if (pdf.y > pdf.page.height - MARGIN - below) pdf.addPage();
      pdf.moveDown(0.6).fillColor(INK).font(FONTS.title).fontSize(13).text(line).moveDown(0.2);
      for (const picture of left) setPicture(pdf, picture);
      left = [];
    } else if (line === "") pdf.moveDown(0.4);
    else pdf.fillColor(INK).font(FONTS.text).fontSize(10).text(line, { lineGap: 1.5 });
  }
  for (const picture of left) setPicture(pdf, picture);
}

function setPicture(pdf: PDFKit.PDFDocument, picture: Uint8Array): void {
  const height = heightOf(picture);
  if (pdf.y + height > pdf.page.height - MARGIN) pdf.addPage();
  pdf.image(Buffer.from(picture), pdf.x, pdf.y, { width: WIDTH });
  pdf.y += height;
  pdf.moveDown(0.5);
}

/** Height of a picture as wide as the text; its own size stands behind a PNG's signature and first chunk's name. */
function heightOf(picture: Uint8Array): number {
  const head = Buffer.from(picture.buffer, picture.byteOffset, 24);
  return (head.readUInt32BE(20) / head.readUInt32BE(16)) * WIDTH;
}

/** Lines of plain text; one that is underlined with dashes is a heading. */
function linesOf(text: string): { heading: boolean; line: string }[] {
  const lines = text.split("\n");
  const isRule = (line: string | undefined) => line !== undefined && /^-{3,}$/.test(line);
  return lines.flatMap((line, i) => (isRule(line) ? [] : [{ heading: isRule(lines[i + 1]), line }]));
}
