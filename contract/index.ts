import { alertsOperations } from "./alerts";
import { answersOperations } from "./answers";
import { deskOperations } from "./desk";
import { docketsOperations } from "./dockets";
import { estateOperations } from "./estate";
import { ledgerOperations } from "./ledger";
import { peopleOperations } from "./people";
import { registerOperations } from "./register";
import { rulesOperations } from "./rules";
import { shareOperations } from "./share";
import { shortlistOperations } from "./shortlist";
import { trailOperations } from "./trail";
import { waysInOperations } from "./waysIn";

/** Every operation there is, for what goes through all of them. */
export const OPERATIONS = {
  ...registerOperations,
  ...shareOperations,
  ...waysInOperations,
  ...trailOperations,
  ...alertsOperations,
  ...rulesOperations,
  ...docketsOperations,
  ...answersOperations,
  ...ledgerOperations,
  ...estateOperations,
  ...deskOperations,
  ...shortlistOperations,
  ...peopleOperations,
};
