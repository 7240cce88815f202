import { Account } from "../server/database/models.ts";
import { runDesk } from "./desk/desk.ts";
import { runCommand } from "./desk/timing.ts";

runCommand(() =>
  runDesk(
    "desk",
    async () => {},
    async (address) => {
      const owners = await Account.count({ where: { role: "owner", closedAt: null } });
      const first =
        "There is no owner yet, who works at the desk and looks after its people. In another shell:\n  " +
        "./compass account owner MAIL NAME\n";
      return `\n${owners === 0 ? first : ""}Even Compass is open at ${address}\nCtrl-C ends it.`;
    },
  ),
);
