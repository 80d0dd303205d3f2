import { randomBytes } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import express, { type Express, type NextFunction, type Request, type Response } from "express";
import staticGzip from "express-static-gzip";
import helmet from "helmet";
import type { Logger } from "pino";
import { notFound, onError } from "./errors.ts";
import { requireOwnHost } from "./ownHost.ts";
import { backupRoutes } from "./routes/backups.ts";
import { calculatorRoutes } from "./routes/calculators.ts";
import { eventRoutes } from "./routes/events.ts";
import type { Live } from "./routes/live.ts";
import { railwayRoutes } from "./routes/railways.ts";
import type { Keeper } from "./store/keeper.ts";
import type { Store } from "./store/store.ts";

export interface AppOptions {
  store: Store;
  /** Keeps the store's database; without it nothing is backed up. */
  keeper?: Keeper;
  /** Folder with the built interface; without it only the interface for programs is served. */
  webFolder?: string;
  /** Folder with the sample railways. */
  samplesFolder: string;
  log?: Logger;
  /** The stand-ins of its railways; without them nothing is live. */
  live?: Live;
}

/** The application: interface for programs under /api, the built interface elsewhere. */
export function createApp({ store, keeper, webFolder, samplesFolder, log, live }: AppOptions): Express {
  const app = express();
  app.disable("x-powered-by");
  app.use((_request, response, next) => {
    response.locals.nonce = randomBytes(16).toString("base64");
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          workerSrc: ["'self'"],
          // the dialogs' scroll lock puts a style element into the page; it carries this nonce
          styleSrc: ["'self'", (_request, response) => `'nonce-${(response as Response).locals.nonce}'`],
          imgSrc: ["'self'", "data:"],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  // after the headers, so that what is refused carries them, too
  app.use(requireOwnHost);
  if (live) app.use("/api/railways/:id/live", live.router);
  app.use("/api/railways", railwayRoutes(store, samplesFolder));
  app.use("/api/events", eventRoutes(store, live));
  if (keeper) app.use("/api/backups", backupRoutes(keeper));
  app.use("/api/calculators", calculatorRoutes());
  app.use("/api", notFound);
  if (webFolder) serveWeb(app, webFolder);
  app.use(onError(log));
  return app;
}

function serveWeb(app: Express, folder: string): void {
  const page = join(folder, "index.html");
  // scripts were packed when they were built; answers are not: they go to this machine only, and to pack them takes longer than to hand them over
  const packed = { enableBrotli: true, serveStatic: { immutable: true, maxAge: "1y" } };
  app.use("/assets", staticGzip(join(folder, "assets"), packed), notFound);
  app.use(express.static(folder, { index: false }));
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (!["GET", "HEAD"].includes(request.method) || !existsSync(page)) return next();
    const html = readFileSync(page, "utf8").replace("__NONCE__", String(response.locals.nonce));
    // the railway that the address names is asked for before any script has come
    const railway = /^\/r\/([a-z0-9]+)(\/|$)/.exec(request.path)?.[1];
    if (railway) response.set("Link", `</api/railways/${railway}>; rel=preload; as=fetch; crossorigin`);
    response.type("html").set("Cache-Control", "no-store").send(html);
  });
}
