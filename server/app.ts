import { registerOperations } from "@/contract/register";
import { shareOperations } from "@/contract/share";
import { clearingOperations } from "@/contract/clearing";
import { intakeOperations } from "@/contract/intake";
import { askingOperations, sharingOperations } from "@/contract/sharing";
import { waysInOperations } from "@/contract/waysIn";
import { trailOperations } from "@/contract/trail";
import { alertsOperations } from "@/contract/alerts";
import { rulesOperations } from "@/contract/rules";
import { docketsOperations } from "@/contract/dockets";
import { answersOperations } from "@/contract/answers";
import { ledgerOperations } from "@/contract/ledger";
import { reportsOperations } from "@/contract/reports";
import { estateOperations } from "@/contract/estate";
import { deskOperations } from "@/contract/desk";
import { peopleOperations } from "@/contract/people";
import { shortlistOperations } from "@/contract/shortlist";
import { storesOperations } from "@/contract/stores";
import { decideOperations, myDecisionsOperations, mySharesOperations } from "@/contract/decisions";
import { directoryOperations } from "@/contract/directory";
import { engagementsOperations } from "@/contract/engagements";
import { importsOperations } from "@/contract/imports";
import { labelsOperations } from "@/contract/labels";
import { leaversOperations } from "@/contract/leavers";
import { outsidersOperations } from "@/contract/outsiders";
import { roundsOperations } from "@/contract/rounds";
import { engagementContent } from "./engagements";
import { type Listing, ListsAtWork } from "./directory";
import { directoryHandlers } from "./directory/handlers";
import { engagementsHandlers } from "./engagements/handlers";
import { clearReports, type Importing, ImportsAtWork, settleRuns } from "./imports";
import { importsHandlers } from "./imports/handlers";
import { labelsHandlers } from "./labels/handlers";
import { leaversHandlers } from "./leavers/handlers";
import { outsidersHandlers } from "./outsiders/handlers";
import { decideHandlers, myDecisionsHandlers, mySharesHandlers, roundsHandlers } from "./rounds/handlers";
import { roundContent, roundLateContent } from "./rounds/letters";
import { type Rounding, RoundsAtWork } from "./rounds/rounding";
import { registerHandlers } from "./register/handlers";
import { shareHandlers } from "./register/shareHandlers";
import { noteMade, settleRequests } from "./sharing";
import { clearingHandlers } from "./clearing/handlers";
import { intakeHandlers } from "./intake/handlers";
import { askingHandlers, sharingHandlers } from "./sharing/handlers";
import { waysInHandlers } from "./register/waysInHandlers";
import { trailHandlers } from "./trail/handlers";
import { alertsHandlers } from "./trail/alertsHandlers";
import { rulesHandlers } from "./rules/handlers";
import { docketsHandlers } from "./dockets/handlers";
import { answersHandlers } from "./rules/answersHandlers";
import { PacksAtWork, type Packing } from "./evidence";
import { ledgerHandlers } from "./evidence/handlers";
import { reportsHandlers } from "./evidence/report/handlers";
import { estateHandlers } from "./estateHandlers";
import { storesHandlers } from "./storesHandlers";
import { deskHandlers } from "./desk/handlers";
import { peopleHandlers } from "./people/handlers";
import { shortlistHandlers } from "./shortlist/handlers";
import { type Serving, Server } from "./http/serve";
import { actorFrom } from "./people/actor";
import { EventEmitter } from "node:events";
import { setTimeout } from "node:timers/promises";
import { Carriage } from "./dockets/carrying";
import { haltAll, resumeInterrupted } from "./dockets/executor";
import { type Answering as AnsweringQuestions, EngineClient, engineFile } from "./engine/client";
import { listeners } from "./listeners";
import { Outbox } from "./messages/outbox";
import type { Auth } from "./people/auth";
import { FirstRun, firstRunCode, type Founding } from "./people/firstRun";
import { hasPeople } from "./people/people";
import { waysToSignIn } from "./people/ways";
import { Clock } from "./platform/clock";
import { Jobs } from "./platform/jobs";
import { AuditorReads } from "./records/ledger/auditorReads";
import { Peers } from "./platform/peers";
import { databasePath, openPlatform, type Platform } from "./platform/platform";
import type { Settings } from "./platform/settings";
import { type ReadingAll, readNow, watchStores } from "./reading";
import { ReadingsAtWork } from "./stores/atWork";
import { registerJobs } from "./tick";
import { askContent, waiversContent } from "./rules/letters";
import { toldAlerts } from "./trail/told";

/** One application: what it was made of, and all that lives as long as it does. */
export interface App extends Rounding, ReadingAll, Founding, Serving, Packing, Importing, Listing {
  /** Sign-in, made when it is first asked for, and anew after the key has changed. */
  auth(): Promise<Auth>;
  readonly jobs: Jobs;
  /** What pages ask before anybody has signed in. */
  hasPeople(): Promise<boolean>;
  waysToSignIn(): ReturnType<typeof waysToSignIn>;
  /** Answers a request for one of the operations. */
  fetch(request: Request): Response | Promise<Response>;
  close(): Promise<void>;
}

/** What an application is made of. */
interface Given {
  settings: Settings;
  clock?: Clock;
  /** Who answers about the estate; without it, a thread of its own. */
  engineOf?: (platform: Platform, databasePath: string) => AnsweringQuestions;
}

/** Makes an application. As many as one likes can live in one process, side by side. */
export async function createApp({ settings, clock = new Clock(settings.now), engineOf }: Given): Promise<App> {
  const path = databasePath(settings);
  const platform = await openPlatform(settings, clock);
  const { db } = platform;
  const engine = engineOf?.(platform, path) ?? new EngineClient(engineFile(), path, clock);
  const auths = new Map<string, Promise<Auth>>();
  const app: App = {
    ...platform,
    engine,
    carrying: new Carriage(),
    onMade: noteMade,
    onFinished: () => settleRequests(app),
    rounding: new RoundsAtWork(),
    packs: new PacksAtWork(),
    imports: new ImportsAtWork(),
    lists: new ListsAtWork({ databasePath: path, now: clock.standsAt }),
    auditors: new AuditorReads(db),
    outbox: new Outbox(),
    listeners,
    readings: new ReadingsAtWork(platform, (step) => app.readingEvents.emit("progress", step)),
    composers: {
      letters: {
        ...{ ask: askContent, "waiver-ends": waiversContent },
        ...{ round: roundContent, "round-late": roundLateContent, engagement: engagementContent },
      },
      alerts: toldAlerts,
    },
    auth() {
      const { id } = platform.secrets.ring.newest;
      const made = auths.get(id) ?? import("./people/auth").then(({ makeAuth }) => makeAuth(platform));
      auths.set(id, made);
      return made;
    },
    actorFrom: async (headers) => actorFrom(platform, await app.auth(), headers),
    hasPeople: () => hasPeople(db),
    waysToSignIn: () => waysToSignIn(platform),
    fetch: (request) => server.fetch(request),
    firstRun: new FirstRun(),
    peers: new Peers(settings.proxies),
    ending: new AbortController(),
    jobs: new Jobs(db),
    alertEvents: new EventEmitter().setMaxListeners(0),
    readingEvents: new EventEmitter().setMaxListeners(0),
    async close() {
      app.ending.abort();
      app.jobs.stop();
      await app.readings.close();
      await haltAll(app);
      await app.imports.close();
      await app.lists.close();
      await app.packs.close();
      await engine.close();
      await db.destroy();
    },
  };
  const server = serverOf(app);
  registerJobs(app);
  return app;
}

/** Every room's operations, each at its address. */
function serverOf(app: App): Server<App> {
  return new Server(app)
    .serve(registerOperations, registerHandlers)
    .serve(shareOperations, shareHandlers)
    .serve(waysInOperations, waysInHandlers)
    .serve(trailOperations, trailHandlers)
    .serve(alertsOperations, alertsHandlers)
    .serve(rulesOperations, rulesHandlers)
    .serve(docketsOperations, docketsHandlers)
    .serve(answersOperations, answersHandlers)
    .serve(ledgerOperations, ledgerHandlers)
    .serve(reportsOperations, reportsHandlers)
    .serve(estateOperations, estateHandlers)
    .serve(storesOperations, storesHandlers)
    .serve(deskOperations, deskHandlers)
    .serve(shortlistOperations, shortlistHandlers)
    .serve(peopleOperations, peopleHandlers)
    .serve(roundsOperations, roundsHandlers)
    .serve(outsidersOperations, outsidersHandlers)
    .serve(leaversOperations, leaversHandlers)
    .serve(directoryOperations, directoryHandlers)
    .serve(engagementsOperations, engagementsHandlers)
    .serve(importsOperations, importsHandlers)
    .serve(labelsOperations, labelsHandlers)
    .serve(intakeOperations, intakeHandlers)
    .serve(clearingOperations, clearingHandlers)
    .serve(sharingOperations, sharingHandlers)
    .serve(askingOperations, askingHandlers)
    .serve(decideOperations, decideHandlers)
    .serve(myDecisionsOperations, myDecisionsHandlers)
    .serve(mySharesOperations, mySharesHandlers)
    .serveSignIn(async (request) => (await app.auth()).handler(request));
}

/** Until then the other process is done, or does what is left at the next minute. */
const [MOST_TRIES, TRY_EVERY_MS] = [50, 1_000];

/** Sets an application going that serves people. Its pages come at once; what they ask for, as soon as the engine is ready. */
export async function start(app: App): Promise<void> {
  app.peers.listen();
  for (const signal of ["SIGINT", "SIGTERM"]) process.once(signal, () => app.ending.abort());
  const code = await firstRunCode(app);
  if (code) console.log(`No administrator yet. Open ${app.settings.url}/first-run and give this code: ${code}`);
  begin(app).catch((error: Error) => {
    // Without its engine it is of no use; whatever keeps it running starts it again.
    tellOf("the start")(error);
    process.exit(1);
  });
}

/** Reads, watches and does what is due, from when the engine is ready. */
async function begin(app: App): Promise<void> {
  const { readEverySeconds, watchEverySeconds } = app.settings;
  app.readings.start();
  await app.engine.ask("refresh", {});
  app.engine.readyPasts();
  await resumeInterrupted(app);
  await clearReports(app);
  await settleRuns(app);
  const read = () => readNow(app).then(() => undefined, tellOf("reading"));
  const due = () =>
    allDue(app).then((alerts) => void (alerts > 0 && app.alertEvents.emit("alerts")), tellOf("what is due"));
  void read().then(due);
  if (readEverySeconds > 0) app.jobs.every(readEverySeconds, read);
  app.jobs.everyMinute(due);
  watchStores(app, watchEverySeconds);
}

/** Does what is due. Where another process is at it, what has become due since it looked is still to be done. */
async function allDue({ jobs }: App): Promise<number> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const alerts = await jobs.doDue();
    if (alerts !== null) return alerts;
    await setTimeout(TRY_EVERY_MS);
  }
  return 0;
}

function tellOf(what: string) {
  return (error: Error) => console.error(`${what}: ${error.stack}`);
}
