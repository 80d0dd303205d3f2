import {
  faultsOfSheet,
  LABEL_SHEETS,
  type LabelSheet,
  type LabelStyle,
  type PaperOptions,
  type PaperSizeName,
  type RailwayRecord,
  turnoutsInOrder,
} from "@alderman/core";

/** What this browser keeps of how papers are wanted. */
export interface PaperChoices {
  papers: readonly string[];
  /** "all", "first", or a zone's identifier. */
  scope: string;
  openOnly: boolean;
  size: PaperSizeName;
  /** Identifier of a sheet of labels, or "own". */
  sheet: string;
  own: LabelSheet;
  style: LabelStyle;
  code: boolean;
  used: number;
}

export const USUAL_CHOICES: PaperChoices = {
  ...{ papers: ["cut-list", "labels"], scope: "all", openOnly: true, size: "A4" },
  ...{ sheet: "a4-189", style: "flag", code: false, used: 0 },
  own: { ...(LABEL_SHEETS[0] as LabelSheet), id: "own", name: "my own sheet" },
};

/** Turnouts that "the first ones" are. */
const FIRST = 10;

/** What papers can be wanted for. */
export function scopesOf({ zones }: RailwayRecord): { value: string; text: string }[] {
  return [
    { value: "all", text: "the whole railway" },
    { value: "first", text: `the first ${FIRST} turnouts` },
    ...zones.map(({ id, name, label }) => ({ value: id, text: name || label })),
  ];
}

/** The sheet of labels that is chosen, with what is wrong with its measures. */
export function sheetOf({ sheet, own }: PaperChoices): { sheet: LabelSheet; faults: string[] } {
  const chosen =
    sheet === "own" ? own : (LABEL_SHEETS.find(({ id }) => id === sheet) ?? (LABEL_SHEETS[0] as LabelSheet));
  return { sheet: chosen, faults: faultsOfSheet(chosen) };
}

/** The choices as the papers take them. */
export function optionsOf(record: RailwayRecord, choices: PaperChoices): PaperOptions {
  const { style, code, used, openOnly } = choices;
  return {
    turnouts: leadersIn(record, choices.scope),
    openOnly,
    labels: { sheet: sheetOf(choices).sheet, style, code, used },
  };
}

function leadersIn(record: RailwayRecord, scope: string): string[] | null {
  const leaders = turnoutsInOrder(record).filter(({ movesWith }) => movesWith === null);
  if (scope === "first") return leaders.slice(0, FIRST).map(({ id }) => id);
  if (!record.zones.some(({ id }) => id === scope)) return null;
  return leaders.filter(({ zoneId }) => zoneId === scope).map(({ id }) => id);
}
