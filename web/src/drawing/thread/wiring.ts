import type { Fitted, Net, Passage, WireColour } from "@alderman/core";
import { PURPOSES, terminalName } from "@alderman/core";
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

/** Looks up what the loom has between terminals. */
export class Wiring {
  constructor(private readonly overview: Overview) {}

  netOf(key: string): Net | undefined {
    return this.overview.nets.find(({ ends }) => ends.some((end) => `${end.deviceId}:${end.terminal}` === key));
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
    const others = this.overview.loom.wires.flatMap(({ from, to }) =>
      from.key === key ? [to] : to.key === key ? [from] : [],
    );
    if (others.length === 0 || others.some((other) => other.key === target)) return null;
    return others.find(({ of }) => of !== null)?.name ?? others[0]?.name ?? null;
  }

  /** @param crosses whether the first end stands at the panel, so that the conductor goes through strips and cable */
  row(panel: DrawnEnd, layout: DrawnEnd | null, crosses = true): Row {
    const net = this.netOf(panel.key)?.id;
    const way = (crosses && this.overview.loom.passages.find((each) => each.net === net)) || null;
    const core =
      way && this.overview.loom.wires.find(({ core, from, to }) => core && [from.key, to.key].includes(way.panel.key));
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
