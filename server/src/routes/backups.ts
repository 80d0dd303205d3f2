import { recordError } from "@alderman/core";
import express, { Router } from "express";
import * as z from "zod";
import { BODY_LIMIT } from "../limits.ts";
import type { Keeper } from "../store/keeper.ts";

const Named = z.strictObject({ name: z.string().max(100) });

/** Backups of the whole database: list, make, put back; and a look at whether the database is sound. */
export function backupRoutes(keeper: Keeper): Router {
  const router = Router();
  const json = express.json({ limit: BODY_LIMIT });
  router.get("/", (_request, response) => void response.json(keeper.backups()));
  router.post("/", (_request, response) => void response.status(201).json(keeper.backUp()));
  router.post("/put-back", json, (request, response) => {
    const named = Named.safeParse(request.body);
    if (!named.success) throw recordError("Say which backup is to be put back.", ["name"]);
    keeper.putBack(named.data.name);
    response.json(keeper.backups());
  });
  router.post("/check", (_request, response) => void response.json({ damage: keeper.check() }));
  return router;
}
