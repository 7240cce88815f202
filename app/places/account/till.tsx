import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Form, Link } from "react-router";
import { PAYMENTS, isRunning, type Payment } from "#core/readers/membership";
import { membershipOf } from "../../../server/accounts/memberships.ts";
import { findPlan, listPlans } from "../../../server/accounts/plans.ts";
import { isStandIn, sayPayment } from "../../../server/accounts/till.ts";
import { Account } from "../../../server/database/models.ts";
import { Failure, notFound } from "../../../server/failure.ts";
import { isReader } from "#core/readers/roles";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { Outcome } from "../../parts/Outcome.tsx";
import { membershipText } from "./membershipText.ts";
import type { Route } from "./+types/till.ts";

export const meta: Route.MetaFunction = () => [{ title: "The till - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const person = personIn(context);
    if (!isStandIn() || !isReader(person)) throw notFound("till");
    const [account, plans, held] = [
      await Account.findByPk(person.id, { attributes: ["plan"], rejectOnEmpty: true }),
      await listPlans(),
      await membershipOf(person.id),
    ];
    const nameOf = (id: string) => plans.find((plan) => plan.id === id)?.name ?? "a plan that is gone";
    return {
      own: nameOf(account.plan),
      forSale: plans.flatMap(({ id, name, price }) => (price === "" ? [] : [{ id, name, price }])),
      membership: held && {
        ...{ plan: held.plan, name: nameOf(held.plan), state: held.state, until: held.until },
        isRunning: isRunning(held, Date.now()),
      },
    };
  });
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const person = personIn(context);
    if (!isStandIn() || !isReader(person)) throw notFound("till");
    const form = await readForm(request);
    const kind = PAYMENTS.find((one) => one === textField(form, "kind"));
    if (!kind) throw new Failure("kind", "The till does no such thing.", { status: 400 });
    const { id, price } = await findPlan(textField(form, "plan"));
    if (price === "") throw new Failure("plan", "This plan is not for sale.", { status: 400 });
    await sayPayment(kind, person.id, id);
    return { said: SAID[kind] };
  });
}

const SAID: Record<Payment, string> = {
  trial: "The trial has begun.",
  paid: "It is paid.",
  failed: "A charge failed: there are seven days to mend that.",
  lapsed: "Nothing more is paid; it ended at once.",
  refunded: "What was paid is paid back; it ended at once.",
};

/** A stand-in for a payment house: what it would do is done by buttons, and told to the desk as it would tell it. */
export default function Till({ loaderData: { own, forSale, membership }, actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const said = actionData && "said" in actionData ? actionData.said : undefined;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 860, mx: "auto", px: 2, py: 3 }}>
      <Typography variant="h1">The till</Typography>
      <Typography sx={{ maxWidth: 620, mb: 1 }}>
        A stand-in for a payment house: nothing is charged. What one would do is done here by a button, and told to the
        desk by the same signed message.
      </Typography>
      <Outcome said={said} failure={failure} />
      <Typography>
        You read on the plan <strong>{own}</strong>.
        {membership && ` ${membership.name}: ${membershipText(membership)}.`}
      </Typography>
      {forSale.map(({ id, name, price }) => {
        const isOwn = membership?.plan === id && membership.isRunning;
        const buttons: [Payment, string][] = isOwn
          ? [
              ["paid", "Pay for 30 days more"],
              ["failed", "A charge fails"],
              ["lapsed", "Pay no more"],
              ["refunded", "Ask for it back"],
            ]
          : [
              ...(membership ? [] : [["trial", "Try it for 14 days"] as [Payment, string]]),
              ["paid", "Pay for 30 days"],
            ];
        return (
          <Form method="post" key={id} aria-label={name}>
            <input type="hidden" name="plan" value={id} />
            <Typography
              variant="h2"
              sx={{ borderTop: "1.5px solid", borderColor: "text.primary", pt: 1, mt: 3, mb: 1 }}
            >
              {name}, {price}
            </Typography>
            {own === name && !isOwn && <Typography sx={{ mb: 1 }}>You read on it without paying.</Typography>}
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
              {buttons.map(([kind, label], i) => (
                <Button key={kind} type="submit" name="kind" value={kind} variant={i === 0 ? "contained" : "outlined"}>
                  {label}
                </Button>
              ))}
            </Box>
          </Form>
        );
      })}
      {forSale.length === 0 && <Typography sx={{ mt: 2 }}>No plan is for sale.</Typography>}
      <Typography sx={{ mt: 3 }}>
        <MuiLink component={Link} to="/outlooks">
          To the outlooks
        </MuiLink>
      </Typography>
    </Box>
  );
}
