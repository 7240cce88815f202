import { Feed } from "feed";
import { sightOf } from "../accounts/plans.ts";
import { findToken } from "../accounts/tokens.ts";
import { Account } from "../database/models.ts";
import { notFound } from "../failure.ts";
import { mastheadOf } from "../publishing/deskSettings.ts";
import { archiveSeen } from "../readers/archive.ts";
import { asHtml } from "../readers/asHtml.ts";
import { expectedAsCalendar } from "../readers/calendar.ts";
import { escaped } from "../readers/html.ts";
import { seeEdition } from "../readers/seen.ts";
import { outlookAddress, siteAddress } from "./links.ts";

/** The forms a private feed has, by the name of its file, with their types. */
export const FEED_FILES = {
  "outlooks.atom": "application/atom+xml; charset=utf-8",
  "outlooks.json": "application/feed+json; charset=utf-8",
  "calendar.ics": "text/calendar; charset=utf-8",
} as const;
export type FeedFile = keyof typeof FEED_FILES;

/** Editions in a feed, and days of its calendar. */
const EDITIONS = 20;
const DAYS = 30;

/** What somebody's private feed says: what their plan shows, asked anew each time. */
export async function feedOf(token: string, file: string): Promise<{ body: string; type: string }> {
  const row = await findToken("feed", token);
  const account = row?.accountId ? await Account.findByPk(row.accountId) : null;
  if (!account || account.closedAt !== null || !Object.hasOwn(FEED_FILES, file)) throw notFound("feed");
  const sight = await sightOf(account);
  const type = FEED_FILES[file as FeedFile];
  if (file === "calendar.ics") return { body: await expectedAsCalendar(sight, DAYS), type };
  const now = Date.now();
  const open = (await archiveSeen({ words: "", page: 1 }, sight, now)).editions.filter(({ isOpen }) => isOpen);
  const address = `${siteAddress()}/outlooks`;
  const house = (await mastheadOf()).name;
  // Its own address is a secret: a feed does not say it.
  const feed = new Feed({
    ...{ id: address, link: address, title: `${house}: outlooks`, copyright: "", generator: "Even Compass" },
    ...(open[0] ? { updated: new Date(open[0].publishedAt) } : { updated: new Date(0) }),
  });
  // Atom takes a title for HTML (RFC 4287, 3.1.1.2), JSON Feed for text.
  const titled = (title: string) => (file === "outlooks.atom" ? escaped(title) : title);
  for (const { number, title, publishedAt } of open.slice(0, EDITIONS)) {
    const { content } = await seeEdition(String(number), sight, now);
    const link = outlookAddress(number);
    feed.addItem({
      ...{ id: link, link, title: titled(title), date: new Date(publishedAt), published: new Date(publishedAt) },
      author: [{ name: content.author }],
      content: asHtml(content, () => undefined).text,
    });
  }
  return { body: file === "outlooks.atom" ? feed.atom1() : feed.json1(), type };
}
