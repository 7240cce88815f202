import type { RouteConfigEntry } from "@react-router/dev/routes";
import { expect, test, type APIRequestContext, type Browser } from "@playwright/test";
import routes from "../app/routes.ts";
import { may, type Right, type Role } from "../core/readers/roles.ts";
import type { PEOPLE } from "../demo/people.ts";
import { hydrated, signIn } from "./desk.ts";

/** Who may open an address: anybody, whoever is signed in, or who has a right. */
type Guard = "anybody" | "person" | Right;

/** The layouts that let people pass, by their files. */
const GUARDED_BY: Record<string, Guard> = {
  "places/desk.tsx": "desk",
  "places/desk-data.ts": "desk",
  "places/editions/asReader.ts": "desk",
  "places/people/owner.tsx": "own",
  "places/people/owner-data.ts": "own",
  "places/reviews/reviewers.ts": "review",
  "places/questions/moderators.ts": "moderate",
  "places/reader/reader.tsx": "person",
  "places/reader/reader-data.ts": "person",
};

interface Address {
  path: string;
  guard: Guard;
}

/** Every address of the site, as its table of routes has them. */
function addressesIn(entries: readonly RouteConfigEntry[], base = "", guard: Guard = "anybody"): Address[] {
  return entries.flatMap(({ path = "", file, children }): Address[] => {
    // A layout within another asks for more.
    const within = GUARDED_BY[file] ?? guard;
    const here = [base, path].filter(Boolean).join("/");
    const isPlace = path !== "" && path !== "*";
    return [...(isPlace ? [{ path: here, guard: within }] : []), ...addressesIn(children ?? [], here, within)];
  });
}

const NOBODYS = "00000000-0000-4000-8000-000000000000";
const FILLED: Record<string, string> = {
  ":market": "sable-tin",
  ":rung": "P1D",
  ":number": "1",
  ":section": "0.png",
  ":draft": NOBODYS,
  ":import": NOBODYS,
  ":mail": NOBODYS,
  ":token": "x".repeat(43),
  ":file": "outlooks.atom",
  ":voice": "0".repeat(64),
};
const filled = (path: string) => `/${path.replace(/:[a-z]+/g, (name) => FILLED[name] ?? name)}`;

/** A stream does not end: who may not open it is told so, and who may is not asked to wait. */
const isStream = (path: string) => path === "live";

/** Who asks: nobody, and somebody of each role. */
const WHO = {
  nobody: undefined,
  subscriber: "subscriber",
  reviewer: "reviewer",
  moderator: "moderator",
  analyst: "analyst",
  owner: "owner",
} as const satisfies Record<string, Role | undefined>;
type Who = keyof typeof WHO;

function letsIn(guard: Guard, who: Who): boolean {
  const role = WHO[who];
  if (guard === "anybody" || role === undefined) return guard === "anybody";
  return guard === "person" || may({ role }, guard);
}

async function requestOf(
  browser: Browser,
  baseURL: string,
  who: keyof typeof PEOPLE | "nobody",
): Promise<APIRequestContext> {
  const context = await browser.newContext({ baseURL, extraHTTPHeaders: { Origin: baseURL } });
  const page = await context.newPage();
  if (who !== "nobody") await signIn(page, who);
  return page.request;
}

test("every address lets in whom it is for, in each role, as a page, as data and by what it is sent", async ({
  page,
  browser,
}) => {
  await signIn(page, "owner");
  await page.goto("/plans");
  const { origin } = new URL(page.url());
  const addresses = addressesIn(routes);
  expect(addresses.length).toBeGreaterThan(70);
  // A parameter that is not filled in would ask for another address than it is there for.
  expect(addresses.map(({ path }) => filled(path)).filter((path) => path.includes(":"))).toEqual([]);
  let asked = 0;
  for (const who of Object.keys(WHO) as Who[]) {
    const request = await requestOf(browser, origin, who);
    for (const { path, guard } of addresses) {
      const isLetIn = letsIn(guard, who);
      if (isLetIn && isStream(path)) continue;
      // A page that lets in is the same work for everybody: it is looked at once, and its data each time.
      const isPage = !isLetIn || who === "owner";
      for (const form of [...(isPage ? [filled(path)] : []), `${filled(path)}.data`]) {
        const answer = await request.get(form, { maxRedirects: 0 });
        asked++;
        const told = `${who} at ${form}`;
        if (isLetIn) {
          expect(answer.status(), told).toBeLessThan(500);
          if (guard !== "person") expect(answer.status(), told).not.toBe(403);
          continue;
        }
        // Who is not signed in is sent to the door; by data that is a redirect within the answer.
        const expected = who === "nobody" ? [302, 202] : [403];
        expect(expected, told).toContain(answer.status());
      }
      if (isLetIn) continue;
      const posted = await request.post(filled(path), { form: { step: "x" }, maxRedirects: 0 });
      asked++;
      expect([401, 403, 405], `${who} sending to ${path}`).toContain(posted.status());
    }
  }
  process.stdout.write(`\n${addresses.length} addresses, ${Object.keys(WHO).length} roles: ${asked} requests\n`);
});

interface Leaf {
  path: string;
  see: string;
  content: unknown;
}

test("no address tells a reader a price of an order that their plan does not show", async ({ page, browser }) => {
  await signIn(page, "owner");
  await page.goto("/plans");
  await hydrated(page);
  const { origin } = new URL(page.url());
  const free = page.getByRole("form", { name: "Free" });
  await free.getByLabel("Hours later").fill("0");
  await free.getByRole("button", { name: "Save Free" }).click();
  await expect(page.getByRole("status").filter({ hasText: /Free is saved/ })).toBeVisible();
  await page.goto("/people");
  await page.getByLabel("Plan of Nell Arden").selectOption("free");
  await page.getByRole("button", { name: "Put Nell Arden on this plan" }).click();
  await expect(page.getByLabel("Plan of Nell Arden")).toHaveValue("free");

  const editions: { leaves: Leaf[] }[] = [];
  for (let number = 1; ; number++) {
    const answer = await page.request.get(`/outlooks/${number}/edition.json`);
    if (answer.status() === 404) break;
    editions.push((await answer.json()) as { leaves: Leaf[] });
  }
  const leaves = editions.flatMap(({ leaves: own }) => own);
  const numbers = (of: readonly Leaf[]) => new Set(JSON.stringify(of.map(({ content }) => content)).match(/\d+\.\d+/g));
  // Bars may have been at any price: such a one is no secret.
  const shown = numbers(leaves.filter(({ see }) => !/orders|scenarios|counts/.test(see)));
  const orders = numbers(leaves.filter(({ see }) => see === "scenarios+orders"));
  const secrets = [...orders].filter((text) => text.length > 5 && ![...shown].some((one) => one.startsWith(text)));
  expect(secrets.length).toBeGreaterThan(10);

  const request = await requestOf(browser, origin, "newcomer");
  const places = addressesIn(routes).filter(({ guard, path }) => guard === "person" && !path.startsWith("account"));
  const asked = new Set(
    places.flatMap(({ path }) =>
      path.includes(":number")
        ? editions.map((_one, i) =>
            filled(path)
              .replace("/1", `/${i + 1}`)
              .replace(".png", ".svg"),
          )
        : [filled(path)],
    ),
  );
  for (const words of secrets.slice(0, 10)) asked.add(`/archive?words=${words}`);
  let read = 0;
  for (const address of asked) {
    const forms = address.includes("?") || /\.(json|svg)$/.test(address) ? [address] : [address, `${address}.data`];
    for (const form of forms) {
      const answer = await request.get(form);
      if (!answer.ok()) continue;
      read++;
      const text = (await answer.text()).replaceAll(/words=[\d.]+|value="[\d.]+"/g, "");
      for (const secret of secrets)
        if (!form.includes(secret)) expect(text.includes(secret), `${secret} at ${form}`).toBe(false);
    }
  }
  process.stdout.write(`\n${read} answers read, ${secrets.length} prices looked for\n`);
  expect(read).toBeGreaterThan(40);
  await page.getByLabel("Plan of Nell Arden").selectOption("member");
  await page.getByRole("button", { name: "Put Nell Arden on this plan" }).click();
  await expect(page.getByLabel("Plan of Nell Arden")).toHaveValue("member");
});
