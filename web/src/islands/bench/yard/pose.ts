import type { Drive } from '../session/drive.ts';
import type { Pose } from './drawMotion.ts';

/** Where to draw the body: between the last two ticks while time runs, at the row looked at else. */
export function shownPose(drive: Drive): Pose {
  const { trace, parameters } = drive.world;
  const { row } = drive;
  const facing = (trace.at('facing', row) * Math.PI) / 180;
  const pose: Pose = { x: trace.at('x', row), y: trace.at('y', row), vx: trace.at('vx', row), vy: trace.at('vy', row), facing };
  if (drive.$lookBack.get() === null && drive.$running.get() && row > trace.first) {
    const share = drive.fraction;
    pose.x = trace.at('x', row - 1) + (pose.x - trace.at('x', row - 1)) * share;
    pose.y = trace.at('y', row - 1) + (pose.y - trace.at('y', row - 1)) * share;
  }
  if (parameters.clock.snapToPixel) {
    pose.x = Math.round(pose.x);
    pose.y = Math.round(pose.y);
  }
  return pose;
}
