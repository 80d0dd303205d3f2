import { type MeterKind, type Moment, ownOf, type Position, type Range, type ThingRef } from "@alderman/core";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { derivation } from "../derivation/derivation.ts";

/** A terminal that carries a probe: its name in the circuit and what is written beside it. */
export interface ProbedEnd {
  key: string;
  name: string;
}

/** What is looked at: the chosen thing, how turnouts stand for this look, the meter. None of it is part of the railway. */
export interface ViewState {
  chosen: ThingRef | null;
  /** Of the threads through the chosen thing, the leader of the one that is shown; the first when not said. */
  along: string | null;
  asked: Record<string, Position>;
  /** The turnout that was thrown last, until it is known which others went along. */
  thrown: string | null;
  /** Blocks of the line, by their marks, in which a train stands for this look. */
  occupied: string[];
  /** Signals of the line, by their marks, that are held at danger. */
  held: string[];
  /** Control by which a turnout with several is thrown: its assignment, by the leader; the first one when none is named. */
  by: Record<string, string>;
  /** Which lamp of a turnout with several is drawn: its device, by the leader; the first one when none is named. */
  lampOf: Record<string, string>;
  moment: Moment;
  red: ProbedEnd | null;
  black: ProbedEnd | null;
  range: Range;
  /** What the owner's meter shows on AC. */
  meterKind: MeterKind;
  /** Which probe the next click places. */
  next: "red" | "black";
  theme: "bench" | "shed";
  /** The lamp of the chosen turnout is inspected in every fault situation. */
  lamp: boolean;
  /** Boards and supplies are unfolded below the list. */
  boards: boolean;
  /** The railway that was shown last, for the way back. */
  lastRailway: { id: string; name: string } | null;
  /** The railway that is looked at. */
  railwayId: string | null;
}

/** Name under which the browser keeps the kind of meter. */
export const METER_KIND = "alderman-meter-kind";

const initialState = (): ViewState => ({
  chosen: null,
  along: null,
  asked: {},
  occupied: [],
  held: [],
  thrown: null,
  by: {},
  lampOf: {},
  moment: "rest",
  red: null,
  black: null,
  range: "V",
  meterKind: "unknown",
  next: "red",
  theme: "bench",
  lamp: false,
  boards: true,
  lastRailway: null,
  railwayId: null,
});

/** Whether what was worked out is of the terminals under the probes, both of them. */
export function isOfProbes({ red, black }: ViewState, of: { red: string | null; black: string | null }): boolean {
  return red !== null && black !== null && red.key === of.red && black.key === of.black;
}

export const view = createSlice({
  name: "view",
  initialState,
  reducers: {
    leftRailway: (state, { payload }: PayloadAction<ViewState["lastRailway"]>) => {
      state.lastRailway = payload;
    },
    /** Looks at a railway; how another one stood, and what was chosen and probed there, is nothing to it. */
    lookAtRailway: (state, { payload }: PayloadAction<string>) => {
      state.chosen = null;
      state.along = null;
      if (state.railwayId === payload) return;
      const { asked, occupied, held, thrown, by, lampOf, red, black } = initialState();
      Object.assign(state, { asked, occupied, held, thrown, by, lampOf, red, black, railwayId: payload });
    },
    choose: (state, { payload }: PayloadAction<ThingRef | null>) => {
      state.chosen = payload;
      state.along = null;
    },
    /** Shows another of the threads through the chosen thing. */
    lookAt: (state, { payload }: PayloadAction<string>) => {
      state.along = payload;
    },
    throwTo: (state, { payload }: PayloadAction<{ turnoutId: string; position: Position }>) => {
      state.asked[payload.turnoutId] = payload.position;
      state.thrown = payload.turnoutId;
    },
    /** Puts a train into a block of the line, or takes it out. */
    occupy: (state, { payload: { id, on } }: PayloadAction<{ id: string; on: boolean }>) => {
      state.occupied = [...state.occupied.filter((each) => each !== id), ...(on ? [id] : [])];
    },
    /** Holds a signal at danger, or lets go of it. */
    hold: (state, { payload: { id, on } }: PayloadAction<{ id: string; on: boolean }>) => {
      state.held = [...state.held.filter((each) => each !== id), ...(on ? [id] : [])];
    },
    throwBy: (state, { payload }: PayloadAction<{ turnoutId: string; controlId: string }>) => {
      state.by[payload.turnoutId] = payload.controlId;
    },
    showLamp: (state, { payload }: PayloadAction<{ turnoutId: string; lampId: string }>) => {
      state.lampOf[payload.turnoutId] = payload.lampId;
    },
    setMoment: (state, { payload }: PayloadAction<Moment>) => {
      state.moment = payload;
    },
    setRange: (state, { payload }: PayloadAction<Range>) => {
      state.range = payload;
    },
    setMeterKind: (state, { payload }: PayloadAction<MeterKind>) => {
      state.meterKind = payload;
    },
    probe: (
      state,
      { payload: { probe, end } }: PayloadAction<{ probe: "red" | "black" | "next"; end: ProbedEnd | null }>,
    ) => {
      const which = probe === "next" ? state.next : probe;
      state[which] = end;
      state.next = which === "red" ? "black" : "red";
    },
    watchLamp: (state, { payload }: PayloadAction<boolean>) => {
      state.lamp = payload;
    },
    showBoards: (state, { payload }: PayloadAction<boolean>) => {
      state.boards = payload;
    },
    setTheme: (state, { payload }: PayloadAction<ViewState["theme"]>) => {
      state.theme = payload;
    },
  },
  extraReducers: (builder) => {
    builder.addCase(derivation.actions.found, (state, { payload: { focus } }) => {
      const { thrown } = state;
      if (thrown === null || focus?.turnoutId !== thrown || ownOf(focus.along, thrown) !== ownOf(state.asked, thrown))
        return;
      Object.assign(state.asked, focus.along);
      state.thrown = null;
    });
  },
});

export const {
  choose,
  lookAt,
  lookAtRailway,
  leftRailway,
  throwTo,
  occupy,
  hold,
  throwBy,
  setMoment,
  setMeterKind,
  setRange,
  probe,
  setTheme,
  showBoards,
  watchLamp,
  showLamp,
} = view.actions;
