// The core's one front door: what server, interface and commands use, and nothing else.

// The record: what the owner states, its edits and its file.

export { Edit, type Edited, EditGroup, putEdit, removeEdit, type Touch, touchedThings } from "./record/edits.ts";
export { Id, Label, NAME_LENGTH } from "./record/fields.ts";
export { assignmentsOfRole, deviceOf, feederOf, find, freshId, turnoutsInOrder } from "./record/find.ts";
export { FORM_HEADER, RECORD_FORM } from "./record/form.ts";
export {
  emptyRecord,
  KINDS,
  type Kind,
  LISTS,
  lean,
  type RailwayRecord,
  thingsOf,
  type ValueOf,
} from "./record/kinds.ts";
export {
  type Cable,
  isJunction,
  type Strip,
  standingOfWire,
  type WireStep,
} from "./record/made.ts";
export {
  Applied,
  Change,
  Clash,
  HistoryRow,
  HistorySize,
  MissedChange,
  OpenRailway,
  type Origin,
  Refusal,
  Stamp,
  Summary,
  Turns,
  Version,
} from "./record/messages.ts";
export {
  DEBT_KINDS,
  Debt,
  Fact,
  KNOWN_FROM,
  type KnownFrom,
  MOST_PICTURE,
  type Photo,
  STANDINGS,
} from "./record/notes.ts";
export { EVENT_ACTIONS, type EventAction } from "./record/numbers.ts";
export { type Problem, problemsOf, RecordError, recordError } from "./record/problems.ts";
export { PURPOSE_NAMES, PURPOSES, type Purpose } from "./record/purposes.ts";
export {
  MOST_CHARACTERS,
  railwayFilePieces,
  railwayFileSchema,
  readRailwayFile,
  writeRailwayFile,
} from "./record/railwayFile.ts";
export {
  type Acceptance,
  type Assignment,
  CABLE_COLOURS,
  type Device,
  type OwnType,
  type Position,
  Railway,
  type Reading,
  type TestResult,
  TOPOLOGIES,
  type Topology,
  type Turnout,
  type Zone,
} from "./record/schemas.ts";
export { atOnce, type Steps } from "./record/steps.ts";
export { isSame, withUnchanged } from "./record/unchanged.ts";

// Types of devices.

export { CATALOGUE, figureValue, findType, genericType, typeOf, typesOfFamily } from "./catalogue/catalogue.ts";
export { drivesMotors } from "./catalogue/checkTypes.ts";
export { type DeviceType, type Family, type Figure, type Model, readingInputs } from "./catalogue/deviceType.ts";
export { edit, openRailwayFile } from "./catalogue/edit.ts";
export { gate, type Verdict } from "./catalogue/gate.ts";
export { traitsOf } from "./catalogue/traits.ts";

// What the owner does to a record, as groups of edits.

export { acceptProposal, allot, type Placement, type Proposal } from "./allot/allot.ts";
export { ADDRESSING, type Addressing, type AllotOptions, usualOptions } from "./allot/wants.ts";
export { compareLayings, compareLayingsIn, type LaidAs } from "./consequences/compareLayings.ts";
export { type Consequence, consequencesOf, touchedWords } from "./consequences/consequences.ts";
export { curesOf, Trial } from "./consequences/cures.ts";
export { blocksOf, setBlock } from "./equip/blocks.ts";
export type { Choice } from "./equip/choices.ts";
export { COLUMNS, type Column, columnCalled, isToldByLeader } from "./equip/columns.ts";
export { addBoard, changeType, copyType, hangsOn, removeDevice, setFigure } from "./equip/devices.ts";
export { Draft } from "./equip/draft.ts";
export { setAddress } from "./equip/equipment.ts";
export { feedFrom, possibleCommands, possibleSupplies, setFeeder } from "./equip/feed.ts";
export { copyBlock, equipLike, fillDown, pasteBlock } from "./equip/fill.ts";
export { LAMP_COLOURS, type Piece, pieceOf, possiblePieces, setColours, setPiece } from "./equip/lampFittings.ts";
export { type LockWith, lockChoices, setLock } from "./equip/locks.ts";
export { moveBy, moveOutput, outputsOf } from "./equip/move.ts";
export { type Mapping, turnoutsFromTable, unknownHeadings } from "./equip/table.ts";
export { removeTurnouts } from "./equip/turnouts.ts";
export { typesFromFile, writeTypesFile } from "./equip/typesFile.ts";
export { freeWays, waysInUse } from "./equip/ways.ts";
export { addTurnout, writeCell } from "./equip/write.ts";
export { applySchool, type Compared, compareSchool } from "./schools/compare.ts";
export { SCHOOLS, type School } from "./schools/schools.ts";
export { type Advice, adviceFor, explain, type Flip, guessOf, recordFlip } from "./sense/advice.ts";
export { noteSense, takeOver } from "./sense/edits.ts";
export { type Ledger, type Link as SenseAt, ledgerOf, type Outcome } from "./sense/ledger.ts";
export { PLACES } from "./sense/places.ts";

// What follows from a record.

export {
  type BuiltAs,
  compareBuilds,
  compareRouteSchools,
  type RouteSchoolCompared,
} from "./consequences/compareBuilds.ts";
export { type OpenEnd, openEnds } from "./debts/openEnds.ts";
export { Derived } from "./derive.ts";
export { boardDrawing, type Drawing, PITCH } from "./diodes/boardDrawing.ts";
export { type BoardTest, type BuildSheet, boardTests, layBoard, type Placed } from "./diodes/buildSheet.ts";
export { type NamedBoard, namedBoards, sheetOfBoard, terminalWords } from "./diodes/ofBoard.ts";
export { type CoilInPress, type RoutePress, routePress } from "./diodes/pressed.ts";
export { type Firing, type Press, pressOf, prove } from "./diodes/proof.ts";
export { type CapacitorChoice, SAFE_WITHIN, type UnitDesign, unitDesigns } from "./diodes/unitDesign.ts";
export { usualFiring } from "./diodes/usualFiring.ts";
export { makeParts, setConstruction, setPart } from "./equip/diodeBoards.ts";
export { type PlainSource, plainSources, setPlainInput } from "./equip/plainInputs.ts";
export {
  anotherButton,
  commandRoutes,
  ROUTE_SCHOOLS,
  type RouteSchool,
  routeSchoolWords,
} from "./equip/routeSchools.ts";
export {
  addRoutes,
  removeRoutes,
  renameRoute,
  setInRoute,
  type WantedRoute,
} from "./equip/routes.ts";
export { type BusStart, busStart } from "./events/busStart.ts";
export {
  ACTION_WORDS,
  addEvent,
  type EventFields,
  eventNumber,
  keepEvents,
  removeEvent,
  setEvent,
  setLink,
  setProducer,
} from "./events/edits.ts";
export {
  actionBy,
  afterEvent,
  afterPowerCycle,
  type EventFrame,
  type NodeEntry,
  type NodeState,
  newNode,
  switchesFor,
  type TeachSwitches,
} from "./events/node.ts";
export {
  type EventInput,
  type EventLink,
  type EventOutput,
  type EventPlan,
  eventPlan,
  freeShortNumber,
  type PlannedEvent,
} from "./events/plan.ts";
export { allTaught, stepDone } from "./events/taught.ts";
export { type SwitchSetting, type TeachingSheet, type TeachingStep, teachingSheets } from "./events/teaching.ts";
export { gravestFirst } from "./findings/checking.ts";
export { causeOf, type Finding, type Remedy, type Severity } from "./findings/rule.ts";
export { RULES } from "./findings/rules.ts";
export type { SupplyLoad } from "./hands/supplyLoads.ts";
export { knowledgeOf } from "./indicators/knowledge.ts";
export { movesWords, type PowerUpRow, powerUpTable, type StartOfDay, startOfDay } from "./indicators/powerUp.ts";
export type { LampSituations, Shows, Situation } from "./indicators/situations.ts";
export { type Block, type Blocks, type Border, blocksOnLine, busSideOf, runTogether } from "./line/blocks.ts";
export { type Crossover, couple, type Follows, followsFrom, routesBetweenEnds } from "./line/follows.ts";
export { allFrogs, type FrogNeed } from "./line/frogs.ts";
export { turnoutsInside } from "./line/inside.ts";
export { countJoints, type InsulatedJoint, insulatedJoints, pointsOf } from "./line/insulatedJoints.ts";
export {
  type Direction as LatticeDirection,
  directionTo,
  nameOfPoint,
  nameOfStep,
  opposite,
  pointsAlong,
  simplified,
  stepFrom,
  turnedBy,
} from "./line/lattice.ts";
export {
  ASKS_THREE_WAY,
  type Becoming,
  becomesAlong,
  type LayOptions,
  layTrack,
  type Move,
  moveTracks,
  takeUp,
  takeUpStep,
  trackMetres,
  wayOn,
} from "./line/laying.ts";
export {
  type Junction,
  type LineEnd,
  type LineLayout,
  type LinePlace,
  lineLayout,
  type Stretch,
} from "./line/layout.ts";
export {
  liftTurnout,
  nameEnd,
  openJunctions,
  placeTurnout,
  setGap,
  setHidden,
  setPowerRouting,
  setSlip,
  trayOf,
  turnNormal,
} from "./line/marking.ts";
export {
  changeMark,
  isOnStep,
  layOutline,
  type MarkFields,
  nextName,
  OUTLINE_WORDS,
  removeMark,
  removeOutline,
  type SetMark,
  type StepMark,
  setMark,
  setStand,
  stepOfMark,
  turnMark,
} from "./line/marks.ts";
export { type FrogKind, fedFrogs, feederWords, frogKindOf, type MarkPlace, marksOn, portLabel } from "./line/rails.ts";
export { linksOfRoute, type Route, routesConflict, routesIn } from "./line/routes.ts";
export { boardAlong, boardsOnLine, runOf, runsOnLine } from "./line/runs.ts";
export {
  DETECTOR_FAILURES,
  type LineState,
  reachFrom,
  type SignalCause,
  type SignalShown,
  signalsOn,
} from "./line/signals.ts";
export {
  type Arrival,
  type AutomaticThrow,
  arrivalsAt,
  automaticThrows,
  metresPerSecond,
  serves,
  throwSeconds,
} from "./line/timing.ts";
export { explainTurning, type Section, turningOf } from "./line/turning.ts";
export type { Heading } from "./line/walk.ts";
export { type FoundWay, type Wanted, waysBetween } from "./line/wayfinding.ts";
export { proposedRoutes, type YardProposal } from "./line/yards.ts";
export {
  type BrokenLine,
  frameOfLine,
  type LoggedFrame,
  readCandump,
  writeCandump,
} from "./live/candump.ts";
export {
  type Comparison,
  compareAddresses,
  compareNodes,
  type NodeFound,
  noteAnswers,
  noteNodes,
  noteSettings,
  type ThrownAddress,
} from "./live/compare.ts";
export { BUS_FAULTS, type BusFault, EventBus } from "./live/eventBus.ts";
export { FEEDBACK_FAULTS, FeedbackBus, type FeedbackFault } from "./live/feedbackBus.ts";
export {
  type CanFrame,
  eventFrame,
  eventIn,
  frameIn,
  GATEWAY_ALIAS,
  messagesIn,
  textOf,
} from "./live/frames.ts";
export { type Hardware, hardwareOf } from "./live/hardware.ts";
export { LOCK_OPEN, STATION_FAULTS, Station, type StationFault } from "./live/station.ts";
export { type Named, wordsOf } from "./live/words.ts";
export { laidCable } from "./loom/cables.ts";
export { CABLE_COLOUR_WORDS, CORE_COLOURS, colourOf, coreColour } from "./loom/colours.ts";
export { complete, completed, completionOf, planning } from "./loom/completion.ts";
export { commonsOf, layNet, layZone, netName, setPlasticJoints, TOPOLOGY_WORDS, usualLaying } from "./loom/laying.ts";
export type { Planned } from "./loom/loom.ts";
export { placeWords, WORK_PLACES, WORK_WORDS, type WorkPlace } from "./loom/places.ts";
export { jointsOf, type Progress as LoomProgress, progressOf } from "./loom/progress.ts";
export { coreEnds, coresOf, type WireGroups, wiresBetween, wiresByEnd, wiresByNet } from "./loom/reach.ts";
export { type Total, totalsOf } from "./loom/totals.ts";
export type { Loom, Passage, Run, Wire } from "./loom/wire.ts";
export { wireScheduleRows } from "./loom/wireScheduleRows.ts";
export { freeNumbers, keepWires, moveWires, proposeAnew, STEP_WORDS, takeWiresOut, tickWires } from "./loom/work.ts";
export { accessoryAddress, addressRange } from "./numbers/accessoryAddress.ts";
export { isDue, type OutputAddress } from "./numbers/addressList.ts";
export { type AddressPlace, type AddressState, addressMap, gapsIn } from "./numbers/addressMap.ts";
export { reserveAddresses, resetBoard, setAnswer } from "./numbers/answers.ts";
export { type BusDay, busDay, MOST_METRES, MOST_NODES } from "./numbers/busDay.ts";
export { type FeedbackInput, feedbackInputs } from "./numbers/feedback.ts";
export { type LeftToDo, leftToDo } from "./numbers/leftToDo.ts";
export {
  accessoryPacket,
  aspectPacket,
  type Direction,
  hexOf,
  onMainPacket,
  type Packet,
  packetBits,
  serviceModePacket,
  type VariableAction,
} from "./numbers/packets.ts";
export {
  applyRenumbering,
  type Change as AddressChange,
  type ProgrammingStep,
  programmingOrder,
  renumber,
  type Scheme,
} from "./numbers/renumber.ts";
export { type LaidWay, layAs, ranked, waysToLay } from "./pathfinder/pathfinder.ts";
export { changeWords } from "./proving/chain.ts";
export { type Fault, faultWords, measuringPoints, nextPlace, standingAt } from "./proving/nextPlace.ts";
export { type Sign, signOf, signWords } from "./proving/signs.ts";
export { testResult } from "./proving/testResult.ts";
export type { TestStep } from "./proving/testSteps.ts";
export type { Found, Standing } from "./proving/verdict.ts";
export type { BoardLoad } from "./readings/boardLoads.ts";
export { type MeterKind, type MeterReading, measure, type Range } from "./readings/meter.ts";
export type { NodeVolts } from "./readings/nodeVolts.ts";
export type { Moment, RailwayState } from "./readings/states.ts";
export { type FrogReading, lampIn, type MotorReading, stateFor, type ThreadReading } from "./readings/threadReading.ts";
export type { Mark, MarkOf, Outline, Point } from "./record/line.ts";
export {
  type BoardPart,
  CONSTRUCTIONS,
  type ConstructionKind,
  type Route as NamedRoute,
  type RouteControl,
  type RouteTurnout,
} from "./record/routes.ts";
export {
  type BoardJoin,
  isDirect,
  type Matrix,
  type MatrixCoil,
  type MatrixRow,
  matricesOf,
  matrixOfBoard,
} from "./routes/boards.ts";
export {
  type Construction,
  constructionsOf,
  type Join,
  reachedFrom,
} from "./routes/constructions.ts";
export { faultOfWishes, matrixOf, type SneakStep, sneakWay, type Wish } from "./routes/matrix.ts";
export { amongRoutes, controlsOfRoute, routesInOrder, turnoutsOfRoute } from "./routes/routes.ts";
export { leadersThrough, type ThingRef } from "./schematic/leadersThrough.ts";
export { type Net, terminalName, wayName } from "./schematic/nets.ts";
export { asksBy, controlSides, sideMade, staysMade } from "./schematic/recipes/controlSides.ts";
export { heardAt } from "./schematic/recipes/controlToInputs.ts";
export { railAtContact } from "./schematic/recipes/frogFeed.ts";
export { isCut } from "./schematic/recipes/lockOut.ts";
export { motorEnds, outputTerminals } from "./schematic/recipes/outputToMotor.ts";
export { outTerminals } from "./schematic/recipes/toggleToMotor.ts";
export { restsOn } from "./schematic/restsOn.ts";
export {
  controlsOf,
  drivesItself,
  type Fitted,
  supplyOf,
  type Thread,
  type ThreadControl,
  type ThreadFrog,
  type ThreadLamp,
  type ThreadMotor,
  threadLedBy,
  threadsOf,
} from "./schematic/thread.ts";
export { calibrateNode } from "./settings/calibrateNode.ts";
export { type BusNode, busNodes, giveNodeNumbers, type SwitchPlace } from "./settings/nodes.ts";
export {
  faultOf,
  likeLines,
  readSetting,
  readSettingRows,
  type SettingLine,
  type SettingStanding,
  type SettingStep,
  settingLines,
  settingRows,
  settingRowsFromJson,
  settingSteps,
  wantSetting,
  wantSettings,
} from "./settings/settings.ts";
export { ownOf } from "./units/ownOf.ts";

// Units, figures and small calculators.

export type { Calculator, Field, Result } from "./calculators/calculator.ts";
export { CALCULATORS, calculatorCalled } from "./calculators/registry.ts";
export { setLeadColour, setPurposeColour } from "./loom/customs.ts";
export {
  addCable,
  addStrip,
  endAt,
  firmAt,
  moveCore,
  moveWay,
  setCable,
  setStrip,
  setWire,
  takeAway,
} from "./loom/hand.ts";
export { giveTail, motorsWithoutTail } from "./loom/handTails.ts";
export { JOINT_SHORT, JOINT_WORDS, jointAt } from "./loom/joints.ts";
export { setLaying } from "./loom/proposing.ts";
export { farEnd, screwIdOf, screwKey } from "./loom/wire.ts";
export { joinAt, wireNames } from "./loom/work.ts";
export {
  faultsOfSheet,
  LABEL_LINE,
  LABEL_SHEETS,
  type LabelSheet,
  type LabelStyle,
  labelArea,
  MARGIN,
  type PlacedLabel,
  type PlacedLabels,
  settingOf,
} from "./papers/labelSheets.ts";
export {
  type Paper,
  type PaperCell,
  type PaperColumn,
  type PaperPart,
  type PaperTable,
  tablesOf,
} from "./papers/paper.ts";
export { PAPER_SIZES, type PaperSize, type PaperSizeName } from "./papers/paperSizes.ts";
export { PAPERS, type PaperOptions } from "./papers/papers.ts";
export { SAFE_VOLTS } from "./readings/recharge.ts";
export type { CableColours } from "./record/schemas.ts";
export { type Need, needsOf } from "./stock/needs.ts";
export { boughtAll, missingByTurnout, type StockFields, type StockLine, setStock, stockLines } from "./stock/stock.ts";
export { ACTIONS, type Action, type Pace } from "./tasks/pace.ts";
export { type Task, type WorkPlan, workPlan } from "./tasks/tasks.ts";
export {
  amps,
  bytes,
  count,
  joules,
  list,
  milliamps,
  milliseconds,
  ohms,
  seconds,
  volts,
  watts,
} from "./units/format.ts";
export { GAUGES, type Gauge } from "./units/gauge.ts";
export { readNumber } from "./units/readNumber.ts";
export { WIRE_COLOUR_CODES, WIRE_COLOURS, type WireColour } from "./units/wireColours.ts";
