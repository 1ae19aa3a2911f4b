import { viewLag } from './camera.ts';
import { clickTour, holdAndFollow, plant, reclick } from './clicks.ts';
import { eightDirections, facingTurn, swipeSequence } from './directions.ts';
import type { Drill } from './drill.ts';
import { lap } from './lap.ts';
import { tickRates } from './rates.ts';
import { longSprint, sprintToEmpty } from './sprints.ts';
import { autoRun, drift, hardStop, rightAngle, standingStart, turnRound } from './starts.ts';
import { gridWalk } from './steps.ts';
import { cornerPress, edgePress, gapSeries, seamRun, wallGraze } from './walls.ts';

/** All drills, in the order of work. To add one: its file, and its entry here. */
export const drills: readonly Drill[] = [
  standingStart,
  hardStop,
  turnRound,
  rightAngle,
  eightDirections,
  sprintToEmpty,
  longSprint,
  wallGraze,
  cornerPress,
  gapSeries,
  seamRun,
  edgePress,
  facingTurn,
  clickTour,
  holdAndFollow,
  reclick,
  plant,
  gridWalk,
  drift,
  swipeSequence,
  autoRun,
  viewLag,
  tickRates,
  lap,
];
