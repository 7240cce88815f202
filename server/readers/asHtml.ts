import { EDITION_KINDS } from "#core/edition/blocks";
import type { Inline, Words, WordsNode } from "#core/edition/words";
import { levelText } from "#core/marks/levelText";
import { bandText, percentText, rungText } from "#core/marks/wording";
import type { EditionContent, FrozenBlock, Seen } from "../publishing/content.ts";
import type { FrozenSection } from "../publishing/section.ts";
import { callText, textOfBlock } from "./asText.ts";
import { html, type Html } from "./html.ts";

/** Addresses of pictures by the number of their chart: those of markets in their order, behind them those of walks. */
export type PictureAddress = (chart: number) => string | undefined;

const INK = "#23262B";
const RULE = "#D8CFBC";
const SERIF = "Georgia, 'Times New Roman', serif";

/** An edition as the HTML of a mail: what of it may be seen, in its order; styles stand where they are used. */
export function asHtml(
  { number, kind, title, author, marketTime, blocks }: Seen<EditionContent>,
  pictureAt: PictureAddress,
): Html {
  let chart = 0;
  let step = blocks.filter((block) => (block as FrozenBlock | null)?.kind === "market").length;
  const parts = (blocks as (FrozenBlock | null)[]).map((block) => {
    if (!block) return undefined;
    if (block.kind === "words") return words(block.words);
    if (block.kind === "market") return market(block, pictureAt(chart++));
    if (block.kind === "walk")
      return html`${heading(`${block.market}, step by step`)}${block.steps.map(
        ({ text, section: { rung } }, i) =>
          html`<p><b>${i + 1}. ${rungText(rung)}.</b> ${text as string | undefined}</p>
            ${picture(pictureAt(step++), rung)}`,
      )}`;
    return plain(block);
  });
  const when = marketTime.slice(0, 16).replace("T", " ");
  return html`<p style="color:#57544C;font-size:13px">
      ${EDITION_KINDS[kind].name}, edition ${number}, market time ${when} UTC, by ${author}
    </p>
    <h1 style="font:600 26px ${SERIF};margin:4px 0 12px">${title}</h1>
    ${parts}`;
}

const heading = (text: string) =>
  html`<h2 style="font:600 19px ${SERIF};border-top:2px solid ${INK};padding-top:8px;margin:22px 0 6px">${text}</h2>`;

const picture = (address: string | undefined, name: string) =>
  address &&
  html`<img
    src="${address}"
    alt="Chart of ${name}. Its prices stand in the table."
    width="360"
    style="max-width:100%;height:auto;border:1px solid ${RULE}"
  />`;

/** A block that the desk filled, as its text: the first two lines are its name and the rule under it. */
function plain(block: FrozenBlock): Html {
  const [title = "", , ...lines] = textOfBlock(block).split("\n");
  if (block.kind === "risk") return html`<p style="color:#57544C;font-size:13px">${block.text}</p>`;
  return html`${title ? heading(title) : undefined}${lines.map((line) => html`<p style="margin:4px 0">${line}</p>`)}`;
}

function market({ section, words: said, changed }: Extract<FrozenBlock, { kind: "market" }>, address?: string): Html {
  const { horizons = [], scenarios } = section;
  const news = changed && [
    ...((changed.calls as string[] | undefined) ?? []),
    ...((changed.levels as string[] | undefined) ?? []),
  ];
  const view = horizons.map(({ horizon, direction }) => `${horizon} ${direction}`).join("; ");
  const since =
    news && news.length > 0
      ? html`<p style="color:#57544C">Since edition ${changed.since}: ${news.join(" ")}</p>`
      : undefined;
  return html`${heading(`${section.market.name}, ${rungText(section.rung).toLowerCase()}`)}
  ${view === "" ? undefined : html`<p>The view: ${view}.</p>`} ${since} ${said ? words(said) : undefined}
  ${picture(address, section.market.name)}
  ${(section.studies ?? []).map(({ name, says }) => html`<p style="margin:2px 0"><b>${name}</b> ${says}.</p>`)}
  ${scenarios.filter(Boolean).map((scenario) => call(callText(scenario, section)))} ${levels(section)}`;
}

/** A call: its title, and under it what it says. */
function call(text: string): Html {
  const [title, ...lines] = text.split("\n");
  return html`<p style="margin:12px 0 2px;color:#A02B3C;font:600 16px ${SERIF}">${title}</p>
    ${lines.map((line) => html`<p style="margin:2px 0">${line}</p>`)}`;
}

const CELL = `border-bottom:1px solid ${RULE};padding:3px 12px 3px 0;text-align:left`;

function levels({ levels: lines, market: facts }: FrozenSection): Html | undefined {
  const seen = ((lines as FrozenSection["levels"] | undefined) ?? []).filter(Boolean);
  if (seen.length === 0) return undefined;
  const rows = seen.map(
    (line) =>
      html`<tr>
        <td style="${CELL};white-space:nowrap">${bandText(line, facts)}</td>
        <td style="${CELL}">${levelText(line)}</td>
        <td style="${CELL};white-space:nowrap">${percentText(line.distance)}</td>
      </tr>`,
  );
  return html`<table style="border-collapse:collapse;margin-top:10px;font-size:14px">
    <tbody>
      ${rows}
    </tbody>
  </table>`;
}

const words = ({ content }: Words): Html => html`${content.map(node)}`;

function node(one: WordsNode): Html {
  switch (one.type) {
    case "heading":
      return html`<h3 style="font:600 17px ${SERIF};margin:14px 0 4px">${(one.content ?? []).map(inline)}</h3>`;
    case "paragraph":
      return html`<p style="font:16px/1.5 ${SERIF};margin:0 0 10px">${(one.content ?? []).map(inline)}</p>`;
    case "blockquote":
      return html`<blockquote style="margin:0 0 10px;padding-left:12px;border-left:2px solid ${RULE}">
        ${one.content.map(node)}
      </blockquote>`;
    case "table":
      return html`<table style="border-collapse:collapse;margin:0 0 10px">
        <tbody>
          ${one.content.map(
            (row) =>
              html`<tr>
                ${row.content.map(
                  (cell) =>
                    html`<td
                      style="border-bottom:1px solid ${RULE};padding:3px 12px 3px 0;${
                        cell.type === "tableHeader" ? "font-weight:600" : ""
                      }"
                    >
                      ${cell.content.map((line) => (line.content ?? []).map(inline))}
                    </td>`,
                )}
              </tr>`,
          )}
        </tbody>
      </table>`;
    default: {
      const items = one.content.map((item) => html`<li>${item.content.map(node)}</li>`);
      return one.type === "bulletList"
        ? html`<ul>
            ${items}
          </ul>`
        : html`<ol>
            ${items}
          </ol>`;
    }
  }
}

function inline(one: Inline): Html {
  if (one.type === "hardBreak") return html`<br />`;
  if (one.type === "chip") return html`<b>${(one.attrs.text as string | undefined) ?? "[for other plans]"}</b>`;
  return (one.marks ?? []).reduce<Html>(
    (inner, mark) => {
      if (mark.type === "bold") return html`<b>${inner}</b>`;
      return mark.type === "italic" ? html`<i>${inner}</i>` : html`<a href="${mark.attrs.href}">${inner}</a>`;
    },
    html`${one.text}`,
  );
}
