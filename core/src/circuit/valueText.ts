import { type Element, nodesWatched } from "./elements.ts";

const known = new WeakMap<Element, string>();

/** All of an element but its name and nodes, as text; nothing for none. */
export function valueText(element: Element | undefined): string {
  if (!element) return "";
  const text = known.get(element) ?? textOf(element);
  known.set(element, text);
  return text;
}

function textOf(element: Element): string {
  switch (element.kind) {
    case "resistor":
      return `resistor ${element.ohms}`;
    case "diode":
      return `diode ${element.model.is} ${element.model.n} ${element.model.rs}`;
    case "capacitor":
      return `capacitor ${element.farads} ${element.volts}`;
    case "coil":
      return `coil ${element.henries} ${element.ohms} ${element.amps}`;
    case "switch":
      if (!element.control) return `switch ${element.closed} ${element.onOhms} ${element.offOhms}`;
  }
  const { id: _id, nodes: _nodes, ...rest } = element;
  // nodes that it looks at go by their places, too
  return nodesWatched(element).length === 0
    ? JSON.stringify(rest)
    : JSON.stringify(rest, (key, each) => (key === "nodes" ? undefined : each));
}
