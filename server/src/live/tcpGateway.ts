import { connect, type Socket } from "node:net";
import { messagesIn } from "@alderman/core";
import { type Gateway, GatewayError } from "./gateway.ts";

/** What a gateway is called, and what to look at when it does not answer. */
export interface Called {
  name: string;
  lookAt: string;
  /** How its messages end. */
  end: ";" | "\n";
}

/** Longest message that is waited for, characters: what goes on longer babbles. */
const MOST_CHARACTERS = 65_536;
/** Messages that one answer may have. */
const MOST_ANSWERS = 2_000;

/** Ends an answer. */
const LAST = /^(OK|VALUE|ERR)\b/;

interface Waiting {
  text: string;
  answers: string[];
  resolve: (answers: string[]) => void;
  reject: (error: GatewayError) => void;
}

/** A gateway over TCP: messages are asked one after the other, each answered within a time. */
export class TcpGateway implements Gateway {
  private readonly listeners: ((text: string, sent: boolean) => void)[] = [];
  private readonly waiting: Waiting[] = [];
  private timer: NodeJS.Timeout | undefined;
  private buffer = "";
  private gone: string | null = null;

  private constructor(
    private readonly socket: Socket,
    private readonly called: Called,
    private readonly timeout: number,
  ) {
    socket.setEncoding("utf8");
    socket.setNoDelay(true);
    socket.on("data", (text: string) => this.heard(text));
    socket.on("error", (error) => this.end(`The ${called.name} cannot be reached: ${error.message}.`));
    socket.on("close", () =>
      this.end(
        `The ${called.name} closed the connection in the middle of it. Look at ${called.lookAt}, and start it again.`,
      ),
    );
  }

  /** @param timeout in which each message must be answered, milliseconds @throws {GatewayError} when nobody is there */
  static open(port: number, called: Called, timeout: number): Promise<TcpGateway> {
    return new Promise((resolve, reject) => {
      const socket = connect({ port, host: "127.0.0.1" });
      socket.once("error", (error) =>
        reject(new GatewayError(`The ${called.name} cannot be reached: ${error.message}.`)),
      );
      socket.once("connect", () => resolve(new TcpGateway(socket, called, timeout)));
    });
  }

  listen(listener: (text: string, sent: boolean) => void): void {
    this.listeners.push(listener);
  }

  send(text: string): void {
    if (this.gone !== null) throw new GatewayError(this.gone);
    this.write(text);
  }

  ask(text: string): Promise<string[]> {
    return new Promise((resolve, reject) => {
      if (this.gone !== null) {
        reject(new GatewayError(this.gone));
        return;
      }
      this.waiting.push({ text, answers: [], resolve, reject });
      if (this.waiting.length === 1) this.next();
    });
  }

  get isOpen(): boolean {
    return this.gone === null;
  }

  close(): void {
    this.end("It was stopped.");
  }

  private next(): void {
    const [first] = this.waiting;
    if (!first) return;
    this.write(first.text);
    this.timer = setTimeout(() => {
      const { name, lookAt } = this.called;
      const seconds = (this.timeout / 1000).toFixed(1);
      // what might still come would be taken for the answer to the next message: the connection is opened anew for that
      this.end(`The ${name} did not answer "${first.text}" within ${seconds} s. Look at ${lookAt}.`);
    }, this.timeout);
  }

  private write(text: string): void {
    this.socket.write(this.called.end === "\n" ? `${text}\n` : text);
    for (const listener of this.listeners) listener(text, true);
  }

  private heard(text: string): void {
    const { messages, rest } = messagesIn(this.buffer + text, this.called.end);
    this.buffer = rest;
    if (rest.length > MOST_CHARACTERS) {
      this.end(`The ${this.called.name} babbles: ${MOST_CHARACTERS} characters without an end. It was let go.`);
      return;
    }
    for (const message of messages) {
      for (const listener of this.listeners) listener(message, false);
      const [first] = this.waiting;
      if (!first) continue;
      first.answers.push(message);
      if (LAST.test(message)) this.answered(first, message);
      else if (first.answers.length > MOST_ANSWERS) first.answers.splice(0, first.answers.length - MOST_ANSWERS);
    }
  }

  private answered(first: Waiting, last: string): void {
    if (last.startsWith("ERR")) {
      const why = last.replace(/^ERR\s*/, "").replace(/;$/, "");
      this.settle(first, `The ${this.called.name} refuses "${first.text}": ${why}.`);
    } else this.settle(first, null);
  }

  private settle(waiting: Waiting, problem: string | null): void {
    clearTimeout(this.timer);
    if (this.waiting[0] !== waiting) return;
    this.waiting.shift();
    if (problem === null) waiting.resolve(waiting.answers);
    else waiting.reject(new GatewayError(problem));
    this.next();
  }

  private end(why: string): void {
    if (this.gone !== null) return;
    this.gone = why;
    clearTimeout(this.timer);
    for (const { reject } of this.waiting.splice(0)) reject(new GatewayError(why));
    this.socket.destroy();
  }
}
