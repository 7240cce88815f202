import { createTransport, type Transporter } from "nodemailer";
import { Failure } from "../failure.ts";
import { readSettings } from "../settings.ts";
import { html, type Html } from "../readers/html.ts";
import type { Letter } from "./compose.ts";
import { returnAddress } from "./returnPath.ts";
import { mailDomain, siteAddress, unsubscribeAddress } from "./links.ts";

/** Whom a mail is to. */
export interface Addressee {
  id: string;
  name: string;
  email: string;
}

/** A fault of the other side, told apart by whether trying again makes sense. */
export class MailFault extends Error {
  constructor(
    message: string,
    readonly final: boolean,
  ) {
    super(message);
  }
}

let transport: { url: string; open: Transporter } | undefined;

/** Connections at once to whoever takes the mail, each used again and again. */
const CONNECTIONS = 5;

function transporter(): Transporter {
  const url = readSettings().COMPASS_SMTP;
  if (!url) throw new Failure("mail", "Nobody takes mail: COMPASS_SMTP says whom it is handed to.", { status: 503 });
  if (transport?.url !== url) {
    transport?.open.close();
    const { hostname, port, protocol, username, password } = new URL(url);
    transport = {
      url,
      open: createTransport({
        ...{ host: hostname, port: Number(port) || 25, secure: protocol === "smtps:" },
        ...(username ? { auth: { user: decodeURIComponent(username), pass: decodeURIComponent(password) } } : {}),
        ...{ pool: true, maxConnections: CONNECTIONS, maxMessages: 10_000 },
        ...{ connectionTimeout: 5_000, greetingTimeout: 5_000, socketTimeout: 20_000 },
        // A letter is what it says: nothing of it is fetched from a file or an address.
        ...{ disableFileAccess: true, disableUrlAccess: true },
      }),
    };
  }
  return transport.open;
}

/** Whether there is somebody who takes mail. */
export const takesMail = (): boolean => readSettings().COMPASS_SMTP !== undefined;

export function closeMail(): void {
  transport?.open.close();
  transport = undefined;
}

/**
 * Hands a letter on, from the desk by its name (`house`). `name` is the same whenever the same is sent, and so is its
 * Message-ID.
 */
export async function sendLetter(
  name: string,
  { id, name: called, email }: Addressee,
  letter: Letter,
  house: string,
): Promise<void> {
  const end = unsubscribeAddress(id);
  const domain = mailDomain();
  // An address with numbers for its name is no mail domain.
  const sender = domain.includes(".") && !/^[\d.]+$/.test(domain) ? domain : "compass.example";
  try {
    await transporter().sendMail({
      envelope: { from: returnAddress(id, sender), to: email },
      messageId: `<${name.replace(/[^A-Za-z0-9]+/g, ".")}@${domain}>`,
      from: { name: house, address: `desk@${sender}` },
      to: { name: called, address: email },
      subject: letter.subject.replace(/[\r\n]+/g, " "),
      text: `${letter.text}\n\n--\n${WHY} No more of it: ${end}\n`,
      html: framed(letter.html, end).text,
      attachments: letter.pictures.map(({ cid, filename, content }) => ({
        ...{ cid, filename, content, contentType: "image/png", contentDisposition: "inline" as const },
      })),
      headers: {
        "List-Id": `${listName(house)} <outlooks.${domain}>`,
        "List-Unsubscribe": `<${end}>`,
        "List-Unsubscribe-Post": "List-Unsubscribe=One-Click",
        "Auto-Submitted": "auto-generated",
      },
    });
  } catch (error) {
    const { responseCode, message } = error as { responseCode?: number; message?: string };
    throw new MailFault(message ?? "The mail was not taken.", responseCode !== undefined && responseCode >= 500);
  }
}

/** The name of a list is a phrase of plain letters (RFC 2919, section 3): others are left out. */
const listName = (house: string) => house.replace(/[^A-Za-z0-9 .-]/g, "").trim() || "Outlooks";

const WHY = "You are sent this because you chose so.";

const PAGE = [
  "max-width:640px;margin:0 auto;padding:16px;background:#F6F1E6;color:#23262B",
  "font:15px/1.45 Helvetica, Arial, sans-serif",
].join(";");
const FOOT = "border-top:1px solid #D8CFBC;padding-top:8px;margin-top:20px;color:#57544C;font-size:12px";

/** A letter as a page of a mail, with how to end it. */
const framed = (body: Html, end: string): Html =>
  html`<div style="${PAGE}">
    ${body}
    <p style="${FOOT}">
      ${WHY} <a href="${end}">No more of it</a>, or <a href="${siteAddress()}/settings">other choices</a>.
    </p>
  </div>`;
