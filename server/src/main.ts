import { readFileSync } from "node:fs";
import { createServer } from "node:http";
import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { openRailwayFile } from "@alderman/core";
import pino from "pino";
import { createApp } from "./app.ts";
import { HOUSE } from "./house.ts";
import { liveRoutes } from "./routes/live.ts";
import { DataFolderError } from "./store/database.ts";
import { Keeper } from "./store/keeper.ts";
import { FolderTakenError } from "./store/lock.ts";

const HOST = "127.0.0.1";
const DEFAULT_PORT = "4270";

/** Says what is wrong, in one line, and ends. */
function giveUp(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(1);
}

function readOptions() {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: "string" },
        data: { type: "string" },
        demo: { type: "boolean", default: false },
        "api-only": { type: "boolean", default: false },
        "stand-ins": { type: "boolean", default: false },
      },
    });
    const port = Number(values.port ?? process.env.ALDERMAN_PORT ?? DEFAULT_PORT);
    if (!Number.isInteger(port) || port < 0 || port > 65535)
      giveUp(`--port ${values.port} is no port; give a number from 1024 to 65535.`);
    const folder = values.data ?? process.env.ALDERMAN_DATA ?? (values.demo ? "data/demo" : "data/own");
    return {
      port,
      folder: resolve(HOUSE, folder),
      demo: values.demo,
      apiOnly: values["api-only"],
      standIns: values["stand-ins"],
    };
  } catch (error) {
    giveUp(
      `${error instanceof Error ? error.message : error}\nOptions: --port NUMBER, --data FOLDER, --demo, --stand-ins`,
    );
  }
}

const options = readOptions();
const log = pino({ level: process.env.ALDERMAN_LOG ?? "warn" }, pino.destination(2));
const samplesFolder = join(HOUSE, "samples");

function openKeeper(): Keeper {
  try {
    return new Keeper(options.folder, (error) => log.error({ error }, "the day's backup was not made"));
  } catch (error) {
    if (error instanceof DataFolderError || error instanceof FolderTakenError) giveUp(error.message);
    throw error;
  }
}

const keeper = openKeeper();
const { store } = keeper;
if (options.demo && store.list().length === 0) {
  store.create(openRailwayFile(readFileSync(join(samplesFolder, "skerrin-ferry.json"), "utf8")));
}
const live = liveRoutes(store);
const app = createApp({
  store,
  keeper,
  live,
  samplesFolder,
  log,
  ...(options.apiOnly ? {} : { webFolder: join(HOUSE, "web/dist") }),
});
const server = createServer(app);
server.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code === "EADDRINUSE")
    giveUp(
      `Port ${options.port} is in use by another program. Choose a free one, as in: npm start -- --port ${options.port + 1}`,
    );
  if (error.code === "EACCES")
    giveUp(`Port ${options.port} may not be used. Choose one above 1023, as in: npm start -- --port ${DEFAULT_PORT}`);
  giveUp(`The server could not start: ${error.message}`);
});
server.listen(options.port, HOST, () => {
  const address = server.address();
  const port = typeof address === "object" && address ? address.port : options.port;
  // what is asked for at the start must not keep the program from starting
  const [first] = options.standIns ? store.list() : [];
  if (first) live.start(first.id).catch((error: unknown) => log.warn({ error }, "the stand-ins did not start"));
  process.stdout.write(`Alderman is at http://${HOST}:${port}  (data in ${options.folder}; Ctrl+C ends it)\n`);
});
for (const signal of ["SIGINT", "SIGTERM"] as const) {
  process.on(signal, () => {
    live.stopAll();
    server.closeAllConnections();
    server.close(() => {
      keeper.close();
      process.exit(0);
    });
  });
}
