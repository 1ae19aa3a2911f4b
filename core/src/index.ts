/** The public face of @zygopod/core: what a program around the core needs, by room. */

// The version of the core.

export { VERSION } from './version.ts';

// Numbers and angles.

export { turnTo } from './math/angles.ts';
export { significant, significantPair } from './math/significant.ts';

// Files: what they are read by, and what is wrong with one.

export { markOf, readJson } from './document/document.ts';
export { type Fault, faultText, printable, type Reading, shown } from './document/fault.ts';

// A tuning: its parameters and their catalogue, links, entries in a field, differences.

export { bodyRadius, bodySize } from './tuning/body.ts';
export { matters, type Parameters, rowsOf, specOf, specs, unitOf, whenWords } from './tuning/catalogue/catalogue.ts';
export { type ChoiceSpec, type CurveSpec, type Figure, figureTitles, heldIn, type SetSpec } from './tuning/catalogue/specs.ts';
export { type Difference, differences } from './tuning/diff.ts';
export { readEntry, shortNumber } from './tuning/expression.ts';
export { firstTuning } from './tuning/firstTuning.ts';
export { isLink } from './tuning/links.ts';
export { merge } from './tuning/merge.ts';
export { HALF_LIVES_TO_90, rateToStopIn } from './tuning/outcomes.ts';
export { parameterReference } from './tuning/reference.ts';
export type { FileValue, TuningFile } from './tuning/schema.ts';
export { type Condition, readSearch, type Search } from './tuning/search.ts';
export {
  newTuning,
  numberAt,
  numberSpec,
  parseTuning,
  rawAt,
  readTuning,
  resolveTuning,
  type Tuning,
  valueAt,
  withValue,
  writtenAt,
} from './tuning/tuning.ts';
export { linkWords, valueWords } from './tuning/words.ts';

// A ground: cells and walls.

export { addGate, changeGate, gateNear, removeGate, reorderGate, setLaps } from './ground/courseEdit.ts';
export {
  addWall,
  cellAt,
  cellsAlong,
  cellsBetween,
  cellsLike,
  changeWall,
  insertPoint,
  movePoint,
  moveWall,
  paintCells,
  removeWall,
  resizeGround,
  wallNear,
} from './ground/edit.ts';
export {
  type Course,
  type Gate,
  type Ground,
  groundWith,
  newGround,
  OPEN,
  parseGround,
  readGround,
  SOLID,
  type Surface,
  type Wall,
} from './ground/ground.ts';
export { solidTester, wallSegments } from './ground/outlines.ts';
export { bucketWalls, type WallBuckets, WallIndex } from './ground/wallIndex.ts';
export { firstYard, suitsSpeed, yardFor } from './ground/yard.ts';

// Hands, and the tapes that keep them.

export { type Control, controls, type Swipe, swipes } from './tape/controls.ts';
export { FrameClock, type FramePattern, framePatterns } from './tape/frames.ts';
export type { Hands, HandsEvent } from './tape/hands.ts';
export { addPart, isInstant, movePart, type PartLane, stretchPart, type TapePart, tapeParts, withParts } from './tape/parts.ts';
export { Recorder } from './tape/recorder.ts';
export { Replay } from './tape/replay.ts';
export { parseTape, readTape, type Tape, tapeOf } from './tape/tape.ts';

// Bodies among walls.

export { edgeMargins, originLimits } from './collision/limits.ts';

// Paths: planning them, and the mesh of free places that they go over.

export { meshFor } from './route/bodyMesh.ts';
export type { Mesh } from './route/mesh.ts';
export { Navigator, type Route } from './route/navigator.ts';

// The motion: a world that ticks, its trace, and the words for what is in it.

export { monotoneCubic } from './motion/accelerationCurve.ts';
export { hashText } from './motion/body.ts';
export { viewCorners } from './motion/camera.ts';
export { gaits } from './motion/codes.ts';
export type { LoggedContact } from './motion/contactLog.ts';
export { eventBit } from './motion/events.ts';
export { compassName } from './motion/facing.ts';
export { throwPebble } from './motion/pebble.ts';
export { type Standalone, standalone } from './motion/standalone.ts';
export { shapedStick } from './motion/steering.ts';
export type { Column, Trace } from './motion/trace.ts';
export { World } from './motion/world.ts';

// Courses: gates, laps, the planned path; and the pilot that drives them.

export { type Along, alongCourse } from './course/along.ts';
export { type CoursePath, planCourse } from './course/coursePath.ts';
export { type GateLine, gateLines } from './course/gates.ts';
export { type Lap, LapTimer, lapInTrace, lapOf } from './course/lap.ts';
export { type Stretch, stretchesOf } from './course/stretches.ts';
export { type LapSide, type TimeDifference, whereTimeGoes } from './course/whereTimeGoes.ts';
export { isLapDetail, isLapMetric } from './measure/drills/lap.ts';
export { type DrivenLaps, driveLaps, driveMedianLap } from './pilot/laps.ts';
export {
  defaultOptions,
  deviceFault,
  type PilotDevice,
  type PilotLine,
  type PilotOptions,
  pilotDevices,
  pilotLines,
  type SprintPolicy,
  sprintPolicies,
} from './pilot/options.ts';
export type { PilotLap } from './pilot/pilot.ts';

// Drives that are recorded, and driven again.

export { cutTape } from './replay/cut.ts';
export { outAndBack } from './replay/outAndBack.ts';
export { Recording } from './replay/recording.ts';
export { Rerun, rerun } from './replay/rerun.ts';

// What a motion measures: drills, metrics, snags, surveys, and the small scenes that figures draw.

export { chanceOf, shareInterval } from './measure/binomial.ts';
export { clearanceAt } from './measure/clearance.ts';
export type { Absences } from './measure/drills/absences.ts';
export type { Drill, Ran } from './measure/drills/drill.ts';
export { drills } from './measure/drills/list.ts';
export { Prepared } from './measure/drills/prepared.ts';
export { absencesOf, type DrillResult, metricsOf, runDrills } from './measure/drills/run.ts';
export type { Gap } from './measure/gaps.ts';
export { type Happening, lastHappenings } from './measure/happenings.ts';
export { type MetricName, type Metrics, metricKey, metricOfKey, metricSpecOf, metricSpecs } from './measure/metricSpecs.ts';
export { traceMetricNames, traceMetrics } from './measure/metrics.ts';
export { driveTape } from './measure/onTape.ts';
export { apartAt, inOrder, type Parting, partings, type Side } from './measure/partings.ts';
export { clickRun } from './measure/scenes/click.ts';
export { HELD_AGAINST, policies, pressAgainstEdge } from './measure/scenes/edge.ts';
export { type PaceCurve, paceProfile } from './measure/scenes/paceProfile.ts';
export { runUp } from './measure/scenes/runUp.ts';
export { STEPS_SHOWN, stepRun } from './measure/scenes/step.ts';
export { CAMERA_PHASES, cameraLag, TURNED, turnedBy, turnOverTime, WATCHED_LAG } from './measure/scenes/turn.ts';
export { keptAtContact, steadySlide } from './measure/scenes/wall.ts';
export { drillSnags } from './measure/snags/drills.ts';
export { groundSnags, wallSnags } from './measure/snags/ground.ts';
export { bySeverity, type Severity, type Snag, type SnagId, snagWords } from './measure/snags/snag.ts';
export { traceSnags } from './measure/snags/trace.ts';
export { tuningSnags } from './measure/snags/tuning.ts';
export { measureSpan } from './measure/span.ts';
export { type StaminaCycle, staminaCycle } from './measure/staminaCycle.ts';
export { type Survey, type SurveyPart, surveyGround, surveyInParts, surveyKey } from './measure/survey.ts';
export { traceAt } from './measure/traceAt.ts';
export { type Parted, type Verified, verifyTrace } from './measure/verifyTrace.ts';

// Targets, and how they are judged.

export {
  type JudgedTarget,
  judgeTargets,
  keepAsTargets,
  parseTargets,
  readTargets,
  type Target,
  type TargetSet,
  targetFaults,
} from './targets/targets.ts';

// A project: the kinds of document in it, as one file or as many.

export {
  type Collection,
  collectionOf,
  collections,
  type DocumentKind,
  documentKinds,
  fileName,
  kindIn,
  kindMarked,
  kindNames,
  mergeFiles,
} from './project/kinds.ts';
export { groundLine, tapeLine, tuningLine, tuningNumbers } from './project/line.ts';
export { mergeHeads, type ProjectHead } from './project/mergeHeads.ts';
export {
  type Brought,
  LARGEST_PROJECT,
  type Member,
  newestVersions,
  type Project,
  parseAny,
  readAny,
  readProject,
} from './project/project.ts';
export { canonicalText, documentText, fileStem, freeName } from './project/text.ts';

// Other formats: grounds, sources of games, constants, reports, and texts escaped for their places.

export { drillReport } from './formats/drillReport.ts';
export { csvCell, csvLine, fromCsvCell, identifierOf, inComment, inDocstring, inMarkdown, inXml } from './formats/escaping.ts';
export { exportGround, type GroundFormat, groundFormats, type ImportOptions, importGround } from './formats/grounds/convert.ts';
export type { Exported, Imported } from './formats/grounds/imported.ts';
export { tooLarge } from './formats/grounds/imported.ts';
export { type Case, cases, inCase } from './formats/handOff/cases.ts';
export { type Constant, type ConstantFault, type ConstantValue, constantsOf, wordsOfPath } from './formats/handOff/constants.ts';
export { handOffPathFault } from './formats/handOff/path.ts';
export { type GameUnits, gameUnitWords, inGameUnits, inTuningUnits, plainUnits, readUnits, unitsWord } from './formats/handOff/units.ts';
export { formatNames, jsonSchema } from './formats/jsonSchema.ts';
export { junitXml } from './formats/junit.ts';
export type { Terms } from './formats/source/convert.ts';
export type { Found } from './formats/source/found.ts';
export { knownNames, unitsOfHandOff } from './formats/source/handedOver.ts';
export { type IntoKept, intoKept, type LinePair, type Missing, takeByHand } from './formats/source/intoKept.ts';
export { type KeptSource, keepSource, keptSource, placeKept, sourceNames, termsOfKept } from './formats/source/kept.ts';
export { pastedTuning } from './formats/source/pasted.ts';
export { type Placed, placeByHand, placeKnown, placeNumbers, uniqueNames } from './formats/source/placing.ts';
export { doubtsIn, type ProposedUnits, proposeUnits } from './formats/source/proposeUnits.ts';
export { readSource, type Source } from './formats/source/source.ts';
export { LONGEST as LONGEST_SOURCE } from './formats/source/tokens.ts';
export { type Edit, type Unplaced, type WrittenBack, writeBack } from './formats/source/writeBack.ts';
export { traceHeader, traceRows } from './formats/traceCsv.ts';

// The formulas of a tuning.

export { type Formula, formulasOf } from './formulas/formulas.ts';
export { formulaMath } from './formulas/mathml.ts';
export { formulaReference } from './formulas/reference.ts';
export { formulasMarkdown, resultText } from './formulas/text.ts';

// The link to running games: its messages.

export {
  type Ability,
  abilities,
  abilityFor,
  type GameMessage,
  type Hello,
  LARGEST_MESSAGE,
  type LinkRequest,
  linkRequest,
  linkSchema,
  PROTOCOL,
  type RowsMessage,
  readGameMessage,
  type ServerMessage,
} from './link/messages.ts';

// Sweeps: a plane of tunings through the drills.

export { type Moved, type Outcome, triedPaths, whatIsMoved, whatMoves } from './search/effects/moves.ts';
export { type Effect, type EffectRow, type EffectTable, effectTable } from './search/effects/table.ts';
export { ended } from './search/ended.ts';
export { numbersFor } from './search/fit/choice.ts';
export { type FitRequest, fitFaults, fitTargets } from './search/fit/fit.ts';
export { type FrontPoint, tradeOff } from './search/fit/front.ts';
export type { FitProgress } from './search/fit/meeting.ts';
export { type FitNumber, fitNumber, type MoveRequest } from './search/fit/numbers.ts';
export type { FitReport } from './search/fit/report.ts';
export { type RecordingOptions, readRecording } from './search/recording/recording.ts';
export { fitRecording, moverPaths, type RecordingReport, titleOf } from './search/recording/report.ts';
export { type RecordedMotion, type Reproduction, reproduce } from './search/recording/reproduce.ts';
export { together } from './search/recording/together.ts';
export { cellCost } from './search/sweep/cost.ts';
export { nearestMet } from './search/sweep/nearest.ts';
export { type QueuedChunk, type QueuedSweep, takeQueued, wholeChunk } from './search/sweep/queued.ts';
export { type SweepReport, sweepCsv, sweepReport } from './search/sweep/report.ts';
export {
  drivenTapes,
  type Hole,
  MET,
  type MetricKey,
  MISSED,
  Sweep,
  type SweepChunk,
  type SweepDefinition,
  sweepFaults,
} from './search/sweep/sweep.ts';
export {
  axisLabel,
  axisText,
  cellsOver,
  MOST_CELLS,
  pathOf,
  placeOn,
  readAxis,
  type SweepAxis,
  spread,
  valueOn,
  withAxis,
} from './sweeps/axis.ts';
export { axesOf, readSweep, type SweepFile } from './sweeps/sweepFile.ts';

// A linked game's motion beside the model's.

export { type Finding, type FindingKind, findingsOf } from './game/findings.ts';
export { GameDrive, type InForce } from './game/gameDrive.ts';
export { type GameTerms, lengthIn } from './game/gameRows.ts';
