import { Circuit } from "./circuit.ts";
import {
  type Capacitor,
  CircuitError,
  type Coil,
  type Element,
  type Netlist,
  type VoltageSource,
  type Wave,
} from "./elements.ts";
import { operatingPoint } from "./operatingPoint.ts";

export interface TransientRequest {
  /** Length, seconds. */
  stop: number;
  /**
   * `rest`: begins from the operating point; capacitors and coils with a stated charge or current keep that.
   * `stated`: all others begin empty.
   */
  begin: "rest" | "stated";
  /** Nodes whose volts, and elements whose volts and amps, are kept for each step. */
  watch: { nodes?: readonly string[]; elements?: readonly string[] };
  /** Elements from given moments on, such as a switch let go; alike in order, kind and nodes. */
  changes?: readonly { at: number; elements: readonly Element[] }[];
  /** Longest step, seconds; a two-hundredth of the length when not given. */
  longestStep?: number;
  /** Share of the greatest value so far that a step may be wrong by; 1e-4 when not given. */
  accuracy?: number;
}

export interface Transient {
  /** Moments, seconds, unevenly spaced. */
  times: number[];
  /** Volts against ground of the watched nodes, at each moment. */
  nodes: Map<string, number[]>;
  /** Volts across and amps through the watched elements, at each moment. */
  elements: Map<string, { volts: number[]; amps: number[] }>;
  /** Breakers that tripped, with the moment. */
  trips: { id: string; at: number }[];
  steps: number;
}

/** Share of a step at which the trapezoidal half ends, so that both halves have the same matrix. */
const GAMMA = 2 - Math.SQRT2;
const ERROR_SHARE = (-3 * GAMMA ** 2 + 4 * GAMMA - 2) / (12 * (2 - GAMMA));
const MOST_STEPS = 200_000;
/** Shares of the whole length: the first step after anything sudden, and the least step. */
const FIRST_SHARE = 1e-6;
const LEAST_SHARE = 1e-12;

/**
 * What a circuit does over time, by a trapezoidal half-step and a second-order backward difference over the whole step
 * (TR-BDF2), its step chosen by the error of each capacitor and coil; a plain backward Euler step follows anything sudden.
 *
 * Source: Bank, Coughran, Fichtner, Grosse, Rose, Smith, "Transient simulation of silicon devices and circuits", 1985.
 * @param circuit what an earlier one went through that was alike in names, order, kinds and nodes; found out when not given
 * @throws {CircuitError} when a figure is impossible or no step is small enough
 */
export function transient(netlist: Netlist, request: TransientRequest, circuit = movingCircuit(netlist)): Transient {
  return new Run(netlist, request, circuit).go();
}

/** The circuit of a netlist for transients. @throws {CircuitError} when a figure is impossible */
export function movingCircuit(netlist: Netlist): Circuit {
  return new Circuit(netlist, "moving");
}

/** Volts of a source at a moment; sudden edges of a pulse have their later value. */
export function waveAt(wave: Wave, time: number): number {
  if (wave.kind === "sine") return wave.offset + wave.amplitude * Math.sin(2 * Math.PI * wave.hertz * time);
  const { low, high, delay, rise, fall, width, period } = wave;
  if (time < delay) return low;
  const since = period > 0 ? (time - delay) % period : time - delay;
  if (since < rise) return low + ((high - low) * since) / rise;
  if (since < rise + width) return high;
  if (since < rise + width + fall) return high - ((high - low) * (since - rise - width)) / fall;
  return low;
}

/** A capacitor or coil with what it holds: volts across a capacitor or amps in a coil, and how fast they change. */
interface Store {
  index: number;
  element: Capacitor | Coil;
  held: number;
  /** Amps of a capacitor, volts across a coil's inductance: what the change of `held` goes by. */
  flow: number;
  middle: number;
  middleFlow: number;
  next: number;
  nextFlow: number;
  greatest: number;
}

/** Watched values at one moment. */
interface Seen {
  nodes: number[];
  elements: { volts: number; amps: number }[];
}

class Run {
  private readonly stores: Store[];
  private readonly waves: { index: number; element: VoltageSource & { wave: Wave } }[];
  private elements: Element[];
  private readonly result: Transient;
  private readonly watchedAt: readonly number[];
  /** Something is watched that only a whole solution tells: a node, or the current of an ideal source. */
  private readonly needsPoint: boolean;
  /** What was seen at the end of the trapezoidal half of the present step. */
  private half: Seen | null = null;
  private readonly over = new Map<number, number>();

  constructor(
    netlist: Netlist,
    private readonly request: TransientRequest,
    private readonly circuit: Circuit,
  ) {
    if (!(request.stop > 0 && request.stop < 1e9)) throw new CircuitError(`${request.stop} s is no length of time.`);
    this.elements = [...netlist.elements];
    this.circuit.forget();
    this.circuit.give(this.elements);
    this.waves = this.elements.flatMap((element, index) =>
      element.kind === "voltage" && element.wave ? [{ index, element: { ...element, wave: element.wave } }] : [],
    );
    this.stores = this.begin(netlist);
    const watched = request.watch.elements ?? [];
    this.watchedAt = watched.map((id) => {
      const index = this.circuit.indexOf.get(id);
      if (index === undefined) throw new CircuitError(`There is no element ${id} to watch.`);
      return index;
    });
    this.needsPoint =
      (request.watch.nodes ?? []).length > 0 ||
      this.watchedAt.some((index) => this.elements[index]?.kind === "voltage");
    this.result = {
      times: [],
      nodes: new Map((request.watch.nodes ?? []).map((name) => [name, []])),
      elements: new Map(watched.map((id) => [id, { volts: [], amps: [] }])),
      trips: [],
      steps: 0,
    };
  }

  private begin(netlist: Netlist): Store[] {
    const atRest = this.request.begin === "rest" ? operatingPoint(this.withWaves(netlist, 0)) : null;
    return this.elements.flatMap((element, index): Store[] => {
      if (element.kind !== "capacitor" && element.kind !== "coil") return [];
      const rest =
        element.kind === "capacitor" ? atRest?.between(element.nodes[0], element.nodes[1]) : atRest?.amps(element.id);
      const held = (element.kind === "capacitor" ? element.volts : element.amps) ?? rest ?? 0;
      const zero = { flow: 0, middle: 0, middleFlow: 0, next: 0, nextFlow: 0 };
      return [{ index, element, held, ...zero, greatest: Math.abs(held) }];
    });
  }

  private withWaves({ ground, elements }: Netlist, time: number): Netlist {
    return {
      ground,
      elements: elements.map((element) =>
        element.kind === "voltage" && element.wave ? { ...element, volts: waveAt(element.wave, time) } : element,
      ),
    };
  }

  go(): Transient {
    const { stop, changes = [], longestStep = stop / 200 } = this.request;
    const breaks = [...new Set([...changes.map(({ at }) => at), ...this.edges(), stop])].filter(
      (t) => t > 0 && t <= stop,
    );
    breaks.sort((a, b) => a - b);
    let time = 0;
    let sudden = true;
    let step = stop * FIRST_SHARE;
    this.change(0);
    for (const end of breaks) {
      while (time < end - stop * LEAST_SHARE) {
        if (this.result.steps++ > MOST_STEPS)
          throw new CircuitError(`The circuit needs more than ${MOST_STEPS} steps; ask for a shorter time.`);
        step = Math.min(step, longestStep, end - time);
        if (step < stop * LEAST_SHARE)
          throw new CircuitError(
            "The circuit changes faster than any step can follow. Look for a contact that chatters.",
          );
        const error = sudden ? this.eulerStep(time, step) : this.fullStep(time, step);
        if (error > 1) {
          step *= Math.max(0.2, 0.9 / Math.cbrt(error));
          continue;
        }
        const flips = this.flips(time, step);
        if (flips.length > 0 && step > stop * FIRST_SHARE * 1.01) {
          // something switches within the step: come closer to the moment before letting it
          step = Math.max(step / 8, stop * FIRST_SHARE);
          continue;
        }
        // the first moment has the currents of the first, tiny step
        if (this.result.times.length === 0) this.keep(time, this.look());
        if (!sudden && this.half) this.keep(time + GAMMA * step, this.half);
        time += step;
        this.accept(time);
        sudden = flips.length > 0;
        for (const index of flips) this.flip(index, time);
        if (!sudden) step *= Math.min(4, Math.max(0.3, 0.9 / Math.cbrt(Math.max(error, 1e-6))));
        else step = stop * FIRST_SHARE;
      }
      time = end;
      if (end < stop) {
        this.change(end);
        sudden = true;
        step = stop * FIRST_SHARE;
      }
    }
    return this.result;
  }

  /** Moments at which pulses turn a corner. */
  private edges(): number[] {
    const { stop } = this.request;
    return this.waves.flatMap(({ element: { wave } }) => {
      if (wave.kind !== "pulse") return [];
      const corners = [0, wave.rise, wave.rise + wave.width, wave.rise + wave.width + wave.fall];
      const times: number[] = [];
      for (let start = wave.delay; start < stop; start += wave.period) {
        times.push(...corners.map((corner) => start + corner));
        if (!(wave.period > 0)) break;
      }
      return times;
    });
  }

  /** Takes over the elements that hold from a moment on. */
  private change(time: number): void {
    for (const { at, elements } of this.request.changes ?? []) if (at === time) this.elements = [...elements];
    this.circuit.give(this.elements);
  }

  private setWaves(time: number): void {
    if (this.waves.length === 0) return;
    const made = this.circuit.switching.map((index) => [index, this.circuit.isMade(index)] as const);
    for (const { index, element } of this.waves)
      this.elements[index] = { ...element, volts: waveAt(element.wave, time) };
    this.elements = [...this.elements];
    this.circuit.give(this.elements);
    for (const [index, was] of made) this.circuit.setMade(index, was);
  }

  /** Backward Euler: needs nothing but what is held, so it may follow anything sudden. Returns 0: its steps are tiny. */
  private eulerStep(time: number, step: number): number {
    for (const store of this.stores) this.lay(store, 1 / step, store.held / step, 0, 0);
    this.setWaves(time + step);
    this.circuit.settle(false);
    for (const store of this.stores) [store.next, store.nextFlow] = this.read(store);
    return 0;
  }

  /** One step of TR-BDF2; returns its error in multiples of what is allowed. */
  private fullStep(time: number, step: number): number {
    const slope = 2 / (GAMMA * step);
    for (const store of this.stores) this.lay(store, slope, slope * store.held, store.flow, 1);
    this.setWaves(time + GAMMA * step);
    this.circuit.settle(false);
    for (const store of this.stores) [store.middle, store.middleFlow] = this.read(store);
    this.half = this.look();
    for (const store of this.stores) {
      const past = store.middle / (GAMMA * (1 - GAMMA) * step) - (store.held * (1 - GAMMA)) / (GAMMA * step);
      this.lay(store, slope, past, 0, 0);
    }
    this.setWaves(time + step);
    this.circuit.settle(false);
    const { accuracy = 1e-4 } = this.request;
    let worst = 0;
    for (const store of this.stores) {
      [store.next, store.nextFlow] = this.read(store);
      const { flow, middleFlow, nextFlow, element } = store;
      const size = element.kind === "capacitor" ? element.farads : element.henries;
      const error =
        ((2 * ERROR_SHARE * step) / size) *
        (flow / GAMMA - middleFlow / (GAMMA * (1 - GAMMA)) + nextFlow / (1 - GAMMA));
      const allowed = accuracy * Math.max(store.greatest, Math.abs(store.next)) + 1e-9;
      worst = Math.max(worst, Math.abs(error) / allowed);
    }
    return worst;
  }

  /**
   * Sets the line for: size x (slope x new - past) = new flow + share x old flow, for a capacitor's amps or a coil's volts.
   */
  private lay({ index, element }: Store, slope: number, past: number, flow: number, share: number): void {
    if (element.kind === "capacitor") {
      this.circuit.setLine(index, element.farads * slope, -element.farads * past - share * flow);
    } else {
      const siemens = 1 / (element.ohms + element.henries * slope);
      this.circuit.setLine(index, siemens, siemens * (element.henries * past + share * flow));
    }
  }

  /** What a store holds after a solution, and what flows into it. */
  private read({ index, element }: Store): [held: number, flow: number] {
    const volts = this.circuit.voltsAcross(index);
    const amps = this.circuit.ampsThrough(index);
    return element.kind === "capacitor" ? [volts, amps] : [amps, volts - element.ohms * amps];
  }

  /** Contacts that want to change at the end of a step, and breakers that have carried too much for too long. */
  private flips(time: number, step: number): number[] {
    return this.circuit.switching.filter((index) => {
      const element = this.elements[index] as Element;
      const wants = this.circuit.wantsToFlip(index);
      if (element.kind !== "breaker") return wants;
      if (!wants) {
        this.over.delete(index);
        return false;
      }
      const since = this.over.get(index) ?? time;
      this.over.set(index, since);
      return time + step - since >= element.seconds;
    });
  }

  private flip(index: number, time: number): void {
    const element = this.elements[index] as Element;
    if (element.kind === "breaker") this.result.trips.push({ id: element.id, at: time });
    this.circuit.setMade(index, !this.circuit.isMade(index));
  }

  /** Makes the end of a step the beginning of the next. */
  private accept(time: number): void {
    for (const store of this.stores) {
      store.held = store.next;
      store.flow = store.nextFlow;
      store.greatest = Math.max(store.greatest, Math.abs(store.held));
    }
    this.keep(time, this.look());
  }

  /** What is watched, as last solved. */
  private look(): Seen {
    const { circuit } = this;
    const point = this.needsPoint ? circuit.point() : null;
    const nodes = [...this.result.nodes.keys()].map((name) => point?.volts(name) ?? 0);
    const elements = this.watchedAt.map((index) => ({
      volts: circuit.voltsAcross(index),
      amps:
        this.elements[index]?.kind === "voltage"
          ? (point?.amps(this.elements[index]?.id ?? "") ?? 0)
          : circuit.ampsThrough(index),
    }));
    return { nodes, elements };
  }

  private keep(time: number, seen: Seen): void {
    this.result.times.push(time);
    let index = 0;
    for (const volts of this.result.nodes.values()) volts.push(seen.nodes[index++] ?? 0);
    index = 0;
    for (const kept of this.result.elements.values()) {
      kept.volts.push(seen.elements[index]?.volts ?? 0);
      kept.amps.push(seen.elements[index++]?.amps ?? 0);
    }
  }
}

/**
 * Time integral by trapezoids.
 * @param times ascending moments, seconds
 * @param values at those moments
 */
export function integral(times: readonly number[], values: readonly number[]): number {
  let total = 0;
  for (let index = 1; index < times.length; index++) {
    const step = (times[index] as number) - (times[index - 1] as number);
    total += (step * ((values[index] as number) + (values[index - 1] as number))) / 2;
  }
  return total;
}

/** Energy that an element took up over a transient, joules. */
export function energy(
  times: readonly number[],
  { volts, amps }: { volts: readonly number[]; amps: readonly number[] },
): number {
  return integral(
    times,
    volts.map((each, index) => each * (amps[index] as number)),
  );
}

/**
 * Heat in a resistor over the time in which its current is at least so much, joules.
 * @param times ascending moments, seconds
 * @param amps at those moments, in a straight line between them
 * @param share by which every current is multiplied, as from a source of so much fewer volts
 */
export function energyAbove(
  times: readonly number[],
  amps: readonly number[],
  ohms: number,
  least: number,
  share = 1,
): number {
  let total = 0;
  for (let index = 1; index < times.length; index++) {
    const step = (times[index] as number) - (times[index - 1] as number);
    const [a, b] = [Math.abs(amps[index - 1] as number) * share, Math.abs(amps[index] as number) * share];
    const [low, high] = [Math.min(a, b), Math.max(a, b)];
    if (high < least) continue;
    // of a step that begins or ends below it, the part above
    const from = Math.max(low, least);
    const part = high > low ? (high - from) / (high - low) : 1;
    total += (step * part * (from * from + from * high + high * high)) / 3;
  }
  return total * ohms;
}
