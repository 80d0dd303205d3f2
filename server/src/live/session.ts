import type { ChildProcess } from "node:child_process";
import {
  accessoryPacket,
  addressRange,
  BUS_FAULTS,
  FEEDBACK_FAULTS,
  type Hardware,
  hexOf,
  LOCK_OPEN,
  STATION_FAULTS,
} from "@alderman/core";
import { startBeside } from "../house.ts";
import { GATEWAY_NAMES, type Gateway, GatewayError, type GatewayName, type Message } from "./gateway.ts";
import type { FromStandIn, ToStandIn } from "./standIn.ts";
import { type Called, TcpGateway } from "./tcpGateway.ts";

/** Time in which a message must be answered, and a stand-in be there, milliseconds. */
const ANSWER_TIME = 1_500;
const START_TIME = 20_000;
/** Messages that are kept for a window that comes later. */
const MOST_KEPT = 5_000;

const CALLED: Record<GatewayName, Called> = {
  station: { name: "command station", lookAt: "its power, its cable, and whether the track is shorted", end: "\n" },
  bus: { name: "event bus", lookAt: "the two terminators, H and L for a short, and the power of its nodes", end: ";" },
  feedback: { name: "feedback bus", lookAt: "its plug and the power of the encoders", end: "\n" },
};

/** What can be amiss with each stand-in, in words. */
export const FAULTS: Record<GatewayName, Record<string, string>> = {
  station: STATION_FAULTS,
  bus: BUS_FAULTS,
  feedback: FEEDBACK_FAULTS,
};

interface Running {
  child: ChildProcess;
  port: number;
  gateway: Gateway;
  faults: Set<string>;
}

/** The stand-ins of one railway while they run, and all that goes over their lines. */
export class LiveSession {
  private readonly running = new Map<GatewayName, Running>();
  private readonly kept: Message[] = [];
  private readonly listeners = new Set<(message: Message) => void>();
  private readonly endings = new Set<() => void>();
  /** Devices that a window is programming. */
  private readonly busy = new Set<string>();

  /** Starts a stand-in for each line of the railway that has something on it. @throws {GatewayError} when one does not start */
  static async start(hardware: Hardware): Promise<LiveSession> {
    const session = new LiveSession();
    const wanted = GATEWAY_NAMES.filter((name) => isWorthIt(name, hardware));
    try {
      for (const name of wanted) await session.run(name, hardware);
    } catch (error) {
      session.stop();
      throw error;
    }
    return session;
  }

  get status(): { gateways: { name: GatewayName; faults: string[] }[] } {
    const gateways = [...this.running].map(([name, { faults }]) => ({ name, faults: [...faults] }));
    return { gateways };
  }

  /**
   * Hears every message from now on.
   * @param ended called when the stand-ins are stopped
   * @returns the last messages so far, and how to stop listening
   */
  listen(listener: (message: Message) => void, ended: () => void): { kept: readonly Message[]; stop: () => void } {
    this.listeners.add(listener);
    this.endings.add(ended);
    const stop = () => {
      this.listeners.delete(listener);
      this.endings.delete(ended);
    };
    return { kept: [...this.kept], stop };
  }

  /** Whoever listens is told that nothing more comes. */
  stop(): void {
    for (const ended of this.endings) ended();
    this.endings.clear();
    this.listeners.clear();
    for (const { child, gateway } of this.running.values()) {
      gateway.close();
      child.kill();
    }
    this.running.clear();
  }

  setFault(name: GatewayName, fault: string, on: boolean): void {
    const running = this.running.get(name);
    if (!running || !(fault in FAULTS[name]))
      throw new GatewayError(`There is no fault "${fault}" of the ${CALLED[name].name}.`);
    running.faults[on ? "add" : "delete"](fault);
    running.child.send({ kind: "fault", fault, on } satisfies ToStandIn);
  }

  /** @throws {GatewayError} when it is not there, or does not answer */
  async ask(name: GatewayName, text: string): Promise<string[]> {
    return (await this.gateway(name)).ask(text);
  }

  /** @throws {GatewayError} when it is not there */
  async send(name: GatewayName, text: string): Promise<void> {
    (await this.gateway(name)).send(text);
  }

  /** Throws an address, as the owner's throttle would. @returns the outputs that moved, as "D1-3", and those that took it for their own */
  async throwAddress(address: number, shift: 0 | 4, to: "N" | "R"): Promise<{ moved: string[]; took: string[] }> {
    const direction = to === "N" ? "straight" : "diverging";
    const { first, last } = addressRange(shift);
    if (address < first || address > last)
      throw new GatewayError(`No decoder can have the address ${address}; throw one from ${first} to ${last}.`);
    const { bytes } = accessoryPacket(address, shift, direction, true);
    const answers = await this.ask("station", `PACKET ${bytes.map(hexOf).join(" ")}`);
    const of = (word: string) =>
      answers.flatMap((answer) => {
        const [first, label, way] = answer.split(" ");
        return first === word ? [`${label}-${way}`] : [];
      });
    return { moved: of("SEEN"), took: of("TOOK") };
  }

  /**
   * Puts a packet on the track, as it is.
   * @param onTrack the decoder that is alone on the programming track, for packets of service mode
   * @returns what was seen of it: outputs that moved, signals, variables
   */
  async sendPacket(bytes: readonly number[], onTrack: string | null): Promise<string[]> {
    if (onTrack !== null) await this.ask("station", `TRACK ${onTrack}`);
    const answers = await this.ask("station", `PACKET ${bytes.map(hexOf).join(" ")}`);
    return answers.filter((answer) => answer !== "OK");
  }

  /** Programs one output of a decoder, and throws the address to see that it answers. */
  program(label: string, way: number, address: number, shift: 0 | 4): Promise<{ answers: boolean }> {
    return this.alone(label, async () => {
      await this.ask("station", `PRESS ${label} ${way}`);
      let took: string[] = [];
      try {
        ({ took } = await this.throwAddress(address, shift, "R"));
      } finally {
        // a board that was left in programming would take the next address that anybody throws
        await this.ask("station", `LEAVE ${label}`).catch(() => {});
      }
      if (!took.includes(`${label}-${way}`))
        throw new GatewayError(
          `${label}-${way} did not take ${address}. Look whether it is in programming, and has power.`,
        );
      const { moved } = await this.throwAddress(address, shift, "N");
      return { answers: moved.includes(`${label}-${way}`) };
    });
  }

  /** Reads a setting; asked twice when the first time it is not answered: reading changes nothing. */
  async readSetting(label: string, way: number, name: string): Promise<string> {
    const text = `READ ${label} ${way} ${name}`;
    const answers = await this.ask("station", text).catch(() => this.ask("station", text));
    return (answers.at(-1) ?? "").replace(/^VALUE\s*/, "");
  }

  /**
   * Writes a setting and reads it back. When the writing is not answered nobody knows whether it was done: it is read first, and
   * written once more only when it was not.
   * @param lock name of the device's lock, which is open meanwhile and set again whatever happens; null where it has none
   * @returns what was read back
   */
  writeSetting(label: string, way: number, name: string, value: string, lock: string | null): Promise<string> {
    return this.alone(label, async () => {
      if (lock === null) return this.writeAndRead(label, way, name, value);
      await this.ask("station", `WRITE ${label} 0 ${lock} = ${LOCK_OPEN}`);
      try {
        return await this.writeAndRead(label, way, name, value);
      } finally {
        await this.ask("station", `WRITE ${label} 0 ${lock} = set`).catch(() => {});
      }
    });
  }

  private async writeAndRead(label: string, way: number, name: string, value: string): Promise<string> {
    const write = () => this.ask("station", `WRITE ${label} ${way} ${name} = ${value}`);
    try {
      await write();
    } catch (error) {
      if ((await this.readSetting(label, way, name)) !== value) {
        await write().catch(() => {
          throw error;
        });
      }
    }
    return this.readSetting(label, way, name);
  }

  /** Does something with a device that no other window may do at the same time. */
  private async alone<T>(label: string, work: () => Promise<T>): Promise<T> {
    if (this.busy.has(label)) throw new GatewayError(`Another window is programming ${label}. Wait until it has done.`);
    this.busy.add(label);
    try {
      return await work();
    } finally {
      this.busy.delete(label);
    }
  }

  /** The gateway, opened anew when it was closed. */
  private async gateway(name: GatewayName): Promise<Gateway> {
    const running = this.running.get(name);
    if (!running) throw new GatewayError(`Nothing of this railway is on the ${CALLED[name].name}.`);
    if (!running.gateway.isOpen) running.gateway = await this.open(name, running.port);
    return running.gateway;
  }

  private async open(name: GatewayName, port: number): Promise<Gateway> {
    const gateway = await TcpGateway.open(port, CALLED[name], ANSWER_TIME);
    gateway.listen((text, sent) => this.note({ at: Date.now(), from: name, sent, text }));
    return gateway;
  }

  private async run(name: GatewayName, hardware: Hardware): Promise<void> {
    const child = startBeside("live/standIn", [], { stdio: ["ignore", "ignore", "inherit", "ipc"] });
    try {
      const port = await portOf(child, name, hardware);
      this.running.set(name, { child, port, gateway: await this.open(name, port), faults: new Set() });
    } catch (error) {
      child.kill();
      throw error;
    }
  }

  private note(message: Message): void {
    this.kept.push(message);
    if (this.kept.length > 2 * MOST_KEPT) this.kept.splice(0, this.kept.length - MOST_KEPT);
    for (const listener of this.listeners) listener(message);
  }
}

function isWorthIt(name: GatewayName, { decoders, settings, nodes, encoders }: Hardware): boolean {
  if (name === "bus") return nodes.length > 0;
  return name === "feedback" ? encoders.length > 0 : decoders.length > 0 || settings.length > 0;
}

function portOf(child: ChildProcess, name: GatewayName, hardware: Hardware): Promise<number> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(
      () => reject(new GatewayError(`The stand-in of the ${CALLED[name].name} did not start.`)),
      START_TIME,
    );
    child.once("message", ({ port }: FromStandIn) => {
      clearTimeout(timer);
      resolve(port);
    });
    child.once("exit", () => {
      clearTimeout(timer);
      reject(new GatewayError(`The stand-in of the ${CALLED[name].name} ended by itself.`));
    });
    child.send({ kind: "start", name, hardware } satisfies ToStandIn);
  });
}
