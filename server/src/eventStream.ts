import type { Request, Response } from "express";

/** Idle time after which a word is sent so that the connection stays open, milliseconds. */
const HEARTBEAT = 25_000;

/** What may wait for a reader that does not keep up, bytes: beyond it the reader is let go, and catches up when it comes back. */
const MOST_WAITING = 1_000_000;

/** A connection that stays open and over which a window is told of what happens (server-sent events, WHATWG HTML). */
export class EventStream {
  private readonly endings: (() => void)[] = [];

  constructor(
    request: Request,
    private readonly response: Response,
  ) {
    response.set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store", Connection: "keep-alive" });
    if (request.method === "HEAD") {
      response.end();
      return;
    }
    // a reader sees that it is connected before there is anything to tell
    response.flushHeaders();
    const heartbeat = setInterval(() => this.write(": still here\n\n"), HEARTBEAT);
    this.onEnd(() => clearInterval(heartbeat));
    request.on("close", () => {
      for (const end of this.endings.splice(0)) end();
    });
  }

  /** Whether nobody reads: only the headers were asked for, or the reader is gone. */
  get isOver(): boolean {
    return this.response.writableEnded || this.response.destroyed;
  }

  /** Does something when the reader goes, or has been let go. */
  onEnd(end: () => void): void {
    this.endings.push(end);
  }

  tell(name: string, data: unknown): void {
    this.write(`event: ${name}\ndata: ${JSON.stringify(data)}\n\n`);
  }

  /** Lets the reader go; it comes back by itself. */
  end(): void {
    if (!this.isOver) this.response.end();
  }

  private write(text: string): void {
    if (this.isOver) return;
    if (this.response.writableLength > MOST_WAITING) this.response.destroy();
    else this.response.write(text);
  }
}
