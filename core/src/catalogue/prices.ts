import { type DeviceType, type Figure, figure } from "./deviceType.ts";

/**
 * What one piece roughly costs, in any currency: from memory, to tell dear from cheap before anything is asked for in a
 * shop. The owner sets his own in a copy of the type. A reverser that also throws costs about twice a plain one (common practice).
 */
const ROUGH_PRICES: Readonly<Record<string, number>> = {
  "twin-coil-under-board": 9,
  "twin-coil-surface": 14,
  "twin-coil-efficient": 14,
  "stall-motor": 22,
  servo: 5,
  "servo-contact": 11,
  "slow-motor-decoder": 60,
  cdu: 12,
  "cdu-motor": 7,
  "diode-board-8": 6,
  "diode-board-24": 18,
  "stall-decoder-8": 75,
  "coil-decoder-4": 40,
  "servo-decoder-4": 40,
  "input-decoder-4": 55,
  "dual-control-board": 25,
  "servo-board-4": 30,
  "relay-board-1": 4,
  "relay-board-2": 6,
  "relay-board-4": 9,
  "relay-board-8": 14,
  controller: 12,
  "output-node-8": 70,
  "output-node-16": 60,
  "servo-node-8": 70,
  "reverser-coil": 50,
  "reverser-stall": 50,
  reverser: 25,
  "input-node-16": 60,
  "encoder-16": 55,
  "current-detector-4": 60,
  "infrared-sensor": 10,
  "polarity-unit": 12,
  "relay-dpdt": 4,
  "relay-dpdt-9": 4,
  "relay-latching": 7,
  "ac-16": 18,
  "ac-12": 18,
  "dc-5": 12,
  "dc-9": 14,
  "dc-12": 16,
  "dc-15": 25,
  "dc-18": 22,
  "toggle-centre-off": 2.5,
  "toggle-latching": 2,
  "toggle-reversing": 3,
  "toggle-reversing-centre-off": 3.5,
  "push-pair": 3,
  "push-button": 1.5,
  "push-button-heavy": 5,
  "push-button-2": 3,
  "push-button-4": 6,
  rotary: 6,
  "touch-button": 8,
  "lamp-two-colour": 1,
  "lamp-two-colour-12": 1,
  "lamp-two-colour-plus": 1,
  "lamp-two-colour-one-resistor": 1,
  "lamp-two-colour-bare": 1,
  "lamps-single-pair": 1,
  "fibre-box-input": 15,
  "key-switch": 6,
  "lamps-frog": 1.5,
  "lamps-frog-diodes": 2,
  "dwarf-signal": 12,
  "fibre-signal-box": 8,
  "semaphore-servo": 20,
  "mechanical-flag": 3,
};

/** A type with its rough price among its figures; what is part of the track, or comes with it, has none. */
export function priced(type: DeviceType): DeviceType {
  const value = ROUGH_PRICES[type.id];
  if (value === undefined) return type;
  const price: Figure = figure(value, "money", "rough price of one", { origin: "from memory", min: 0, max: 10_000 });
  return { ...type, figures: { ...type.figures, price } };
}
