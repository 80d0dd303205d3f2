/** What of a layout a gateway leads to. */
export const GATEWAY_NAMES = ["station", "bus", "feedback"] as const;
export type GatewayName = (typeof GATEWAY_NAMES)[number];

/** A message of a gateway as it went: sent or heard. */
export interface Message {
  /** Milliseconds since 1970. */
  at: number;
  from: GatewayName;
  sent: boolean;
  text: string;
}

/** Something did not answer as it should: a sentence that says what, and what to look at. */
export class GatewayError extends Error {
  override readonly name = "GatewayError";
}

/**
 * The port through which the program speaks to a layout. There is one implementation, over TCP, which leads to the stand-ins that
 * ship with the program; a real command station or bus would be another.
 */
export interface Gateway {
  /**
   * Sends a message and waits for its answer: all messages up to the one that ends it.
   * @throws {GatewayError} when it is not answered in time, is answered with an error, or the other side is gone
   */
  ask(text: string): Promise<string[]>;
  /** Sends a message that is not answered. @throws {GatewayError} when the other side is gone */
  send(text: string): void;
  /** Hears every message, sent and heard. */
  listen(listener: (text: string, sent: boolean) => void): void;
  /** False once the other side is gone, or did not answer in time: it is to be opened anew then. */
  readonly isOpen: boolean;
  close(): void;
}
