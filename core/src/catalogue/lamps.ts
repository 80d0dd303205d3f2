import { type DeviceType, figure, terminals } from "./deviceType.ts";

export const LAMPS: readonly DeviceType[] = [
  {
    id: "lamp-two-colour",
    name: "Two-colour lamp with resistors, common lead to 0 V",
    short: "2-colour",
    family: "lamp",
    model: "two-colour-lamp",
    about: "3 mm LED, green and yellow, common cathode; one resistor in each lead.",
    place: "panel",
    prefix: "LP",
    terminals: terminals({ G: "green", Y: "yellow", "0": "common, to 0 V" }),
    outputs: 0,
    contactSets: 0,
    figures: {
      resistorOhms: figure(390, "ohm", "resistor in each lead", { tolerance: 0.05 }),
      greenVolts: figure(2.2, "V", "forward voltage of green at 10 mA"),
      yellowVolts: figure(2.1, "V", "forward voltage of yellow at 10 mA"),
      ratedAmps: figure(0.01, "A", "rated current of each colour; below half of it the lamp is dim"),
      leastAmps: figure(0.001, "A", "lit at all from"),
    },
  },
];
