import { connect } from "node:net";
import { CommandFault } from "../../desk/timing.ts";
import type { HealthWatch } from "./target.ts";
import { PASSWORD, WHO } from "./world.ts";

/** An attack that was once successful, and what has to come of it now. */
interface Attack {
  name: string;
  run(at: Attacker): Promise<string>;
}

/** Asks as one who is signed in. */
export interface Attacker {
  address: string;
  analyst: string;
  subscriber: string;
}

const origin = ({ address }: Attacker) => new URL(address).origin;

async function statuses(count: number, ask: (n: number) => Promise<Response>): Promise<string> {
  const all = await Promise.all(
    Array.from({ length: count }, async (_, n) => {
      const response = await ask(n);
      await response.arrayBuffer();
      return response.status;
    }),
  );
  return [...new Set(all)]
    .sort()
    .map((status) => `${all.filter((one) => one === status).length} x ${status}`)
    .join(", ");
}

const get = (at: Attacker, path: string, cookie = at.analyst) =>
  fetch(new URL(path, at.address), { headers: { Cookie: cookie }, redirect: "manual" });
const post = (at: Attacker, path: string, body: BodyInit, type: string, cookie = at.analyst) =>
  fetch(new URL(path, at.address), {
    method: "POST",
    headers: { Cookie: cookie, Origin: origin(at), "Content-Type": type },
    body,
    redirect: "manual",
  });

/** Announces a body without end and counts how much of it is taken. */
function flood(at: Attacker, path: string, bytes: number): Promise<string> {
  const { hostname, port } = new URL(at.address);
  return new Promise((done) => {
    const socket = connect(Number(port), hostname);
    let [sent, said] = [0, ""];
    const part = Buffer.alloc(1 << 16, 97);
    const more = () => {
      while (sent < bytes && !socket.destroyed) {
        sent += part.length;
        if (!socket.write(part)) return;
      }
    };
    socket.on("data", (chunk) => (said += chunk.toString()));
    socket.on("drain", more);
    const end = () =>
      done(`${said.split(" ")[1] ?? "closed"} after ${(sent / 1e6).toFixed(0)} of ${(bytes / 1e6).toFixed(0)} MB`);
    socket.on("close", end);
    socket.on("error", () => {});
    setTimeout(() => socket.destroy(), 3_000).unref();
    socket.write(
      `POST ${path} HTTP/1.1\r\nHost: ${hostname}:${port}\r\nOrigin: ${origin(at)}\r\nContent-Type: ` +
        `application/x-www-form-urlencoded\r\nContent-Length: ${bytes}\r\n\r\n`,
    );
    more();
  });
}

const VIEW = "/descent/tin/picture?rung=P1D&format=png";

const ATTACKS: Attack[] = [
  {
    name: "a picture of what lies far below everything",
    run: (at) => statuses(4, () => get(at, `${VIEW}&from=2940&to=2990&bottom=1&top=1.5`)),
  },
  {
    name: "the published outlook with a note far out",
    run: async (at) =>
      `${await statuses(1, () => get(at, "/outlooks/1", at.subscriber))}; picture ` +
      `${await statuses(1, () => get(at, "/outlooks/1/picture/0.png", at.subscriber))}`,
  },
  {
    name: "120 pictures at once",
    run: (at) => statuses(120, (n) => get(at, `${VIEW}&from=${2500 + n}&to=3000&bottom=50&top=900`)),
  },
  {
    name: "views that are none",
    run: (at) =>
      statuses(6, (n) =>
        get(
          at,
          VIEW +
            [
              "&from=0&to=100&bottom=400&top=400.0000000000001",
              "&from=0&to=100&log=yes&bottom=1e-300&top=1e300",
              "&from=1e300&to=1e301&bottom=1&top=2",
              "&from=0&to=1e9&bottom=1&top=2",
              "&from=NaN&to=1&bottom=1&top=2",
              "&from=0&to=100&bottom=-1e308&top=1e308",
            ][n],
        ),
      ),
  },
  {
    name: "a rung of 999 years",
    run: (at) =>
      statuses(3, (n) => get(at, [`/descent/tin?rung=P999Y`, "/bars/tin/P999Y", "/live?chart=tin%20P999Y"][n])),
  },
  { name: "300 MB to the sign-in", run: (at) => flood(at, "/sign-in", 300e6) },
  {
    name: "five of 480 MB",
    run: async (at) => (await Promise.all(Array.from({ length: 5 }, () => flood(at, "/uploads", 480e6)))).join("; "),
  },
  {
    name: "200,000 steps",
    run: (at) =>
      statuses(1, () =>
        post(
          at,
          "/descent/tin/steps",
          JSON.stringify({ steps: Array.from({ length: 200_000 }, () => 0) }),
          "application/json",
        ),
      ),
  },
  {
    name: "a calendar whose rule has no next time",
    run: (at) => {
      const form = new FormData();
      form.set("step", "import");
      form.set("name", "a.ics");
      form.set(
        "text",
        "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART:20260101T000000Z\r\n" +
          "RRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31\r\nSUMMARY:x\r\nEND:VEVENT\r\nEND:VCALENDAR",
      );
      return statuses(1, () =>
        fetch(new URL("/events", at.address), {
          method: "POST",
          headers: { Cookie: at.analyst, Origin: origin(at) },
          body: form,
        }),
      );
    },
  },
  {
    name: "60 MB of lines that are no bars",
    run: async (at) => {
      const sent = await post(
        at,
        "/uploads?name=a.csv",
        `time,open,high,low,close\n${"1,2\n".repeat(15_000_000)}`,
        "text/csv",
      );
      const { upload } = (await sent.json()) as { upload?: string };
      return `${sent.status}; read ${await statuses(1, () => get(at, `/library/import.data?upload=${upload}`))}`;
    },
  },
  {
    name: "relations of a market made of others, 40 at once",
    run: (at) =>
      statuses(40, (n) => get(at, `/descent/tin-less-lead/relation?to=tin&at=${Date.UTC(2026, 8, 1) + n * 1000}`)),
  },
  {
    name: "200 wrong passwords at once",
    run: (at) =>
      statuses(200, () =>
        post(
          at,
          "/sign-in",
          new URLSearchParams({ email: WHO.subscriber, password: "wrong" }),
          "application/x-www-form-urlencoded",
          "",
        ),
      ),
  },
  {
    name: "the owner of that address on a device of hers",
    run: (at) =>
      statuses(1, () =>
        post(
          at,
          "/sign-in",
          new URLSearchParams({ email: WHO.subscriber, password: PASSWORD }),
          "application/x-www-form-urlencoded",
          at.subscriber,
        ),
      ),
  },
  {
    name: "a way out of the site after signing in",
    run: async (at) => {
      const response = await post(
        at,
        "/sign-in?then=/%09/evil.example",
        new URLSearchParams({ email: WHO.analyst, password: PASSWORD }),
        "application/x-www-form-urlencoded",
        at.analyst,
      );
      return `${response.status} to ${response.headers.get("Location")}`;
    },
  },
  {
    name: "485 streams",
    run: async (at) => {
      const over = new AbortController();
      // Kept until all are there: an answer nobody holds any more is closed by the client.
      const all = await Promise.all(
        Array.from({ length: 485 }, () =>
          fetch(new URL("/live?chart=tin%20P1D", at.address), { headers: { Cookie: at.analyst }, signal: over.signal }),
        ),
      );
      const told =
        `${all.filter(({ status }) => status === 200).length} open, ` +
        `${all.filter(({ status }) => status === 429).length} refused`;
      over.abort();
      return told;
    },
  },
  {
    name: "bodies of a wrong kind",
    run: (at) =>
      statuses(6, (n) =>
        post(
          at,
          ["/sign-in", "/descent/tin/steps", "/library/derive", "/events", "/rungs", "/editions"][n],
          ["{", "null", "%", "\0", "--x", "a=b"][n],
          [
            "application/json",
            "application/json",
            "text/plain",
            "multipart/form-data; boundary=y",
            "multipart/form-data",
            "application/x-www-form-urlencoded",
          ][n],
        ),
      ),
  },
  {
    name: "JSON nested fifty thousand deep",
    run: (at) =>
      statuses(1, () =>
        post(at, "/descent/tin/steps", `{"steps":${"[".repeat(50_000)}${"]".repeat(50_000)}}`, "application/json"),
      ),
  },
  {
    name: "a format named constructor",
    run: (at) =>
      statuses(1, () => get(at, "/descent/tin/picture?format=constructor&rung=P1D&from=0&to=10&bottom=1&top=2")),
  },
];

/** Runs every attack in turn; what came of each. */
export async function runNamed(at: Attacker, watch: HealthWatch, say: (line: string) => void): Promise<void> {
  for (const { name, run } of ATTACKS) {
    const began = performance.now();
    const outcome = await run(at).catch((error: unknown) => {
      throw new CommandFault(
        `${name}: ${String(error)} ${error instanceof Error && error.cause ? String(error.cause) : ""}`,
      );
    });
    say(
      `${name}: ${outcome}, ${((performance.now() - began) / 1000).toFixed(1)} s, health after ` +
        `${watch.lately().toFixed(0)} ms at most`,
    );
    if (/\b500\b(?! of)/.test(outcome)) throw new CommandFault(`${name} was answered with 500.`);
  }
}
