import { typesOfFamily } from "../catalogue/catalogue.ts";
import { changeType } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { press } from "../readings/presses.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Fitted, fitted, type Thread } from "../schematic/thread.ts";
import { amps, list } from "../units/format.ts";
import { ofChargedMatrices, threadsOfCoils } from "./ofMatrices.ts";
import { type Remedy, rule } from "./rule.ts";

/** A button, by itself or held together with others, and what flows through its contact. */
interface Loaded {
  button: Fitted;
  flows: number;
  coils: number;
  threads: Thread[];
}

interface Overloaded {
  subject: string;
  /** The one that carries most first. */
  buttons: [Loaded, ...Loaded[]];
}

/** Times its rating that a contact bears for the few milliseconds of a pulse (common practice). */
export const PULSE_TIMES = 3;

export const routeContactAmps = rule<Overloaded>({
  id: "route-contact-amps",
  stage: "routes",
  column: null,
  severity: "look",
  title: "A route's button carries more than its contact bears",
  about:
    "The button of a route carries the current of all its coils at once, and so does the button of an entry. Contacts are rated for a lasting current and bear about three times as much for the few milliseconds of a pulse (common practice); beyond that they pit, and weld in the end, and a welded button drains the unit.",
  look: (look) =>
    ofChargedMatrices(look, (matrix) => {
      const worst = new Map<string, Loaded>();
      for (const row of matrix.rows) {
        const pressed = press(look.circuitry, look.threads, matrix, row);
        const coils = pressed?.coils.filter(({ isWanted }) => isWanted).map(({ coil }) => coil) ?? [];
        const flows = pressed?.contactAmps ?? 0;
        const held = look.record.routeControls.flatMap(({ deviceId, way, throughId }) =>
          deviceId === row.controlId && way === row.way ? [deviceId, throughId] : [],
        );
        for (const id of held) {
          if (id === null || flows <= (worst.get(id)?.flows ?? 0)) continue;
          worst.set(id, {
            button: fitted(look.record, id),
            flows,
            coils: coils.length,
            threads: threadsOfCoils(look.threads, coils),
          });
        }
      }
      const [first, ...rest] = [...worst.values()]
        .filter(({ button, flows }) => flows > bearsOf(button))
        .sort((a, b) => b.flows - a.flows);
      return first ? [{ subject: matrix.boards.map(({ id }) => id).join(" "), buttons: [first, ...rest] }] : [];
    }),
  subject: ({ subject }) => subject,
  where: ({ buttons }) => list(buttons.map(({ button }) => button.device.label)),
  turnouts: ({ buttons }) => [...new Set(buttons.flatMap(({ threads }) => threads))],
  why: ({ buttons: [first, ...rest] }) => {
    const rated = first.button.type.figures.ratedAmps?.value ?? 0;
    const more =
      rest.length > 0
        ? ` So it is with ${list(rest.map(({ button, flows }) => `${button.device.label} (${amps(flows)})`))}.`
        : "";
    return `${first.button.device.label} carries ${amps(first.flows)} for ${first.coils} coils; its contact is rated ${amps(rated)}, and bears ${amps(rated * PULSE_TIMES)} in a pulse.${more}`;
  },
  remedies: ({ buttons }, { record }) => stronger(record, buttons),
});

/** What a contact bears in a pulse, amps; anything where nothing is known of it. */
function bearsOf({ type }: Fitted): number {
  return (type.figures.ratedAmps?.value ?? Number.POSITIVE_INFINITY) * PULSE_TIMES;
}

/** Buttons of the same kind with contacts that bear what flows, in the place of all that do not. */
function stronger(record: RailwayRecord, buttons: readonly Loaded[]): Remedy[] {
  const draft = new Draft(record);
  for (const { button, flows } of buttons) {
    const { device, type } = button;
    const strong = typesOfFamily(record, "control").find(
      ({ model, poles, figures }) =>
        model === type.model && poles === type.poles && (figures.ratedAmps?.value ?? 0) * PULSE_TIMES >= flows,
    );
    if (!strong) return [];
    draft.take(changeType(draft.record, device.id, strong.id));
  }
  const label = `Fit ${list(buttons.map(({ button }) => button.device.label))} with a heavy contact`;
  return [{ label, group: draft.group(label) }];
}
