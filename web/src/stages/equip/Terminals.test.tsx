// Terminals of boards that take a probe: those of outputs in use, and no others, whatever railway it is.
import { Derived, findType } from "@alderman/core";
import { EXHIBITS } from "@alderman/core/testing/exhibits";
import { renderToStaticMarkup } from "react-dom/server";
import { Provider } from "react-redux";
import { expect, it } from "vitest";
import { emptyStore, openIn } from "../../../testing/openStore.ts";
import { isBoard } from "./boardEntries.ts";
import { Terminals } from "./Terminals.tsx";

const store = emptyStore();

it.each(Object.entries(EXHIBITS))("offers the terminals of what is in use in %s", (_, exhibit) => {
  const record = exhibit();
  openIn(store, record);
  const derived = new Derived(record);
  for (const device of record.devices) {
    const type = findType(record, device.typeId)!;
    if (!isBoard(type)) continue;
    const markup = renderToStaticMarkup(
      <Provider store={store}>
        <Terminals record={record} device={device} type={type} />
      </Provider>,
    );
    const names = [...markup.matchAll(/aria-label="Terminal ([^,"]+),/g)].map(([, name]) => name);
    expect(names.length, device.label).toBeGreaterThan(0);
    expect(new Set(names).size).toBe(names.length);
    // free outputs of decoders and servo boards are no place for a probe
    const used = derived.schematic.threads.flatMap(({ motors }) =>
      motors.flatMap(({ driver }) => (driver?.device.id === device.id ? [driver.way] : [])),
    );
    if (type.drives !== "pair" && type.drives !== "servo") continue;
    for (const way of used) expect(names.join(" "), device.label).toMatch(new RegExp(`${device.label}-${way}[AS]`));
    if (used.length === 0 || used.length === type.outputs) continue;
    expect(names.length).toBeLessThan(type.terminals.length);
  }
});
