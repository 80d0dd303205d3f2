import { Router } from "express";
import * as z from "zod";
import { EventStream } from "../eventStream.ts";
import { parse } from "../parse.ts";
import type { Store } from "../store/store.ts";
import { tellOfLine, tellOfRailway } from "../telling.ts";
import type { Live } from "./live.ts";

/** Railways that one connection may tell of: far more than anybody has open. */
const MOST_RAILWAYS = 200;

const Ids = z
  .string()
  .optional()
  .transform((text) => [...new Set((text ?? "").split(",").filter((id) => id !== ""))])
  .pipe(z.array(z.string().max(64)).max(MOST_RAILWAYS));
const Wanted = z.object({ railways: Ids, lines: Ids });

/**
 * What happens to several railways and on their live lines, over one connection: a browser opens few at a time to one
 * server, and tabs would take them all.
 */
export function eventRoutes(store: Store, live?: Live): Router {
  const router = Router();
  router.get("/", (request, response) => {
    const { railways, lines } = parse(Wanted, request.query);
    const stream = new EventStream(request, response);
    for (const id of railways) {
      const tell = (name: string, data: object) => stream.tell(name, { of: id, ...data });
      if (store.has(id)) tellOfRailway(store, id, stream, tell);
      else tell("removed", {});
    }
    for (const id of lines) {
      const tell = (name: string, data: object) => stream.tell(name, { of: id, ...data });
      const session = live?.running(id);
      if (session) tellOfLine(session, stream, tell);
      else tell("stopped", {});
    }
  });
  return router;
}
