import { typeOf } from "../catalogue/catalogue.ts";
import { numbered } from "../catalogue/deviceType.ts";
import { BY_STATION } from "../catalogue/readers.ts";
import { sourceLabel, tellsOf } from "../equip/plainInputs.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { plainInputsOf } from "../schematic/recipes/plainInputs.ts";
import { controlsOf, type Thread } from "../schematic/thread.ts";
import { senseAt } from "../sense/ledger.ts";
import { type SettingLine, settingLines } from "../settings/settings.ts";

/** An input of a feedback encoder, with the number that its messages carry. */
export interface FeedbackInput {
  deviceId: string;
  way: number;
  /** As "FE1-3". */
  label: string;
  number: number;
  /** Labels of the controls and zones at it. */
  on: string[];
  /** What its message does, as "M1 to N". */
  does: string[];
  /** Leaders of the turnouts that it throws. */
  turnoutIds: string[];
  byStation: boolean;
  /** What is at it throws no turnout. */
  plain: boolean;
  /** Its level is turned round, by itself or with all of its board. */
  inverted: boolean;
  /** Labels of inputs of other encoders with the same number. */
  sharedWith: string[];
}

/** Who acts on an encoder's messages: the command station by itself, else a computer. */
export function actedOnByStation(record: RailwayRecord, deviceId: string): boolean {
  return settingLines(record).some(
    ({ device, setting, wanted }) => device.id === deviceId && setting.isActor === true && wanted === BY_STATION,
  );
}

/** Every input of every encoder, in the order of devices. */
export function feedbackInputs(record: RailwayRecord, threads: readonly Thread[]): FeedbackInput[] {
  const starts = startsOf(record);
  const plain = plainInputsOf(record);
  const inputs = starts.flatMap(({ device, wanted }) => {
    const byStation = actedOnByStation(record, device.id);
    const all = senseAt(record, { link: "inputs", deviceId: device.id, way: null })?.inverts ?? false;
    return numbered(typeOf(record, device).inputs ?? 0).map((way): FeedbackInput => {
      const own = senseAt(record, { link: "input", deviceId: device.id, way })?.inverts ?? false;
      const heard = threads.flatMap((thread) =>
        controlsOf(thread).flatMap((control) =>
          control.reader?.device.id === device.id && control.reader.way === way ? [{ thread, control }] : [],
        ),
      );
      const [read] = plain.filter((each) => each.deviceId === device.id && each.way === way);
      const source = read && { id: read.controlId, way: read.controlWay ?? 1 };
      return {
        plain: read !== undefined,
        ...{ deviceId: device.id, way, label: `${device.label}-${way}`, number: Number(wanted) + way - 1, byStation },
        on: source
          ? [sourceLabel(record, source.id, source.way)]
          : [...new Set(heard.map(({ control }) => control.device.label))],
        does: source
          ? [`tells: ${tellsOf(record, source.id, source.way)}`]
          : heard.map(({ thread, control: { assignment } }) =>
              assignment.to === null ? `${thread.label}, as it says` : `${thread.label} to ${assignment.to}`,
            ),
        turnoutIds: [...new Set(heard.map(({ thread }) => thread.turnout.id))],
        inverted: all !== own,
        sharedWith: [],
      };
    });
  });
  const byNumber = new Map<number, FeedbackInput[]>();
  for (const input of inputs) byNumber.set(input.number, [...(byNumber.get(input.number) ?? []), input]);
  for (const input of inputs)
    input.sharedWith = (byNumber.get(input.number) ?? []).flatMap(({ deviceId, label }) =>
      deviceId === input.deviceId ? [] : [label],
    );
  return inputs;
}

/** The start number of each encoder. */
export function startsOf(record: RailwayRecord): SettingLine[] {
  return settingLines(record).filter(({ setting }) => setting.isStart);
}

/** The first start number with room for all inputs of an encoder, beside the other encoders. */
export function freeStart(inputs: readonly FeedbackInput[], deviceId: string): number {
  const own = inputs.filter((input) => input.deviceId === deviceId).length;
  const taken = new Set(inputs.flatMap((input) => (input.deviceId === deviceId ? [] : [input.number])));
  let start = 1;
  // runs of inputs begin where those of a whole encoder do, so that they can be told by their numbers
  while (numbered(own).some((way) => taken.has(start + way - 1))) start += own;
  return start;
}
