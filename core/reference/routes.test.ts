// The button of a route in a wired railway, against ngspice on a netlist put together here from the wires that were laid and the
// figures of the parts: capacitor behind its own resistance, contacts, rectifiers, coils.
import { expect, it } from "vitest";
import { findType } from "../src/catalogue/catalogue.ts";
import { Derived } from "../src/derive.ts";
import { routePress } from "../src/diodes/pressed.ts";
import { laidWires } from "../src/loom/laidWires.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { matricesOf } from "../src/routes/boards.ts";
import { runNgspice } from "../testing/ngspice.ts";
import { routedYard } from "../testing/routes.ts";

/** The press of a button as a netlist of ngspice's own kind: its node 0 is the unit's minus. */
function netlistOf(record: RailwayRecord, pressed: string, volts: number): string {
  const { loom } = new Derived(record);
  const figure = (id: string, name: string) =>
    findType(record, record.devices.find((device) => device.id === id)!.typeId)!.figures[name]!.value;
  const names = new Map([["cd1:−", "0"]]);
  const node = (key: string) => {
    const known = names.get(key) ?? `n${names.size}`;
    names.set(key, known);
    return known;
  };
  const lines = laidWires(loom).map(
    ({ from, to, ohms }, index) => `Rw${index} ${node(from.key)} ${node(to.key)} ${ohms}`,
  );
  // the capacitor, charged, and what holds it charged
  lines.push(
    `C1 plate 0 ${figure("cd1", "farads")} ic=${volts}`,
    `Rs plate ${node("cd1:+")} ${figure("cd1", "seriesOhms")}`,
  );
  lines.push(
    `Rc bridge ${node("cd1:+")} ${figure("cd1", "chargeOhms")}`,
    `Rb ${node("cd1:+")} 0 ${figure("cd1", "bleedOhms")}`,
  );
  // the transformer at its peak behind two diodes of the bridge (16 V effective at its rating, 18.4 V with nothing on it)
  lines.push(`Vb supply 0 ${18.4 * Math.SQRT2}`, "Db1 supply middle DR", "Db2 middle bridge DR");
  for (const { id, typeId } of record.devices)
    if (typeId.startsWith("push-button"))
      lines.push(`Rk${id} ${node(`${id}:C`)} ${node(`${id}:N`)} ${id === pressed ? figure(id, "contactOhms") : 1e9}`);
  for (const { from, to, with: by } of matricesOf(record)[0]!.joins) {
    const [a, b] = [node(`x1:${from}`), node(`x1:${to}`)];
    lines.push(
      by === "diode" ? `D${from}${to} ${a} ${b} DR` : `R${from}${to} ${a} ${b} ${figure("x1", "contactOhms")}`,
    );
  }
  for (const { motorId, side } of matricesOf(record)[0]!.coils) {
    const [from, inner, common] = [node(`${motorId}:${side}`), node(`${motorId}.${side}`), node(`${motorId}:C`)];
    lines.push(`Rl${motorId}${side} ${from} ${inner} ${figure(motorId, "coilOhms")}`);
    lines.push(`L${motorId}${side} ${inner} ${common} ${figure(motorId, "coilHenries")} ic=0`);
  }
  // what hangs on nothing is tied, as insulation would
  for (const name of names.values()) if (name !== "0") lines.push(`Rt${name} ${name} 0 1e9`);
  return `* a route\n${lines.join("\n")}\n.model DR D(is=14n n=1.9 rs=0.04)\n.options reltol=1e-5\n.end\n`;
}

it("gives each coil the energy that ngspice finds, for every road of a ladder of four", { timeout: 60_000 }, () => {
  const record = routedYard(4);
  const { circuitry, schematic } = new Derived(record);
  const [matrix] = matricesOf(record);
  for (const { key, controlId } of matrix!.rows) {
    const press = routePress(record, circuitry, schematic.threads, matrix!, key)!;
    const wanted = press.coils.filter(({ isWanted }) => isWanted);
    const coil = (label: string) => label.toLowerCase().replace(" ", "");
    const { coilOhms, moveAmps } = findType(record, "twin-coil-surface")!.figures;
    const [ohms, moves] = [coilOhms!.value, moveAmps!.value];
    const control = [
      "source route.cir",
      "tran 20u 200m uic",
      ...wanted.flatMap(({ label }, index) => [
        `let p${index} = ${ohms}*i(l${coil(label)})*i(l${coil(label)})*(abs(i(l${coil(label)})) gt ${moves})`,
        `meas tran joules${index} integ p${index}`,
      ]),
      `echo ${wanted.map((_, index) => `$&joules${index}`).join(" ")} > out.txt`,
    ].join("\n");
    const found = runNgspice({ "route.cir": netlistOf(record, controlId, press.volts) }, control)
      .trim()
      .split(/\s+/)
      .map(Number);
    for (const [index, { label, joules }] of wanted.entries()) {
      const theirs = found[index] ?? Number.NaN;
      expect(Math.abs(joules / theirs - 1), `${key} ${label}: ${joules} and ${theirs} J`).toBeLessThan(0.03);
    }
  }
});
