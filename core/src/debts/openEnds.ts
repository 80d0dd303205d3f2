import { findType } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { missingParts } from "../findings/turnoutIncomplete.ts";
import { assignmentsOfDevice, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Debt } from "../record/notes.ts";
import { restsOn } from "../schematic/restsOn.ts";
import { type Thread, threadsOf } from "../schematic/thread.ts";
import { guessOf } from "../sense/advice.ts";
import { ledgerOf } from "../sense/ledger.ts";
import { count, list } from "../units/format.ts";

/** Something left open: noted by hand, or seen in the record. */
export interface OpenEnd {
  key: string;
  kind: Debt["kind"];
  text: string;
  /** What waits for it. */
  blocks: string;
  /** The note it comes from; null when it follows from the record. */
  debtId: string | null;
  /** Turnout where it is put right; null for the railway's. */
  turnoutId: string | null;
}

/** What is still owed: notes not done, and what the record lacks, in that order. Nothing is solved for it. */
export function openEnds(record: RailwayRecord): OpenEnd[] {
  const threads = threadsOf(record);
  return [
    ...byHand(record),
    ...incomplete(record, threads),
    ...unknownHands(threads),
    ...onHearsay(record, threads),
    ...idleBoards(record),
    ...assumedSenses(record, threads),
  ];
}

function byHand(record: RailwayRecord): OpenEnd[] {
  return record.debts
    .filter(({ done }) => !done)
    .map(({ id, kind, text, blocks, turnoutId }) => {
      const label = turnoutId && find(record, "turnout", turnoutId)?.label;
      return { key: `debt ${id}`, kind, text: label ? `${label}: ${text}` : text, blocks, debtId: id, turnoutId };
    });
}

function incomplete(record: RailwayRecord, threads: readonly Thread[]): OpenEnd[] {
  return threads.flatMap((thread): OpenEnd[] => {
    const missing = missingParts(record, thread);
    if (missing.length === 0) return [];
    return [
      {
        key: `incomplete ${thread.turnout.id}`,
        kind: "undecided",
        text: `${thread.label} ${list(missing.map(({ words }) => words))}`,
        blocks: "its wires and its test sheet",
        debtId: null,
        turnoutId: thread.turnout.id,
      },
    ];
  });
}

/** A frog that is fed needs the hand of its turnout. */
function unknownHands(threads: readonly Thread[]): OpenEnd[] {
  return threads.flatMap(({ frogs }) =>
    frogs
      .filter(({ from, turnout }) => from !== null && turnout.hand === "unknown")
      .map(({ turnout }) => ({
        key: `hand ${turnout.id}`,
        kind: "undecided" as const,
        text: `${turnout.label}: which hand it is`,
        blocks: "which rail its frog must carry",
        debtId: null,
        turnoutId: turnout.id,
      })),
  );
}

function onHearsay(record: RailwayRecord, threads: readonly Thread[]): OpenEnd[] {
  return record.facts
    .filter(({ standing }) => standing === "heard")
    .map((fact) => {
      const rest = restsOn(record, threads, fact);
      return {
        key: `fact ${fact.id}`,
        kind: "open end" as const,
        text: `Heard only: ${fact.text}`,
        blocks: rest.length > 0 ? short(rest.map(({ label }) => label)) : "nothing yet",
        debtId: null,
        turnoutId: rest[0]?.turnout.id ?? null,
      };
    });
}

/** Boards that are there and do nothing. */
function idleBoards(record: RailwayRecord): OpenEnd[] {
  return record.devices.flatMap((device): OpenEnd[] => {
    const type = findType(record, device.typeId);
    // a reverser without an output turns a loop, which no turnout's equipment tells of
    if (type?.family !== "driver" || (traitsOf(type).inTrack === "reverser" && type.outputs === 0)) return [];
    // what feeds, commands or numbers it gives it no work
    const works = assignmentsOfDevice(record, device.id).some((a) => {
      if (a.role === "address") return false;
      return !((a.role === "supply" || a.role === "commands") && a.toDeviceId === device.id);
    });
    if (works) return [];
    return [
      {
        key: `idle ${device.id}`,
        kind: "open end",
        text: `${device.label}, ${type.name.toLowerCase()}, does nothing yet`,
        blocks: "nothing",
        debtId: null,
        turnoutId: null,
      },
    ];
  });
}

/** What is only assumed to be the right way round, in one line for all. */
function assumedSenses(record: RailwayRecord, threads: readonly Thread[]): OpenEnd[] {
  const ledgers = threads.map((thread) => ledgerOf(record, thread));
  const open = ledgers.filter((ledger) => guessOf([ledger]).unknown > 0);
  if (open.length === 0) return [];
  const { swaps } = guessOf(open);
  return [
    {
      key: "senses",
      kind: "open end",
      text: `${count(open.length, "turnout or pair", "turnouts and pairs")} of which the sense is partly assumed; about ${Math.round(swaps)} swaps to be expected`,
      blocks: "the first train over each",
      debtId: null,
      turnoutId: open[0]?.leader ?? null,
    },
  ];
}

function short(labels: readonly string[]): string {
  return labels.length > 6 ? `${labels.slice(0, 6).join(", ")} and ${labels.length - 6} more` : list(labels);
}
