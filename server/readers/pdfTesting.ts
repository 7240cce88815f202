import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";

/** What a reader of PDFs finds in one: the text of each page, its pictures, and what it says of itself. */
export async function readPdf(bytes: Uint8Array): Promise<{ pages: string[]; title: string; author: string }> {
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages = await Promise.all(
    Array.from({ length: document.numPages }, async (_, i) => {
      const { items } = await (await document.getPage(i + 1)).getTextContent();
      return items.map((item) => ("str" in item ? item.str : "")).join(" ");
    }),
  );
  const { info } = (await document.getMetadata()) as unknown as { info: Record<string, string> };
  return { pages, title: info.Title, author: info.Author };
}
