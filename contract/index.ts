import { alertsOperations } from "./alerts";
import { answersOperations } from "./answers";
import { decideOperations, myDecisionsOperations, mySharesOperations } from "./decisions";
import { clearingOperations } from "./clearing";
import { deskOperations } from "./desk";
import { intakeOperations } from "./intake";
import { directoryOperations } from "./directory";
import { docketsOperations } from "./dockets";
import { engagementsOperations } from "./engagements";
import { estateOperations } from "./estate";
import { importsOperations } from "./imports";
import { labelsOperations } from "./labels";
import { ledgerOperations } from "./ledger";
import { leaversOperations } from "./leavers";
import type { Operation } from "./operation";
import { outsidersOperations } from "./outsiders";
import { peopleOperations } from "./people";
import { registerOperations } from "./register";
import { reportsOperations } from "./reports";
import { roundsOperations } from "./rounds";
import { rulesOperations } from "./rules";
import { shareOperations } from "./share";
import { askingOperations, sharingOperations } from "./sharing";
import { shortlistOperations } from "./shortlist";
import { storesOperations } from "./stores";
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
  ...reportsOperations,
  ...estateOperations,
  ...storesOperations,
  ...deskOperations,
  ...shortlistOperations,
  ...peopleOperations,
  ...outsidersOperations,
  ...leaversOperations,
  ...directoryOperations,
  ...engagementsOperations,
  ...importsOperations,
  ...labelsOperations,
  ...intakeOperations,
  ...clearingOperations,
  ...sharingOperations,
  ...askingOperations,
  ...roundsOperations,
  ...mySharesOperations,
  ...named("letter", decideOperations),
  ...named("my", myDecisionsOperations),
};

/** Operations of which there are several sets alike, each under a name of its own. */
function named<P extends string, T extends Record<string, Operation>>(prefix: P, all: T) {
  const entries = Object.entries(all).map(([name, operation]) => [`${prefix}.${name}`, operation]);
  return Object.fromEntries(entries) as { [N in keyof T & string as `${P}.${N}`]: T[N] };
}
