import type { Purpose } from "../record/purposes.ts";

/** A terminal of a device. */
export interface End {
  deviceId: string;
  terminal: string;
}

/** Terminals that are joined by wire. `ends` are in the order in which the wire visits them. */
export interface Net {
  /** Tells it from the others of its railway: the name of its first terminal in the circuit. */
  id: string;
  purpose: Purpose;
  ends: (End & { turnoutId: string | null })[];
}

/** A numbered output, input, zone or pole as it is written, as "D1-3"; the device alone when it has no number. */
export function wayName(label: string, way: number | null): string {
  return way === null ? label : `${label}-${way}`;
}

/**
 * What is written beside a device's terminal.
 * @example terminalName("D1", "2A") // "D1-2A"
 * @example terminalName("CD1", "+") // "CD1+"
 */
export function terminalName(label: string, terminal: string): string {
  return /^[+−~]/.test(terminal) ? `${label}${terminal}` : `${label}-${terminal}`;
}

/** A terminal's name within the circuit. */
export function endKey(end: End): string {
  return `${end.deviceId}:${end.terminal}`;
}

/** Terminals that a recipe joins, with their names in the circuit. */
export interface Join {
  purpose: Purpose;
  ends: Net["ends"];
  keys: readonly string[];
}

/** Writes down the joins that recipes make. */
export class Joiner {
  readonly joins: Join[] = [];

  /** Joins terminals in the given order for a turnout, or for no single one (null). The first join of a net names its purpose. */
  join(purpose: Purpose, turnoutId: string | null, ends: readonly End[]): void {
    this.joins.push({
      purpose,
      ends: ends.map(({ deviceId, terminal }) => ({ deviceId, terminal, turnoutId })),
      keys: ends.map(endKey),
    });
  }
}

/**
 * Merges joins that share a terminal into nets; those with at least two terminals, in the order of their first join.
 * @param before nets of an earlier railway; where the same terminals are joined the same way, they are taken over
 */
export function netsOf(joins: Iterable<Join>, before: readonly Net[] = []): Net[] {
  const nets = new Set<Net>();
  const netOf = new Map<string, Net>();
  for (const { purpose, ends, keys } of joins) {
    let net: Net | undefined;
    for (const key of keys) {
      net = netOf.get(key);
      if (net) break;
    }
    if (!net) {
      net = { id: "", purpose, ends: [] };
      nets.add(net);
    }
    for (let index = 0; index < ends.length; index++) {
      const key = keys[index] as string;
      const other = netOf.get(key);
      if (other === net) continue;
      if (other) {
        for (const end of other.ends) netOf.set(endKey(end), net);
        net.ends.push(...other.ends);
        nets.delete(other);
      } else {
        net.ends.push(ends[index] as Net["ends"][number]);
        netOf.set(key, net);
      }
    }
  }
  const known = new Map(before.map((net) => [net.id, net]));
  return [...nets].flatMap((net) => {
    const [first] = net.ends;
    if (!first || net.ends.length < 2) return [];
    net.id = endKey(first);
    const earlier = known.get(net.id);
    return [earlier && isSameNet(earlier, net) ? earlier : net];
  });
}

/** Whether recipes join the same terminals in the same order, for the same turnouts. */
export function isJoinedAlike(a: readonly Join[], b: readonly Join[]): boolean {
  return a.length === b.length && a.every((join, index) => join === b[index] || isSameNet(join, b[index] as Join));
}

function isSameNet(a: Pick<Net, "purpose" | "ends">, b: Pick<Net, "purpose" | "ends">): boolean {
  const isSameEnd = (one: Net["ends"][number], other: Net["ends"][number] | undefined) =>
    one === other ||
    (one.deviceId === other?.deviceId && one.terminal === other.terminal && one.turnoutId === other.turnoutId);
  return (
    a.purpose === b.purpose &&
    a.ends.length === b.ends.length &&
    a.ends.every((end, index) => isSameEnd(end, b.ends[index]))
  );
}
