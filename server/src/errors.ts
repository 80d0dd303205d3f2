import { RecordError } from "@alderman/core";
import type { ErrorRequestHandler, Request, RequestHandler, Response } from "express";
import type { Logger } from "pino";
import { GatewayError } from "./live/gateway.ts";
import { BackupError } from "./store/backups.ts";
import { UnreadableRowError } from "./store/codec.ts";
import { DivergedError, NoRailwayError, StaleError } from "./store/store.ts";

/** Answers what no route has answered. */
export const notFound: RequestHandler = (_request: Request, response: Response) => {
  response.status(404).json({ error: { message: "There is nothing at this address." } });
};

/** Turns errors into answers with a sentence for the owner; what is not foreseen is logged and not shown. */
export function onError(log?: Logger): ErrorRequestHandler {
  return (error, request, response, next) => {
    if (response.headersSent) return next(error);
    if (error instanceof RecordError) {
      const [first] = error.problems;
      response
        .status(400)
        .json({ error: { message: error.message, path: first?.path ?? [], problems: error.problems } });
    } else if (error instanceof StaleError) {
      response.status(409).json({ error: { message: error.message, revision: error.revision } });
    } else if (error instanceof DivergedError) {
      response.status(409).json({ error: { message: error.message, revision: error.revision, diverged: true } });
    } else if (error instanceof GatewayError) {
      response.status(502).json({ error: { message: error.message } });
    } else if (error instanceof NoRailwayError) {
      response.status(404).json({ error: { message: error.message } });
    } else if (error instanceof UnreadableRowError) {
      log?.error({ error, method: request.method, path: request.path }, "a row cannot be read");
      response.status(500).json({
        error: {
          message: `${error.message} On the page of the railways it can be exported as it is, or a backup put back.`,
        },
      });
    } else if (error instanceof BackupError) {
      response.status(409).json({ error: { message: error.message } });
    } else if (isOfDatabase(error)) {
      log?.error({ error, method: request.method, path: request.path }, "the database failed");
      response
        .status(error.code.startsWith("SQLITE_FULL") ? 507 : 500)
        .json({ error: { message: wordsFor(error.code) } });
    } else if (error?.type === "entity.too.large") {
      const limit = Math.round(error.limit / 1_000_000);
      response
        .status(413)
        .json({ error: { message: `That is more than the ${limit} MB that are taken at once. Nothing was changed.` } });
    } else if (typeof error?.status === "number" && error.status >= 400 && error.status < 500) {
      response
        .status(error.status)
        .json({ error: { message: "The request could not be read. Nothing was changed.", path: [] } });
    } else {
      log?.error({ error, method: request.method, path: request.path }, "unforeseen error");
      response
        .status(500)
        .json({ error: { message: "Something went wrong on the server. Nothing was changed; try again." } });
    }
  };
}

function isOfDatabase(error: unknown): error is Error & { code: string } {
  return (
    error instanceof Error && "code" in error && typeof error.code === "string" && error.code.startsWith("SQLITE_")
  );
}

/** What a failure of the database means, and what to do, by SQLite's code. */
function wordsFor(code: string): string {
  const [, words] = FAILURES.find(([start]) => code.startsWith(start)) ?? [];
  return `${words ?? `The database failed (${code}).`} Nothing was changed.`;
}

const FAILURES: readonly [string, string][] = [
  ["SQLITE_FULL", "The disk is full: make room, then try again."],
  ["SQLITE_READONLY", "The database cannot be written: look at the permissions of the data folder."],
  ["SQLITE_IOERR", "The disk could not be read or written: look at the drive, and make a backup elsewhere."],
  ["SQLITE_CORRUPT", "The database is damaged: put a backup back, on the page of the railways."],
  ["SQLITE_NOTADB", "The database is damaged: put a backup back, on the page of the railways."],
  ["SQLITE_BUSY", "Another program holds the database: end it, then try again."],
];
