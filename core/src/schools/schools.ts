import type { Fitting } from "./fit.ts";

/** A school of practice: a way of driving, commanding, feeding and showing that people of the trade stand by. */
export interface School {
  id: string;
  name: string;
  fitting: Fitting;
  for: string;
  against: string;
}

const COIL = { motor: "twin-coil-under-board", frog: "polarity unit", lamp: "lamp-two-colour" };
const STALL = { motor: "stall-motor", frog: "S2", lamp: "lamp-two-colour" };
const SERVO = { motor: "servo-contact", frog: "S1", lamp: "mechanical-flag" };

/** The main schools of the trade, those without train control first. */
export const SCHOOLS: readonly School[] = [
  {
    id: "panel-coils",
    name: "Coils, one discharge unit, a sprung toggle each",
    fitting: { ...COIL, driver: { shared: "cdu" }, control: "toggle-centre-off" },
    for: "Cheap, loud and quick; nothing to set; works without train control.",
    against:
      "Amps through every wire to the panel; two motors at once share one charge; a toggle held on burns a coil.",
  },
  {
    id: "panel-coils-each",
    name: "Coils, a discharge unit at each motor",
    fitting: { ...COIL, driver: { each: "cdu-motor" }, control: "toggle-centre-off" },
    for: "Every motor has its full charge, crossovers too; a fault stays with one motor.",
    against: "A unit and its supply wires for every motor.",
  },
  {
    id: "panel-stall",
    name: "Stall motors on reversing toggles",
    fitting: { ...STALL, driver: { shared: "dc-12" }, control: "toggle-reversing" },
    for: "Two wires to each motor, milliamps only; the toggle itself shows the position, and keeps it without power.",
    against: "The throttle cannot throw; a toggle thrown while the power is off moves the blades when it returns.",
  },
  {
    id: "panel-servo",
    name: "Servos on a board with toggles",
    fitting: { ...SERVO, driver: { board: "servo-board-4" }, control: "toggle-latching" },
    for: "Cheapest motor, slow and quiet; end points are set with a button.",
    against: "Three thin wires that do not like length; end points live in the board, and one reset wipes them.",
  },
  {
    id: "track-stall",
    name: "Stall motors on a decoder, by address only",
    fitting: { ...STALL, driver: { board: "stall-decoder-8" }, control: null },
    for: "No panel wires at all; routes in the command station; eight turnouts on one board.",
    against: "A turnout is a number to be remembered; a short on the track silences it; no hand at the panel.",
  },
  {
    id: "track-stall-inputs",
    name: "Stall motors on a decoder with inputs and sprung toggles",
    fitting: { ...STALL, driver: { board: "input-decoder-4" }, control: "toggle-centre-off" },
    for: "Thrown from the panel and from the throttle; the panel works with the computer off.",
    against: "A board for every four turnouts, and its inputs' sense to be set.",
  },
  {
    id: "track-dual",
    name: "A dual-control board for each stall motor",
    fitting: { ...STALL, driver: { board: "dual-control-board" }, control: "toggle-centre-off" },
    for: "Panel and dispatcher both; a fault stays with one turnout; boards stand where the motors are.",
    against: "A board for every turnout; each takes its own supply and track wires.",
  },
  {
    id: "track-coil",
    name: "Coils on a pulsing decoder",
    fitting: { ...COIL, driver: { board: "coil-decoder-4" }, control: null },
    for: "Keeps the coil motors one has; the pulse's length is set, so nothing can be held on.",
    against: "One pulse after another from one capacitor; by address only.",
  },
  {
    id: "track-servo",
    name: "Servos on a decoder",
    fitting: { ...SERVO, driver: { board: "servo-decoder-4" }, control: null },
    for: "Cheap motors and routes in the command station.",
    against: "End points live in the decoder; by address only.",
  },
  {
    id: "bus",
    name: "A control bus: buttons at input nodes, motors at output nodes",
    fitting: { ...STALL, driver: { board: "output-node-8" }, control: "push-pair", reader: "input-node-16" },
    for: "Four wires round the layout instead of a loom; any button may throw anything; kept apart from the track.",
    against: "Dear to begin with; what was taught must be written down; buttons do nothing until taught.",
  },
  {
    id: "computer",
    name: "Buttons at a feedback encoder, a computer, a decoder",
    fitting: { ...STALL, driver: { board: "stall-decoder-8" }, control: "push-pair", reader: "encoder-16" },
    for: "Routes, locks and logic are a matter of a table; sixteen inputs on one plug.",
    against: "The panel dies with the computer.",
  },
  {
    id: "inside",
    name: "Slow motors with the decoder inside",
    fitting: {
      motor: "slow-motor-decoder",
      driver: null,
      control: null,
      frog: "polarity unit",
      lamp: "mechanical-flag",
    },
    for: "Two wires from the track and nothing else: for the garden, and where nothing can be reached.",
    against: "Dear; settings behind a lock in each motor; by address only.",
  },
];
