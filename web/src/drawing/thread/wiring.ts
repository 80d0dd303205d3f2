import {
  type Fitted,
  farEnd,
  type Net,
  type Passage,
  PURPOSES,
  terminalName,
  type Wire,
  type WireColour,
  wiresByEnd,
} from "@alderman/core";
import type { Overview } from "../../derivation/overview.ts";

export interface DrawnEnd {
  key: string;
  name: string;
  terminal: string;
}

/** A terminal of a device as a drawing needs it. */
export function drawnEnd({ device }: Pick<Fitted, "device">, terminal: string): DrawnEnd {
  return { key: `${device.id}:${terminal}`, name: terminalName(device.label, terminal), terminal };
}

/** One conductor of a lane, from a terminal on the panel through strips and cable to a terminal under the board. */
export interface Row {
  panel: DrawnEnd;
  layout: DrawnEnd | null;
  colour: WireColour;
  coreColour: WireColour;
  way: Passage | null;
  /** The wire reaches the panel's or the board's terminal by way of another one, named here. */
  panelVia: string | null;
  layoutVia: string | null;
}

/** Things of a list by keys of which each has some, in its order; grouped once, since a drawing asks for many. */
function groupedOnce<T>(
  keysOf: (thing: T) => readonly string[],
): (list: readonly T[]) => ReadonlyMap<string, readonly T[]> {
  const known = new WeakMap<readonly T[], Map<string, T[]>>();
  return (list) => {
    const before = known.get(list);
    if (before) return before;
    const groups = new Map<string, T[]>();
    for (const thing of list)
      for (const key of keysOf(thing)) {
        const group = groups.get(key);
        if (group) group.push(thing);
        else groups.set(key, [thing]);
      }
    known.set(list, groups);
    return groups;
  };
}

const netsByEnd = groupedOnce<Net>(({ ends }) => ends.map(({ deviceId, terminal }) => `${deviceId}:${terminal}`));
const passagesByNet = groupedOnce<Passage>(({ net }) => [net]);

/** Looks up what the loom has between terminals. */
export class Wiring {
  constructor(private readonly overview: Overview) {}

  netOf(key: string): Net | undefined {
    return netsByEnd(this.overview.nets).get(key)?.[0];
  }

  joined(a: string, b: string): boolean {
    const net = this.netOf(a);
    return net !== undefined && net === this.netOf(b);
  }

  /** The terminal of a device that a terminal is joined to, or null. */
  endOn(key: string, { device }: Fitted): DrawnEnd | null {
    const end = this.netOf(key)?.ends.find(({ deviceId }) => deviceId === device.id);
    return end ? drawnEnd({ device }, end.terminal) : null;
  }

  colourOf(key: string): WireColour {
    const net = this.netOf(key);
    return net ? PURPOSES[net.purpose].colour : "GY";
  }

  /** Name of the terminal next to `key` on the way to `target`; null when one wire joins the two. */
  via(key: string, target: string): string | null {
    const others = this.wiresAt(key).map((wire) => farEnd(wire, key));
    if (others.length === 0 || others.some((other) => other.key === target)) return null;
    return others.find(({ of }) => of !== null)?.name ?? others[0]?.name ?? null;
  }

  private wiresAt(key: string): readonly Wire[] {
    return wiresByEnd(this.overview.loom).get(key) ?? [];
  }

  /** @param crosses whether the first end stands at the panel, so that the conductor goes through strips and cable */
  row(panel: DrawnEnd, layout: DrawnEnd | null, crosses = true): Row {
    const net = this.netOf(panel.key)?.id;
    const way = (crosses && net && passagesByNet(this.overview.loom.passages).get(net)?.[0]) || null;
    const core = way && this.wiresAt(way.panel.key).find((wire) => wire.core);
    const colour = this.colourOf(panel.key);
    const reaches = layout && this.joined(panel.key, layout.key) ? layout : null;
    return {
      panel,
      layout: reaches,
      colour,
      coreColour: core?.colour ?? colour,
      way,
      panelVia: way ? this.via(panel.key, way.panel.key) : null,
      layoutVia: way && reaches ? this.via(reaches.key, way.layout.key) : null,
    };
  }
}

/** Words about conductors that reach their terminal by way of another one. */
export function viaWords(rows: readonly Row[], side: "panel" | "layout"): string[] {
  return rows.flatMap((row) => {
    const via = side === "panel" ? row.panelVia : row.layoutVia;
    const end = side === "panel" ? row.panel : row.layout;
    return via && end ? [`${end.terminal} via ${via}`] : [];
  });
}
