import { copyFileSync, existsSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type App, createApp } from "@/server/app";
import { decidedIn } from "@/server/decided";
import { copied } from "@/server/engine/begun";
import type { Answering } from "@/server/engine/client";
import { Engine } from "@/server/engine/engine";
import { OneInstant } from "@/server/engine/oneInstant";
import { OutsideDays } from "@/server/engine/outsideDays";
import type { QuestionName } from "@/server/engine/questions";
import { currentSource, pastSource } from "@/server/engine/source";
import { TrailBook } from "@/server/engine/trailBook";
import type { PackMaker } from "@/server/evidence/pack/make";
import { Clock } from "@/server/platform/clock";
import { openDatabase } from "@/server/platform/db/open";
import { databasePath, type Platform } from "@/server/platform/platform";
import type { Settings } from "@/server/platform/settings";
import type { Seconds } from "@/core/time/instant";
import { NOW } from "./records";

/** An application of its own, in this process, at an instant that stands still: its engine is no thread. */
export async function appIn(folder = mkdtempSync(join(tmpdir(), "latch-app-")), now = NOW): Promise<App> {
  const path = databasePath({ data: folder });
  if (!existsSync(path)) copyFileSync(await (blank ??= makeBlank()), path);
  return createApp({
    settings: settingsIn(folder),
    clock: new Clock(new Date(now)),
    engineOf: (platform) => engineIn(platform),
  });
}

/** What an application in a folder is set to. */
export function settingsIn(folder: string): Settings {
  return {
    data: folder,
    logs: join(folder, "logs"),
    port: 4310,
    proxies: [],
    freshAbove: 50,
    url: "http://127.0.0.1:4310",
    now: undefined,
    secret: undefined,
    readEverySeconds: 0,
    watchEverySeconds: 0,
  };
}

/** A database that has taken all its steps, made once: to take them takes longer than most of what tests do with it. */
let blank: Promise<string> | undefined;

async function makeBlank(): Promise<string> {
  const path = join(mkdtempSync(join(tmpdir(), "latch-blank-")), "blank.sqlite");
  await (await openDatabase(path)).destroy();
  return path;
}

/** What packs are made with, in this process. */
export function makerIn(app: Platform): PackMaker {
  const columns = { path: `${databasePath(app.settings)}.columns`, build: "tests" };
  return { ...app, engine: new OneInstant(app.db, app.clock, columns, decidedIn(app.db)) };
}

/** The engine, begun when it is first asked. */
function engineIn({ db, clock, settings }: Platform): Answering {
  const decided = decidedIn(db);
  let current: Promise<Engine> | undefined;
  const begun = async (engine: Engine) => {
    await engine.start();
    return engine;
  };
  const trail = new TrailBook(db);
  const columns = { path: `${databasePath(settings)}.columns`, build: "tests" };
  return {
    async ask(name: QuestionName, asked: object, past?: Seconds) {
      if (name in trail) {
        await trail.catchUp();
        return trail[name as "events"](asked as never) as never;
      }
      if (name === "history") {
        const now = await begun(new Engine(currentSource(db, columns, decided)));
        return new OutsideDays(db, () => now.caughtUp()).history((asked as { instants: Seconds[] }).instants) as never;
      }
      if (past !== undefined) {
        const now = await begun(new Engine(currentSource(db, columns, decided)));
        const engine = await begun(new Engine(pastSource(db, decided, copied(await now.begun(past), past))));
        return engine[name as "refresh"](asked as never, past) as never;
      }
      current ??= begun(new Engine(currentSource(db, columns, decided)));
      return (await current)[name as "refresh"](asked as never, clock.seconds()) as never;
    },
    readyPasts: () => {},
    close: async () => {},
  };
}
