import { addressDuplicate } from "./addressDuplicate.ts";
import { addressImpossible } from "./addressImpossible.ts";
import { addressNotInRow } from "./addressNotInRow.ts";
import { answersOtherwise } from "./answersOtherwise.ts";
import { backFeed } from "./backFeed.ts";
import { barelySwitches } from "./barelySwitches.ts";
import { blockBridged } from "./blockBridged.ts";
import { blocksRunTogether } from "./blocksRunTogether.ts";
import { blockUnwatched } from "./blockUnwatched.ts";
import { boardOverTotal } from "./boardOverTotal.ts";
import { boardUnreached } from "./boardUnreached.ts";
import { coilHeldOn } from "./coilHeldOn.ts";
import { coilsTogether } from "./coilsTogether.ts";
import { colourTwoMeanings } from "./colourTwoMeanings.ts";
import { contactOverAmps } from "./contactOverAmps.ts";
import { contactOverRating } from "./contactOverRating.ts";
import { contactUsedTwice } from "./contactUsedTwice.ts";
import { controlNotHeard } from "./controlNotHeard.ts";
import { crossoverZones } from "./crossoverZones.ts";
import { crowdedTerminal } from "./crowdedTerminal.ts";
import { deadWithoutComputer } from "./deadWithoutComputer.ts";
import { decoderOnOwnTrack } from "./decoderOnOwnTrack.ts";
import { detectorMissesAxle } from "./detectorMissesAxle.ts";
import { detectorRails } from "./detectorRails.ts";
import { detectorRailUncut } from "./detectorRailUncut.ts";
import { detectorSeesLoad } from "./detectorSeesLoad.ts";
import { diodeOverSurge } from "./diodeOverSurge.ts";
import { diodeTurned } from "./diodeTurned.ts";
import { eventLoop } from "./eventLoop.ts";
import { eventUnheard } from "./eventUnheard.ts";
import { eventUnproduced } from "./eventUnproduced.ts";
import { feedbackShared } from "./feedbackShared.ts";
import { feedersAgainst } from "./feedersAgainst.ts";
import { frogJointMissing } from "./frogJointMissing.ts";
import { frogLampsOnDc } from "./frogLampsOnDc.ts";
import { frogWrongRail } from "./frogWrongRail.ts";
import { goesAstray } from "./goesAstray.ts";
import { handDiffers } from "./handDiffers.ts";
import { hiddenUnseen } from "./hiddenUnseen.ts";
import { inputOverVolts } from "./inputOverVolts.ts";
import { jointBetterAtBench } from "./jointBetterAtBench.ts";
import { lampCommon } from "./lampCommon.ts";
import { lampCurrent } from "./lampCurrent.ts";
import { lampEventOpposite } from "./lampEventOpposite.ts";
import { lampReverseVoltage } from "./lampReverseVoltage.ts";
import { lampTellsOpposite } from "./lampTellsOpposite.ts";
import { lampVoltsLost } from "./lampVoltsLost.ts";
import { latchingLocksOthers } from "./latchingLocksOthers.ts";
import { learnSwitchOn } from "./learnSwitchOn.ts";
import { legNowhere } from "./legNowhere.ts";
import { lineUnclear } from "./lineUnclear.ts";
import { longerThanReel } from "./longerThanReel.ts";
import { loopInNet } from "./loopInNet.ts";
import { madeServesNothing } from "./madeServesNothing.ts";
import { motorOverVolts } from "./motorOverVolts.ts";
import { nodeNumberShared } from "./nodeNumberShared.ts";
import { noSpareCore } from "./noSpareCore.ts";
import { notPlaced } from "./notPlaced.ts";
import { otherBus } from "./otherBus.ts";
import { outputOverLimit } from "./outputOverLimit.ts";
import { outputShared } from "./outputShared.ts";
import { outputTwoMasters } from "./outputTwoMasters.ts";
import { pairThrownAgainst } from "./pairThrownAgainst.ts";
import { plugOverCurrent } from "./plugOverCurrent.ts";
import { polarityUnitLate } from "./polarityUnitLate.ts";
import { powerOnUnsafe } from "./powerOnUnsafe.ts";
import { pulseLostInWire } from "./pulseLostInWire.ts";
import { railUnfed } from "./railUnfed.ts";
import { relayAtStart } from "./relayAtStart.ts";
import { relaysBeyondController } from "./relaysBeyondController.ts";
import { resistorTooHot } from "./resistorTooHot.ts";
import { restsOnHearsay } from "./restsOnHearsay.ts";
import { reverserKind } from "./reverserKind.ts";
import { reversingUngapped } from "./reversingUngapped.ts";
import { routeAsksBoth } from "./routeAsksBoth.ts";
import { routeBeforeRecharge } from "./routeBeforeRecharge.ts";
import { routeButtonShared } from "./routeButtonShared.ts";
import { routeCoilWeak } from "./routeCoilWeak.ts";
import { routeContactAmps } from "./routeContactAmps.ts";
import { routeImpossible } from "./routeImpossible.ts";
import { routeNotOnLine } from "./routeNotOnLine.ts";
import { routeSneak } from "./routeSneak.ts";
import { routeUnasked } from "./routeUnasked.ts";
import { routeUnreached } from "./routeUnreached.ts";
import type { Rule } from "./rule.ts";
import { sameColourInCable } from "./sameColourInCable.ts";
import { sameColoursBeside } from "./sameColoursBeside.ts";
import { sectionsTouch } from "./sectionsTouch.ts";
import { sectionTooShort } from "./sectionTooShort.ts";
import { sensorDelaysRed } from "./sensorDelaysRed.ts";
import { settingDiffers } from "./settingDiffers.ts";
import { shortByHands } from "./shortByHands.ts";
import { shortEventShared } from "./shortEventShared.ts";
import { shortWouldNotTrip } from "./shortWouldNotTrip.ts";
import { signalGuardsNothing } from "./signalGuardsNothing.ts";
import { startRestoresNothing } from "./startRestoresNothing.ts";
import { stripOutOfReach } from "./stripOutOfReach.ts";
import { supplyOutOfRange } from "./supplyOutOfRange.ts";
import { supplyOverRating } from "./supplyOverRating.ts";
import { taughtOtherwise } from "./taughtOtherwise.ts";
import { throwTooLate } from "./throwTooLate.ts";
import { throwWrongLeg } from "./throwWrongLeg.ts";
import { trainKeepsAsking } from "./trainKeepsAsking.ts";
import { turnoutIncomplete } from "./turnoutIncomplete.ts";
import { unitTooWeak } from "./unitTooWeak.ts";
import { waysOverlap } from "./waysOverlap.ts";
import { wireNotProtected } from "./wireNotProtected.ts";
import { wireOverCurrent } from "./wireOverCurrent.ts";
import { wrongKindForOutput } from "./wrongKindForOutput.ts";

/** All rules, in the order in which their findings are shown within a severity. */
export const RULES: readonly Rule[] = [
  shortByHands,
  coilHeldOn,
  wrongKindForOutput,
  reverserKind,
  outputOverLimit,
  boardOverTotal,
  relaysBeyondController,
  supplyOutOfRange,
  motorOverVolts,
  contactOverAmps,
  contactOverRating,
  inputOverVolts,
  barelySwitches,
  resistorTooHot,
  polarityUnitLate,
  supplyOverRating,
  shortWouldNotTrip,
  wireOverCurrent,
  plugOverCurrent,
  wireNotProtected,
  pairThrownAgainst,
  contactUsedTwice,
  madeServesNothing,
  waysOverlap,
  outputShared,
  frogWrongRail,
  detectorRails,
  detectorSeesLoad,
  detectorMissesAxle,
  unitTooWeak,
  goesAstray,
  controlNotHeard,
  boardUnreached,
  otherBus,
  pulseLostInWire,
  lampCommon,
  lampCurrent,
  frogLampsOnDc,
  lampVoltsLost,
  lampReverseVoltage,
  lampTellsOpposite,
  backFeed,
  latchingLocksOthers,
  decoderOnOwnTrack,
  relayAtStart,
  powerOnUnsafe,
  crowdedTerminal,
  longerThanReel,
  stripOutOfReach,
  jointBetterAtBench,
  sameColourInCable,
  colourTwoMeanings,
  sameColoursBeside,
  loopInNet,
  noSpareCore,
  restsOnHearsay,
  addressDuplicate,
  addressNotInRow,
  answersOtherwise,
  settingDiffers,
  eventLoop,
  learnSwitchOn,
  nodeNumberShared,
  outputTwoMasters,
  lampEventOpposite,
  shortEventShared,
  taughtOtherwise,
  eventUnheard,
  eventUnproduced,
  startRestoresNothing,
  feedbackShared,
  deadWithoutComputer,
  addressImpossible,
  coilsTogether,
  trainKeepsAsking,
  turnoutIncomplete,
  reversingUngapped,
  lineUnclear,
  handDiffers,
  crossoverZones,
  frogJointMissing,
  blocksRunTogether,
  feedersAgainst,
  railUnfed,
  detectorRailUncut,
  blockUnwatched,
  signalGuardsNothing,
  sectionTooShort,
  sectionsTouch,
  throwTooLate,
  throwWrongLeg,
  sensorDelaysRed,
  hiddenUnseen,
  blockBridged,
  notPlaced,
  legNowhere,
  routeImpossible,
  routeNotOnLine,
  routeAsksBoth,
  routeButtonShared,
  routeSneak,
  diodeTurned,
  routeUnreached,
  routeCoilWeak,
  diodeOverSurge,
  routeContactAmps,
  routeBeforeRecharge,
  routeUnasked,
];

/** Rules whose findings are put right in steps, one remedy after the other. */
export const STEPWISE: ReadonlySet<string> = new Set([turnoutIncomplete.id]);

/** Rules about what hands, trains, boards and restarts can set, which has to be looked at before. */
export const SWEPT: ReadonlySet<Rule> = new Set([
  ...[shortByHands, coilHeldOn, coilsTogether, outputOverLimit, contactOverRating, backFeed],
  ...[wireOverCurrent, plugOverCurrent, resistorTooHot, supplyOverRating],
]);

/** Rules about what the solved circuit or the loom tells of states by themselves. */
const BY_STATE: ReadonlySet<Rule> = new Set([
  ...[boardOverTotal, relaysBeyondController, supplyOutOfRange, motorOverVolts, contactOverAmps, inputOverVolts],
  ...[barelySwitches, polarityUnitLate, shortWouldNotTrip, wireNotProtected, pairThrownAgainst, madeServesNothing],
  ...[frogWrongRail, detectorSeesLoad, detectorMissesAxle, unitTooWeak, goesAstray, controlNotHeard, pulseLostInWire],
  ...[lampCommon, lampCurrent, lampVoltsLost, lampReverseVoltage, decoderOnOwnTrack, crowdedTerminal, longerThanReel],
  ...[stripOutOfReach, jointBetterAtBench, sameColourInCable, colourTwoMeanings, sameColoursBeside, loopInNet],
  ...[noSpareCore, routeCoilWeak, diodeOverSurge, routeContactAmps, routeBeforeRecharge],
]);

/** Rules for which nothing is woven or solved: they look at the record, its threads and addresses only. */
export const BY_RECORD: ReadonlySet<Rule> = new Set(RULES.filter((rule) => !BY_STATE.has(rule) && !SWEPT.has(rule)));
