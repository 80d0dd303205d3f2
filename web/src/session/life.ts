import type { Clash } from "@alderman/core";
import { isAnyOf } from "@reduxjs/toolkit";
import { notify } from "../store/notices.ts";
import type { AppListenerApi, Services, StartListening } from "../store/store.ts";
import type { Waiting } from "./keptQueue.ts";
import { clashWords, type Lost } from "./queue.ts";
import { ServerError, type ServerEvent } from "./server.ts";
import { type Session, sessions } from "./sessions.ts";

const { answered, begun, ended, live, lossesShown, opened, overtaken, refused, sent, received, troubled, turned } =
  sessions.actions;

/** Pause before something is tried again: doubled each time from the first to the longest, milliseconds. */
const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 20_000;
const pauseAfter = (tries: number) => Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** tries);

/** Gives every session a life of its own, from its beginning to its end, and tells the owner of what was lost. */
export function startSessions(startListening: StartListening): void {
  startListening({
    actionCreator: begun,
    effect: async ({ payload: { id, birth } }, api) => {
      await new Life(id, birth, api).run();
    },
  });
  const isApplied = isAnyOf(answered, received);
  startListening({
    matcher: isApplied,
    effect: (action, { extra }) => {
      if (isApplied(action)) void extra.keptQueue.forget([action.payload.change.stamp]);
    },
  });
  startListening({
    matcher: isAnyOf(opened, answered, received, refused, overtaken),
    effect: (_action, api) => {
      for (const { id, lost } of Object.values(api.getState().sessions.byId)) {
        if (lost.length === 0) continue;
        for (const { words, why, rest, mine } of lost)
          api.dispatch(
            words === null
              ? notify(why)
              : notify(rest ? `Of "${words}", ${why}` : `"${words}" was not kept. ${why}`, {
                  stays: true,
                  ...(mine && mine.length > 0 ? { mine: { railwayId: id, things: mine } } : {}),
                }),
          );
        void tellOthers(api.extra, id, lost);
        void api.extra.keptQueue.forget(lost.flatMap(({ entryId, rest }) => (rest ? [] : [entryId])));
        api.dispatch(lossesShown(id));
      }
    },
  });
}

/** Tells the other windows of what this one had set and did not keep, again and again while the server is away. */
async function tellOthers({ server, pause }: Services, id: string, lost: readonly Lost[]): Promise<void> {
  for (const { entryId, words, rest, mine } of lost) {
    if (!rest || words === null || !mine || mine.length === 0) continue;
    for (let tries = 0; tries < MOST_TRIES; tries++) {
      try {
        await server.clashed(id, { by: entryId, words, things: mine });
        break;
      } catch {
        await pause(pauseAfter(tries));
      }
    }
  }
}

/** Tries after which the others are not told any more, after half an hour about: nobody has lost anything by that. */
const MOST_TRIES = 90;

/** What goes on for one railway while its session lives: opening, listening, sending, catching up. */
class Life {
  private readonly services: Services;
  private tries = 0;

  constructor(
    private readonly id: string,
    private readonly birth: string,
    private readonly api: AppListenerApi,
  ) {
    this.services = api.extra;
  }

  /** Its own session, while there is no later one of the same railway. */
  private get session(): Session | undefined {
    const session = this.api.getState().sessions.byId[this.id];
    return session?.birth === this.birth ? session : undefined;
  }

  async run(): Promise<void> {
    const { id, api, services } = this;
    // what waited is looked for while the railway comes
    const waiting = services.keptQueue.waiting(id).catch(() => null);
    while (this.session) {
      try {
        await this.open(waiting);
        break;
      } catch (error) {
        await this.meet(error);
        if (this.session?.trouble?.kind === "gone") return this.untilEnded();
      }
    }
    const stop = services.server.listen(id, (event) => void this.hear(event));
    try {
      while (this.session && !this.isOver()) {
        if (this.canSend()) await this.sendNext();
        else await api.condition(() => !this.session || this.canSend() || this.isOver());
      }
    } finally {
      stop();
    }
    if (this.session) api.dispatch(ended(id));
  }

  /** Fetches the railway, and holds what waited here against what has been done there since. */
  private async open(looked: Promise<Waiting | null>): Promise<void> {
    const { id, api } = this;
    const { server, keptQueue } = this.services;
    const [railway, waiting] = await Promise.all([server.open(id), looked]);
    if (!this.session) return;
    this.tries = 0;
    if (!waiting) return void api.dispatch(opened({ railway, queue: [], theirs: [] }));
    const stamps = waiting.queue.map((entry) => entry.id);
    const applied = new Set(await server.applied(id, stamps));
    void keptQueue.forget([...applied]);
    const theirs = await server.missed(id, waiting.since).then(
      ({ changes }) =>
        changes.filter(({ stamp, origin }) => origin !== "plan" && !waiting.isOwn(stamp)).flatMap(({ edits }) => edits),
      (error) => {
        // an older file was put back meanwhile: what waits is done again on that
        if (error instanceof ServerError && error.diverged) return [];
        throw error;
      },
    );
    if (!this.session) return;
    const queue = waiting.queue.filter((entry) => !applied.has(entry.id));
    api.dispatch(opened({ railway, queue, theirs }));
  }

  /** A session that cannot go on stays until the owner has decided or gone elsewhere. */
  private async untilEnded(): Promise<void> {
    if (this.session && !this.isOver()) await this.api.condition(() => !this.session || this.isOver());
    if (this.session) this.api.dispatch(ended(this.id));
  }

  /** It is not shown, and nothing waits that could still be sent. */
  private isOver(): boolean {
    const { shown } = this.api.getState().sessions;
    return shown !== this.id && (this.session?.queue.length === 0 || this.isStuck());
  }

  private isStuck(): boolean {
    const kind = this.session?.trouble?.kind;
    return kind === "diverged" || kind === "gone";
  }

  private canSend(): boolean {
    const { session } = this;
    return !!session && session.queue.length > 0 && session.sent === null && !this.isStuck();
  }

  private async sendNext(): Promise<void> {
    const { id, api, services, session } = this;
    const [entry] = session?.queue ?? [];
    if (!session?.confirmed || !entry) return;
    const { record: _, ...against } = session.confirmed;
    api.dispatch(sent({ id, entryId: entry.id }));
    try {
      const change = await services.server.send(id, entry, against);
      this.tries = 0;
      api.dispatch(answered({ id, change, at: new Date().toISOString() }));
      if (entry.kind !== "edits" && api.getState().sessions.shown === id)
        api.dispatch(notify(`${entry.kind === "undo" ? "Undone" : "Redone"}: ${change.words}`));
      if ((this.session?.confirmed?.revision ?? change.revision) < change.revision) await this.catchUp();
    } catch (error) {
      if (error instanceof ServerError && error.status === 409 && !error.diverged) {
        await this.catchUp();
        api.dispatch(overtaken(id));
      } else if (error instanceof ServerError && !error.passing && error.status !== 409 && error.status !== 404)
        api.dispatch(refused({ id, entryId: entry.id, why: error.message }));
      else await this.meet(error);
    }
  }

  /** Fetches the groups that this window has missed. */
  private async catchUp(): Promise<void> {
    const { id, api, session } = this;
    if (!session?.confirmed) return;
    try {
      const { changes, turns } = await this.services.server.missed(id, session.confirmed);
      const at = new Date().toISOString();
      for (const change of changes) api.dispatch(received({ id, change, at }));
      api.dispatch(turned({ id, turns }));
    } catch (error) {
      await this.meet(error);
    }
  }

  private async hear(event: ServerEvent): Promise<void> {
    const { id, api } = this;
    const known = this.session?.confirmed;
    if (event.kind === "live") api.dispatch(live({ id, on: event.on }));
    if (!known || event.kind === "live") return;
    if (event.kind === "removed") {
      api.dispatch(
        troubled({ id, trouble: { kind: "gone", sentence: "This railway was removed in another window." } }),
      );
    } else if (event.kind === "clash") this.tellOfClash(event.clash);
    else if (event.kind === "change" && event.change.revision === known.revision + 1) {
      api.dispatch(received({ id, change: event.change, at: new Date().toISOString() }));
    } else if (event.kind === "change" && event.change.revision <= known.revision) {
      // what was answered already, or what an older file in place of this one says: then the stamps differ
      if (event.change.revision === known.revision && event.change.stamp !== known.stamp) await this.catchUp();
    } else if (event.kind === "hello" && event.version.stamp === known.stamp) {
      if (this.session?.trouble?.kind === "unanswered") api.dispatch(troubled({ id, trouble: null }));
    } else await this.catchUp();
  }

  /** Another window had set something otherwise than it stands here, and did not keep it. */
  private tellOfClash({ by, words, things }: Clash): void {
    const { id, api } = this;
    const record = this.session?.record;
    if (!record || this.services.keptQueue.isOwn(by)) return;
    const clashing = clashWords(record, things);
    if (clashing.length === 0) return;
    const mine = { railwayId: id, things };
    api.dispatch(notify(`Of "${words}", ${clashing.join("; ")}.`, { stays: true, mine, choice: "Take theirs" }));
  }

  /** One way to meet whatever goes wrong: what passes is tried again after a while, the rest waits for the owner. */
  private async meet(error: unknown): Promise<void> {
    if (!(error instanceof ServerError)) throw error;
    const { id, api } = this;
    // it is said that what waits is kept in the browser, and so it is by then
    await this.services.keptQueue.settled();
    if (!this.session) return;
    const kind = error.diverged ? "diverged" : error.status === 404 ? "gone" : "unanswered";
    api.dispatch(troubled({ id, trouble: { kind, sentence: error.message } }));
    if (kind !== "unanswered") return;
    await this.services.pause(pauseAfter(this.tries++));
  }
}
