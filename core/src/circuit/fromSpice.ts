import { CircuitError, type DiodeModel, type Element, type Netlist, requireSensible, type Wave } from "./elements.ts";

/** What a SPICE text asks for. */
export interface SpiceCircuit {
  title: string;
  netlist: Netlist;
  /** From `.tran`; null when the text asks for an operating point only. */
  transient: { step: number; stop: number; stated: boolean } | null;
}

/** A netlist that cannot be read: which line, and what is wrong with it. */
export class NetlistError extends CircuitError {
  constructor(
    /** Number of the line in the text, from 1. */
    readonly line: number,
    message: string,
  ) {
    super(`Line ${line}: ${message}`);
  }
}

interface Line {
  number: number;
  words: string[];
}

/** Lengths and sizes beyond which a text is not taken for a circuit. */
const MOST_CHARACTERS = 1_000_000;
const MOST_ELEMENTS = 20_000;

/**
 * Reads SPICE text: R C L V I D S, B for a linear regulator `V=max(min(drop, v(in)-v(minus)), v(in)-v(minus)-volts)`, `.model`
 * of D and SW, `.op`, `.tran`, comments, continuation lines, unit suffixes.
 *
 * Letters' case does not matter; nodes keep the spelling of their first mention; "gnd" is node 0. The first line is the
 * title unless it reads as an element or a command.
 * @throws {NetlistError} with the line's number and what to do
 */
export function fromSpice(text: string): SpiceCircuit {
  if (text.length > MOST_CHARACTERS) throw new NetlistError(1, "the text is longer than a million characters.");
  const lines = text.split(/\r?\n/);
  const first = lines[0] ?? "";
  const isTitle = !/^\s*[*.+]/.test(first) && !readsAsElement(first);
  const logical = joined(isTitle ? ["", ...lines.slice(1)] : lines);
  const reader = new Reader(logical);
  return { title: isTitle ? first.trim() : first.replace(/^\s*\*\s*/, "").trim(), ...reader.read() };
}

/**
 * A number with SPICE's unit suffixes; letters after a suffix are passed over.
 * @example spiceNumber("4.7k") // 4700
 * @example spiceNumber("2Meg") // 2000000
 * @returns undefined when it is no number
 */
export function spiceNumber(word: string): number | undefined {
  const match = /^([+-]?(?:\d+\.?\d*|\.\d+))(?:e([+-]?\d+))?([a-z]*)$/i.exec(word);
  if (!match) return undefined;
  const [, digits = "", power = "0", letters = ""] = match;
  const suffix = Object.keys(POWERS).find((each) => letters.toLowerCase().startsWith(each));
  // by its power of ten rather than by a product, so that 10u is exactly 1e-5
  const value = Number(`${digits}e${Number(power) + (suffix ? (POWERS[suffix] ?? 0) : 0)}`);
  return suffix === "mil" ? value * 25.4 : value;
}

// longer ones first, so that "meg" and "mil" are not taken for "m"; a mil is 25.4e-6 m
const POWERS: Record<string, number> = { meg: 6, mil: -6, t: 12, g: 9, k: 3, m: -3, u: -6, n: -9, p: -12, f: -15 };

function readsAsElement(line: string): boolean {
  const words = line.trim().split(/\s+/);
  const letter = words[0]?.[0]?.toLowerCase() ?? "";
  const value = words[3] ?? "";
  if ("rcl".includes(letter) && letter) return words.length >= 4 && spiceNumber(value) !== undefined;
  if ("vi".includes(letter) && letter)
    return words.length >= 4 && (spiceNumber(value) !== undefined || /^(dc|sin|pulse)/i.test(value));
  return letter === "d" && words.length === 4;
}

/** Lines without comments, those that begin with + added to the one before. */
function joined(lines: readonly string[]): Line[] {
  const result: Line[] = [];
  for (const [index, line] of lines.entries()) {
    const bare = line.replace(/[;$].*$/, "").trim();
    if (bare === "" || bare.startsWith("*")) continue;
    const words = bare
      .replace(/^\+/, "")
      .replace(/[(),]/g, " ")
      .replace(/\s+/g, " ")
      .replace(/ ?= ?/g, "=")
      .trim()
      .split(/\s+/);
    const before = result.at(-1);
    if (!bare.startsWith("+")) result.push({ number: index + 1, words });
    else if (before) before.words.push(...words);
    else throw new NetlistError(index + 1, "it goes on from a line that is not there. Take the + away.");
  }
  return result;
}

type Model = { kind: "d"; diode: DiodeModel } | { kind: "sw"; vt: number; vh: number; ron: number; roff: number };

/** Parameters of a diode that play no part at 27 C in a circuit without its own capacitance. */
const HARMLESS = new Set(["cjo", "cj0", "vj", "m", "tt", "eg", "xti", "fc", "kf", "af", "tnom", "bv", "ibv", "level"]);

class Reader {
  private readonly models = new Map<string, Model>();
  private readonly spelling = new Map<string, string>();

  constructor(private readonly lines: readonly Line[]) {}

  read(): Omit<SpiceCircuit, "title"> {
    for (const line of this.lines) if (/^\.model$/i.test(line.words[0] ?? "")) this.readModel(line);
    const elements: Element[] = [];
    const names = new Map<string, number>();
    let transient: SpiceCircuit["transient"] = null;
    for (const line of this.lines) {
      const word = (line.words[0] ?? "").toLowerCase();
      if (word === ".end") break;
      if (word === ".tran") transient = this.readTransient(line);
      if (word.startsWith(".")) {
        if (![".op", ".model", ".tran", ".options", ".option", ".temp"].includes(word))
          throw new NetlistError(line.number, `${word} is not known here; .model, .op, .tran and .end are.`);
        continue;
      }
      const twin = names.get(word);
      if (twin !== undefined)
        throw new NetlistError(line.number, `${line.words[0]} stands on line ${twin} already. Give it another name.`);
      names.set(word, line.number);
      elements.push(this.readElement(line));
      if (elements.length > MOST_ELEMENTS)
        throw new NetlistError(line.number, `there are more than ${MOST_ELEMENTS} elements.`);
    }
    if (elements.length === 0) throw new NetlistError(1, "there is no element. Write lines such as R1 a 0 100.");
    if (!this.spelling.has("0"))
      throw new NetlistError(
        this.lines[0]?.number ?? 1,
        "no element is joined to node 0. Call one node 0: it counts as 0 V.",
      );
    return { netlist: { ground: "0", elements }, transient };
  }

  private readElement(line: Line): Element {
    const [name = "", ...words] = line.words;
    const letter = name[0]?.toLowerCase() ?? "";
    const fail = (message: string) => new NetlistError(line.number, message);
    if (!"rclvidsb".includes(letter))
      throw fail(`${name} is no element known here; names begin with R, C, L, V, I, D, S or B.`);
    const [a, b] = words;
    if (a === undefined || b === undefined) throw fail(`${name} needs two nodes.`);
    const nodes: [string, string] = [this.node(a), this.node(b)];
    const rest = words.slice(2);
    const base = { id: name, nodes };
    const value = (what: string): number => {
      const number = spiceNumber(rest[0] ?? "");
      if (number === undefined)
        throw fail(`${name} needs its ${what} after the two nodes, as in ${name} ${a} ${b} 100.`);
      return number;
    };
    const element = ((): Element => {
      switch (letter) {
        case "r":
          return { kind: "resistor", ...base, ohms: value("ohms") };
        case "c":
          return { kind: "capacitor", ...base, farads: value("farads"), ...this.start(rest, "volts", fail) };
        case "l":
          return { kind: "coil", ...base, henries: value("henries"), ohms: 0, ...this.start(rest, "amps", fail) };
        case "i":
          return { kind: "current", ...base, amps: steady(rest, name, fail).value };
        case "v": {
          const { value: volts, wave } = steady(rest, name, fail);
          return { kind: "voltage", ...base, volts, ...(wave ? { wave } : {}) };
        }
        case "b":
          return this.regulator(base, rest, fail);
        case "d":
          return { kind: "diode", ...base, model: this.diode(rest[0], name, fail) };
        default:
          return this.controlled(base, rest, name, fail);
      }
    })();
    try {
      requireSensible(element);
    } catch (error) {
      throw fail(error instanceof Error ? error.message : String(error));
    }
    return element;
  }

  private node(word: string): string {
    const key = word.toLowerCase() === "gnd" ? "0" : word.toLowerCase();
    const known = this.spelling.get(key);
    if (known !== undefined) return known;
    const spelled = key === "0" ? "0" : word;
    this.spelling.set(key, spelled);
    return spelled;
  }

  /** A source that takes what keeps its second node at its volts. */
  private regulator(base: { id: string; nodes: [string, string] }, rest: readonly string[], fail: Fail): Element {
    const [input] = base.nodes;
    // V=max(min(drop, v(in)-v(minus)), v(in)-v(minus)-volts), brackets and commas read as blanks
    const found = /^v=max min (\S+) v (\S+) -v (\S+) v (\S+) -v (\S+) -(\S+)$/i.exec(rest.join(" "));
    const [, drop = "", first = "", minus = "", again = "", minusAgain = "", less = ""] = found ?? [];
    const [dropOut, volts] = [spiceNumber(drop), spiceNumber(less)];
    const isOne = [first, again].every((name) => this.node(name) === input) && minus === minusAgain;
    if (!found || !isOne || dropOut === undefined || volts === undefined)
      throw fail(
        `${base.id} is no regulator; the one expression known here is V=max(min(drop, v(${input})-v(minus)), v(${input})-v(minus)-volts).`,
      );
    const nodes: [string, string] = [base.nodes[1], this.node(minus)];
    return { kind: "voltage", ...base, volts: dropOut, holds: { nodes, volts, dropOut } };
  }

  private start<K extends "volts" | "amps">(words: readonly string[], key: K, fail: Fail): Partial<Record<K, number>> {
    const stated = words.find((word) => /^ic=/i.test(word));
    if (!stated) return {};
    const number = spiceNumber(stated.slice(3));
    if (number === undefined) throw fail(`"${stated}" is no number.`);
    return { [key]: number } as Partial<Record<K, number>>;
  }

  private diode(word: string | undefined, name: string, fail: Fail): DiodeModel {
    const model = this.models.get(word?.toLowerCase() ?? "");
    if (model?.kind !== "d")
      throw fail(`${name} is of model ${word ?? "(none)"}, of which there is no line .model ${word ?? "NAME"} D(...).`);
    return model.diode;
  }

  private controlled(base: { id: string; nodes: [string, string] }, rest: string[], name: string, fail: Fail): Element {
    const [plus, minus, word = "", state = "off"] = rest;
    const model = this.models.get(word.toLowerCase());
    if (plus === undefined || minus === undefined || model?.kind !== "sw")
      throw fail(`${name} needs two nodes, two controlling nodes and a model with a line .model NAME SW(...).`);
    const control = {
      nodes: [this.node(plus), this.node(minus)] as [string, string],
      onVolts: model.vt + model.vh,
      offVolts: model.vt - model.vh,
    };
    const closed = state.toLowerCase() === "on";
    return { kind: "switch", ...base, closed, onOhms: model.ron, offOhms: model.roff, control };
  }

  private readModel(line: Line): void {
    const [, name = "", kind = "", ...parameters] = line.words;
    const values: Record<string, number> = {};
    for (const parameter of parameters) {
      const [key = "", word = ""] = parameter.toLowerCase().split("=");
      const number = spiceNumber(word);
      if (number === undefined) throw new NetlistError(line.number, `"${parameter}" is not of the form NAME=number.`);
      values[key] = number;
    }
    const known = kind.toLowerCase() === "d" ? ["is", "n", "rs"] : ["vt", "vh", "ron", "roff"];
    if (!["d", "sw"].includes(kind.toLowerCase()))
      throw new NetlistError(line.number, `models of kind "${kind}" are not known here; D and SW are.`);
    for (const key of Object.keys(values)) {
      if (!known.includes(key) && !(kind.toLowerCase() === "d" && HARMLESS.has(key)))
        throw new NetlistError(
          line.number,
          `the parameter ${key.toUpperCase()} is not known here; ${known.join(", ").toUpperCase()} are.`,
        );
    }
    const { is = 1e-14, n = 1, rs = 0, vt = 0, vh = 0, ron = 1, roff = 1e12 } = values;
    this.models.set(
      name.toLowerCase(),
      kind.toLowerCase() === "d" ? { kind: "d", diode: { is, n, rs } } : { kind: "sw", vt, vh, ron, roff },
    );
  }

  private readTransient({ number, words }: Line): SpiceCircuit["transient"] {
    const [step, stop] = words.slice(1).map(spiceNumber);
    if (!(step !== undefined && stop !== undefined && step > 0 && stop > 0))
      throw new NetlistError(number, ".tran needs a step and a length in seconds, as in .tran 1u 20m.");
    return { step, stop, stated: words.some((word) => /^uic$/i.test(word)) };
  }
}

type Fail = (message: string) => NetlistError;

/** The steady value of a source, and its wave when it has one. */
function steady(words: readonly string[], name: string, fail: Fail): { value: number; wave?: Wave } {
  let value: number | undefined;
  let wave: Wave | undefined;
  for (let index = 0; index < words.length; index++) {
    const word = (words[index] ?? "").toLowerCase();
    if (word === "dc") continue;
    if (word === "ac") {
      // small-signal amplitude and phase: of no account here
      while (spiceNumber(words[index + 1] ?? "") !== undefined) index++;
      continue;
    }
    if (word === "sin" || word === "pulse") {
      const numbers = words.slice(index + 1).map(spiceNumber);
      if (numbers.some((number) => number === undefined))
        throw fail(`the wave of ${name} has something that is no number.`);
      wave = waveOf(word, numbers as number[], name, fail);
      break;
    }
    const number = spiceNumber(word);
    if (number === undefined)
      throw fail(`${name}: "${words[index]}" is no value. Write DC and a number, SIN(...) or PULSE(...).`);
    value = number;
  }
  if (value === undefined && !wave) throw fail(`${name} needs a value after its two nodes.`);
  return { value: value ?? (wave?.kind === "sine" ? wave.offset : (wave?.low ?? 0)), ...(wave ? { wave } : {}) };
}

function waveOf(kind: "sin" | "pulse", numbers: readonly number[], name: string, fail: Fail): Wave {
  if (kind === "sin") {
    const [offset, amplitude, hertz, ...more] = numbers;
    if (offset === undefined || amplitude === undefined || !hertz || more.some((each) => each !== 0))
      throw fail(`the wave of ${name} must be SIN(offset amplitude hertz).`);
    return { kind: "sine", offset, amplitude, hertz };
  }
  const [low, high, delay = 0, rise = 0, fall = 0, width = Number.POSITIVE_INFINITY, period = 0] = numbers;
  if (low === undefined || high === undefined)
    throw fail(`the wave of ${name} must be PULSE(low high delay rise fall width period).`);
  return { kind: "pulse", low, high, delay, rise, fall, width, period };
}
