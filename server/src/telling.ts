import type { Change, Clash } from "@alderman/core";
import type { Request, Response } from "express";
import { EventStream } from "./eventStream.ts";
import type { Message } from "./live/gateway.ts";
import type { LiveSession } from "./live/session.ts";
import { clashesOf, OTHER_DATABASE, type Store } from "./store/store.ts";

/** From one batch of messages to the next, milliseconds: an eye sees no difference, and a window has time to draw. */
const BATCH = 50;
/** Messages that one batch may have; of more the oldest are left out, and told of. */
const MOST_IN_BATCH = 2_000;

/** Tells of the changes of one railway alone, until it is removed. */
export function sendEvents(store: Store, id: string, request: Request, response: Response): void {
  store.version(id);
  const stream = new EventStream(request, response);
  tellOfRailway(store, id, stream, (name, data) => {
    stream.tell(name, data);
    if (name === "removed") stream.end();
  });
}

/** Tells of what goes over the lines of one railway, until its stand-ins are stopped. */
export function sendMessages(session: LiveSession, request: Request, response: Response): void {
  const stream = new EventStream(request, response);
  tellOfLine(session, stream, (name, data) => {
    // what began is the connection itself
    if (name !== "began") stream.tell(name, data);
    if (name === "stopped") stream.end();
  });
}

type Tell = (name: string, data: object) => void;

export function tellOfRailway(store: Store, id: string, stream: EventStream, tell: Tell): void {
  if (stream.isOver) return;
  const { revision, stamp } = store.version(id);
  tell("hello", { revision, stamp });
  const change = (change: Change | null) => (change ? tell("change", change) : tell("removed", {}));
  // a window that comes back after that finds out what is here now
  const letGo = () => stream.end();
  const clash = (clash: Clash) => tell("clash", clash);
  store.changes.on(id, change).on(clashesOf(id), clash).on(OTHER_DATABASE, letGo);
  stream.onEnd(() => store.changes.off(id, change).off(clashesOf(id), clash).off(OTHER_DATABASE, letGo));
}

/** In batches, since there may be thousands a second. */
export function tellOfLine(session: LiveSession, stream: EventStream, tell: Tell): void {
  if (stream.isOver) return;
  let batch: Message[] = [];
  let left = 0;
  const { kept, stop } = session.listen(
    (message) => {
      batch.push(message);
      if (batch.length > 2 * MOST_IN_BATCH) left += batch.splice(0, MOST_IN_BATCH).length;
    },
    () => tell("stopped", {}),
  );
  // the last messages come anew with each connection
  tell("began", {});
  batch.push(...kept);
  const send = () => {
    if (batch.length === 0) return;
    tell("messages", { messages: batch, left });
    batch = [];
    left = 0;
  };
  const timer = setInterval(send, BATCH);
  stream.onEnd(() => {
    clearInterval(timer);
    stop();
  });
  send();
}
