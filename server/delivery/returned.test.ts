import { randomUUID } from "node:crypto";
import { createTransport } from "nodemailer";
import { describe, expect, it } from "vitest";
import { CHOICES } from "#core/readers/choices";
import { reportOn, startMailbox } from "../../commands/desk/mailbox.ts";
import { withMailbox } from "../../commands/desk/mailTesting.ts";
import { AuditRow } from "../database/models.ts";
import { choicesOf, saveChoices } from "../readers/choices.ts";
import { forgetSettings } from "../settings.ts";
import { aReader, withTables } from "../testing.ts";
import { html } from "../readers/html.ts";
import { accountOfReturn, returnAddress } from "./returnPath.ts";
import { listenForReturns, readReturned, takeReturned } from "./returned.ts";
import { closeMail, sendLetter } from "./send.ts";

withTables();

const { folder } = withMailbox();

describe("the address mail comes back to", () => {
  it("is of one account, fits what mail allows, and is known in either case", () => {
    const id = randomUUID();
    const address = returnAddress(id, "compass.example");
    expect(address.split("@")[0].length).toBeLessThanOrEqual(64);
    expect(accountOfReturn(address)).toBe(id);
    expect(accountOfReturn(address.toUpperCase())).toBe(id);
  });

  it("is nobody's where it was not made here", () => {
    const [one, two] = [returnAddress(randomUUID(), "a.example"), returnAddress(randomUUID(), "a.example")];
    const forged = `${one.slice(0, 38)}${two.slice(38)}`;
    for (const address of [forged, "desk@a.example", "", "back-x-y@a.example", `${one.slice(0, 50)}@a.example`])
      expect(accountOfReturn(address)).toBeUndefined();
  });
});

/** A report as mail houses write it, its parts named by a boundary of theirs (RFC 3464, appendix E, from memory). */
const FROM_THE_STANDARD = `From: Mail Delivery Subsystem <MAILER-DAEMON@cs.example>
Subject: Returned mail: Cannot send message for 5 days
To: <owner-info-mime@cs.example>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status;
 boundary="RAA14128.773615765/CS.EXAMPLE"

--RAA14128.773615765/CS.EXAMPLE

The original message was received at Sat, 2 Jul 1994 17:10:28 -0400

--RAA14128.773615765/CS.EXAMPLE
content-type: message/delivery-status

Reporting-MTA: dns; cs.example

Original-Recipient: rfc822;louisl@larry.slip.example
Final-Recipient: rfc822;louisl@larry.slip.example
Action: failed
Status: 4.0.0
Diagnostic-Code: smtp; 426 connection timed out
Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400

--RAA14128.773615765/CS.EXAMPLE--
`;

/** RFC 5965, appendix B.1 (from memory, shortened). */
const COMPLAINT = `From: <abusedesk@example.com>
Subject: FW: Earn money
To: <abuse@example.net>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=feedback-report;
     boundary="part1_13d.2e68ed54_boundary"

--part1_13d.2e68ed54_boundary
Content-Type: text/plain; charset="US-ASCII"

This is an email abuse report.

--part1_13d.2e68ed54_boundary
Content-Type: message/feedback-report

Feedback-Type: abuse
User-Agent: SomeGenerator/1.0
Version: 1

--part1_13d.2e68ed54_boundary--
`;

describe("a mail that came back", () => {
  it("is a failure for good by the class of its status, and nothing where it is only late", async () => {
    const of = (action: string, status: string) =>
      readReturned(reportOn("a@b.example", "c@d.example", action, status, "no"));
    expect(await of("failed", "5.1.1")).toEqual({ what: "failed", why: "smtp; no" });
    expect((await of("delayed", "4.4.1")).what).toBe("other");
    expect((await of("delivered", "2.0.0")).what).toBe("other");
    expect((await readReturned(FROM_THE_STANDARD)).what).toBe("other");
    expect(await readReturned(FROM_THE_STANDARD.replace("4.0.0", "5.0.0"))).toEqual({
      ...{ what: "failed", why: "smtp; 426 connection timed out" },
    });
  });

  it("is a complaint where whoever got it says so", async () => {
    expect(await readReturned(COMPLAINT)).toEqual({ what: "complained", why: "abuse" });
    expect((await readReturned(COMPLAINT.replace("abuse\nUser", "not-spam\nUser"))).what).toBe("other");
  });

  it("says nothing where it is no report: an answer that somebody is away, or anything else", async () => {
    for (const text of [
      "",
      "Subject: I am away\n\nUntil Monday. Action: failed\nStatus: 5.1.1",
      "\0\0\0",
      "x".repeat(200_000),
    ])
      expect((await readReturned(text)).what).toBe("other");
  });

  it("ends mail to that reader alone, is written down once, and counts until they choose mail again", async () => {
    const [gone, other] = [await aReader(), await aReader()];
    const report = reportOn("a@b.example", "c@d.example", "failed", "5.1.1", "550 nobody");
    expect(await takeReturned(gone.id, report)).toBe("failed");
    expect(await takeReturned(gone.id, report)).toBe("failed");
    expect(await choicesOf(gone.id)).toEqual({ ...CHOICES, mail: false, ended: "failed" });
    expect((await choicesOf(other.id)).mail).toBe(true);
    expect(await AuditRow.count({ where: { what: "mail ended" } })).toBe(1);
    await saveChoices(gone.id, { ...CHOICES, mail: true });
    expect(await choicesOf(gone.id)).toEqual(CHOICES);
    expect(await takeReturned(randomUUID(), report)).toBe("other");
  });

  it("comes from the stand-in to who listens for it, which takes no mail for anybody else", async () => {
    const listening = await listenForReturns("127.0.0.1", 0);
    const host = `127.0.0.1:${listening.port}`;
    const mailbox = await startMailbox(folder, 0, host);
    const before = process.env.COMPASS_SMTP;
    process.env.COMPASS_SMTP = mailbox.url;
    closeMail();
    forgetSettings();
    const reader = await aReader({ before: "moved" });
    const letter = { subject: "An outlook", text: "Words.", html: html`<p>Words.</p>`, pictures: [], address: "" };
    await sendLetter("one", { ...reader, email: `moved-${reader.id}@meridian.example` }, letter, "Even Compass");
    await expect.poll(async () => (await choicesOf(reader.id)).ended).toBe("failed");

    const outside = createTransport({ host: "127.0.0.1", port: listening.port, ignoreTLS: true });
    const hostile = { envelope: { from: "", to: "desk@compass.example" }, raw: COMPLAINT };
    await expect(outside.sendMail(hostile)).rejects.toMatchObject({ responseCode: 550 });
    outside.close();
    process.env.COMPASS_SMTP = before;
    closeMail();
    forgetSettings();
    await mailbox.close();
    await listening.close();
  });
});
