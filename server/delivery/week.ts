import { canSee } from "#core/edition/parts";
import { EDITION_KINDS } from "#core/edition/blocks";
import { lastSunday } from "#core/readers/week";
import type { Sight } from "../accounts/plans.ts";
import { announce } from "../outbox/outbox.ts";
import { changesSeen } from "../readers/calls.ts";
import { html } from "../readers/html.ts";
import { editionsSeen } from "../readers/seen.ts";
import type { Letter } from "./compose.ts";
import { outlookAddress, siteAddress } from "./links.ts";

const DAY = 86_400_000;
const MOST_CHANGES = 40;

let announced = 0;

/** Leaves the week that ended in the outbox, once, whoever looks; of one that ended over a day ago nothing is said. */
export async function announceWeek(now: number): Promise<void> {
  const until = lastSunday(now);
  if (until === announced || now - until > DAY) return;
  await announce([{ kind: "digest", name: `week ${new Date(until).toISOString().slice(0, 10)}`, what: { until } }]);
  announced = until;
}

/** A week as somebody's plan shows it: what was published, and what became of calls. */
export async function letterOfWeek(until: number, sight: Sight): Promise<Letter> {
  const from = until - 7 * DAY;
  const editions = (await editionsSeen(sight)).filter((one) => one.from > from && one.from <= until);
  const changes = canSee("scenarios", sight.parts)
    ? await changesSeen(sight, until, { limit: MOST_CHANGES, from })
    : [];
  const told = editions.map(({ number, kind, title }) => ({ number, line: `${EDITION_KINDS[kind].name}: ${title}` }));
  const became = changes.map(({ market, title, says }) => `${market.name}, ${title}. ${says}`);
  const none = "Nothing was published this week that your plan shows.";
  return {
    subject: `The week to ${new Date(until).toISOString().slice(0, 10)}`,
    text: [
      ...(told.length > 0 ? told.map(({ number, line }) => `${line}\n  ${outlookAddress(number)}`) : [none]),
      ...(became.length > 0 ? ["\nWhat became of calls", ...became] : []),
      `\nAll of it: ${siteAddress()}/archive`,
    ].join("\n"),
    html: html`<h1>The week</h1>
      ${
        told.length > 0
          ? html`<ul>
              ${told.map(({ number, line }) => html`<li><a href="${outlookAddress(number)}">${line}</a></li>`)}
            </ul>`
          : html`<p>${none}</p>`
      }
      ${
        became.length > 0
          ? html`<h2>What became of calls</h2>
              <ul>
                ${became.map((line) => html`<li>${line}</li>`)}
              </ul>`
          : ""
      }
      <p><a href="${siteAddress()}/archive">All of it</a></p>`,
    ...{ pictures: [], address: `${siteAddress()}/archive` },
  };
}
