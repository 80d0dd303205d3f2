import { readdirSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import {
  type Applied,
  type Change,
  Clash,
  Edit,
  EditGroup,
  emptyRecord,
  FORM_HEADER,
  Railway,
  RECORD_FORM,
  railwayFilePieces,
  recordError,
  Stamp,
} from "@alderman/core";
import express, { Router } from "express";
import * as z from "zod";
import { importFile } from "../importFile.ts";
import { inTurns } from "../inTurns.ts";
import { BODY_LIMIT, FILE_LIMIT } from "../limits.ts";
import { parse } from "../parse.ts";
import type { Store } from "../store/store.ts";
import { sendEvents } from "../telling.ts";

const NewRailway = z.strictObject({ name: Railway.shape.name });
const NewSample = z.strictObject({ sample: z.string().regex(/^[a-z0-9-]{1,40}$/) });
/** What a group was made against; `stamp` and `makes` are left out by programs that need neither. */
const BaseFields = { revision: z.int().min(0), stamp: z.optional(Stamp), makes: z.optional(Stamp) };
const TurnBack = z.strictObject(BaseFields);
const Edits = z.strictObject({
  ...BaseFields,
  words: EditGroup.shape.words,
  edits: z.array(Edit).min(1).max(20_000),
});
const Stamps = z.strictObject({ stamps: z.array(Stamp).max(1000) });
const Since = z.object({ since: z.coerce.number().int().min(0), stamp: z.optional(Stamp) });
const Before = z.object({ before: z.coerce.number().int().min(0).default(Number.MAX_SAFE_INTEGER) });

/** Rows of history in one answer. */
const HISTORY_ROWS = 100;

/** Railways: list, new, import, export, edits, undo and redo, history, events. */
export function railwayRoutes(store: Store, samplesFolder: string): Router {
  const router = Router();
  const json = express.json({ limit: BODY_LIMIT });
  const file = express.text({ limit: FILE_LIMIT, type: () => true });

  router.get("/", (_request, response) => void response.json(store.list()));
  router.post("/", json, (request, response) => {
    const { name } = parse(NewRailway, request.body);
    response.status(201).json({ id: store.create(emptyRecord(name)) });
  });
  router.post("/import", file, async (request, response) => {
    const text = typeof request.body === "string" ? request.body : "";
    response.status(201).json({ id: await importFile(store, text) });
  });
  router.get("/samples", (_request, response) => void response.json(sampleNames(samplesFolder)));
  router.post("/sample", json, async (request, response) => {
    const { sample } = parse(NewSample, request.body);
    if (!sampleNames(samplesFolder).includes(sample))
      throw recordError(`There is no sample called "${sample}".`, ["sample"]);
    const text = await readFile(join(samplesFolder, `${sample}.json`), "utf8");
    response.status(201).json({ id: await importFile(store, text) });
  });

  router.get("/:id", async (request, response) => {
    const railway = await inTurns(store.opening(request.params.id));
    response.set(FORM_HEADER, RECORD_FORM).json(railway);
  });
  router.delete("/:id", (request, response) => {
    store.remove(request.params.id);
    response.status(204).end();
  });
  router.get("/:id/rows", (request, response) => {
    response.attachment(`${request.params.id}-as-it-is.json`).json(store.rows(request.params.id));
  });
  router.get("/:id/file", async (request, response) => {
    const { record } = store.open(request.params.id);
    const name =
      record.railway.name
        .toLowerCase()
        .replaceAll(/[^a-z0-9]+/g, "-")
        .replaceAll(/^-|-$/g, "") || "railway";
    response.attachment(`${name}.json`).type("json");
    await pipeline(Readable.from(railwayFilePieces(record)), response).catch((error) => {
      // a window that was closed before it had all of the file
      if (error.code !== "ERR_STREAM_PREMATURE_CLOSE") throw error;
    });
  });
  router.post("/:id/edits", json, (request, response) => {
    const { words, edits, ...base } = parse(Edits, request.body);
    response.json(answer(store.apply(request.params.id, base, { words, edits }), edits.length));
  });
  router.post("/:id/undo", json, (request, response) => {
    response.json(store.undo(request.params.id, parse(TurnBack, request.body)));
  });
  router.post("/:id/redo", json, (request, response) => {
    response.json(store.redo(request.params.id, parse(TurnBack, request.body)));
  });
  router.get("/:id/changes", (request, response) => {
    const { since, stamp } = parse(Since, request.query);
    const groups = store.since(request.params.id, { revision: since, stamp });
    response.json(groups.map(({ inverses, ...group }) => group));
  });
  router.post("/:id/applied", json, (request, response) => {
    response.json({ applied: store.applied(request.params.id, parse(Stamps, request.body).stamps) });
  });
  router.post("/:id/clash", json, (request, response) => {
    store.tellOfClash(request.params.id, parse(Clash, request.body));
    response.status(204).end();
  });
  router.post("/:id/plan", (request, response) => {
    const { id } = request.params;
    store.version(id);
    response.status(204).end();
    void inTurns(store.planAhead(id));
  });
  router.get("/:id/version", (request, response) => void response.json(store.version(request.params.id)));
  router.get("/:id/history", (request, response) => {
    response.json(store.historyOf(request.params.id, parse(Before, request.query).before, HISTORY_ROWS));
  });
  router.get("/:id/history/size", (request, response) => void response.json(store.historySize(request.params.id)));
  router.get("/:id/events", (request, response) => sendEvents(store, request.params.id, request, response));
  return router;
}

/** The window that sent the edits has them already, but not what follows from them of the loom. @param sent how many it sent */
function answer({ edits, ...rest }: Change, sent: number): Applied {
  return { ...rest, proposed: edits.slice(sent) };
}

function sampleNames(folder: string): string[] {
  return readdirSync(folder)
    .filter((name) => name.endsWith(".json"))
    .map((name) => name.slice(0, -5));
}
