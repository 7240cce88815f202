import { readdir, readFile } from "node:fs/promises";
import { join, resolve } from "node:path";
import { simpleParser, type ParsedMail } from "mailparser";
import { notFound } from "../failure.ts";
import { readSettings } from "../settings.ts";

/** A mail in the stand-in's folder. */
export interface MailLine {
  id: string;
  to: string;
  subject: string;
  at: number;
}

export interface MailRead extends MailLine {
  text: string;
  /** Its HTML with the pictures in it as data; empty where it has none. */
  html: string;
  headers: [name: string, value: string][];
}

/** Mails that are listed: the newest. */
const MOST = 60;

const folder = () => resolve(readSettings().COMPASS_VAR, "mailbox");

/** The newest mails that were taken by the stand-in for the world's mail, the newest first. */
export async function mailsTaken(): Promise<MailLine[]> {
  const names = await readdir(folder()).catch(() => []);
  const newest = names
    .filter((name) => name.endsWith(".eml"))
    .sort()
    .reverse()
    .slice(0, MOST);
  return Promise.all(newest.map(async (name) => lineOf(name.slice(0, -4), await parsed(name.slice(0, -4)))));
}

export async function mailTaken(id: string): Promise<MailRead> {
  const mail = await parsed(id);
  return {
    ...lineOf(id, mail),
    text: mail.text ?? "",
    html: typeof mail.html === "string" ? mail.html : "",
    headers: mail.headerLines.map(({ key, line }) => [key, line.slice(key.length + 1).trim()]),
  };
}

async function parsed(id: string): Promise<ParsedMail> {
  if (!/^[0-9A-Za-z-]{20,80}$/.test(id)) throw notFound("mail");
  const bytes = await readFile(join(folder(), `${id}.eml`)).catch(() => undefined);
  if (!bytes) throw notFound("mail");
  return simpleParser(bytes);
}

function lineOf(id: string, { to, subject, date }: ParsedMail): MailLine {
  const first = Array.isArray(to) ? to[0] : to;
  return { id, to: first?.text ?? "", subject: subject ?? "", at: date?.getTime() ?? 0 };
}
