import { type Listen, pageListen } from "../session/sharedEvents.ts";
import { type LiveStatus, Message, startStandIns, statusOf, stopStandIns } from "./liveServer.ts";

/** Messages that a window keeps; of more the oldest go. */
export const MOST_KEPT = 50_000;

/** What went over the lines of one railway, as this window heard it, and whether its stand-ins run. */
export class LiveLine {
  /** Grows at its end, and is cut at its beginning; `version` says that it changed. */
  messages: Message[] = [];
  /** How many were left out before the first. */
  left = 0;
  version = 0;
  status: LiveStatus | null = null;
  private stopListening: (() => void) | null = null;
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly railwayId: string,
    private readonly listenTo: Listen = pageListen,
  ) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly getVersion = (): number => this.version;

  /** Asks the server whether the stand-ins run, and listens when they do. */
  async look(): Promise<void> {
    this.setStatus(await statusOf(this.railwayId));
  }

  async start(): Promise<void> {
    this.setStatus(await startStandIns(this.railwayId));
  }

  async stop(): Promise<void> {
    await stopStandIns(this.railwayId);
    this.ended();
  }

  setStatus(status: LiveStatus): void {
    this.status = status;
    if (status.running) this.listen();
    else this.silence();
    this.changed();
  }

  clear(): void {
    this.messages = [];
    this.left = 0;
    this.changed();
  }

  /** Messages that were heard, or read from a file. */
  add(messages: readonly Message[], left = 0): void {
    this.left += left;
    for (const message of messages) this.messages.push(message);
    const over = this.messages.length - MOST_KEPT;
    // a thousand at a time, so that the list is not moved with each batch
    if (over > 1_000) {
      this.messages = this.messages.slice(over);
      this.left += over;
    }
    this.changed();
  }

  /** Puts another log in place of what was heard, whatever its length. */
  show(messages: Message[]): void {
    this.silence();
    this.messages = messages;
    this.left = 0;
    this.changed();
  }

  private listen(): void {
    this.stopListening ??= this.listenTo(`line ${this.railwayId}`, (told) => {
      if (!("topic" in told)) return;
      if (told.name === "stopped") this.ended();
      else if (told.name === "began") {
        // the last messages come anew with each connection
        this.messages = [];
        this.left = 0;
      } else if (told.name === "messages") {
        // thousands in a second: that they are messages is looked at once for each batch, not for each of them
        const { messages, left } = JSON.parse(told.data) as { messages: Message[]; left: number };
        if (messages.length > 0 && Message.safeParse(messages[0]).success) this.add(messages, left);
      }
    });
  }

  /** The stand-ins were stopped, here or in another window. */
  private ended(): void {
    this.silence();
    if (this.status?.running) this.setStatus({ ...this.status, running: false, gateways: [] });
  }

  private silence(): void {
    this.stopListening?.();
    this.stopListening = null;
  }

  private changed(): void {
    this.version++;
    for (const listener of this.listeners) listener();
  }
}

const lines = new Map<string, LiveLine>();

/** The line of a railway: the same one for as long as the page is open. */
export function lineOfRailway(railwayId: string): LiveLine {
  const line = lines.get(railwayId) ?? new LiveLine(railwayId);
  lines.set(railwayId, line);
  return line;
}
