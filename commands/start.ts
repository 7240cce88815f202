import { Account } from "../server/database/models.ts";
import { runDesk } from "./desk/desk.ts";
import { runCommand } from "./desk/timing.ts";

runCommand(() =>
  runDesk(
    "desk",
    async () => {},
    async (address) => {
      const analysts = await Account.count({ where: { role: "analyst" } });
      const first = "There is no analyst yet. In another shell:\n  ./compass account analyst MAIL NAME\n";
      return `\n${analysts === 0 ? first : ""}Even Compass is open at ${address}\nCtrl-C ends it.`;
    },
  ),
);
