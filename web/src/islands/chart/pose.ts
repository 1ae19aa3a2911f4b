import { eventBit } from '@zygopod/core';
import type { Drive } from '../drive/drive.ts';
import type { Pose } from './drawMotion.ts';

/** The body's place in the drawing: between the last two ticks while time runs, else at the selected row. */
export function shownPose(drive: Drive): Pose {
  const { trace, parameters } = drive.world;
  const { row } = drive;
  const facing = (trace.at('facing', row) * Math.PI) / 180;
  const pose: Pose = { x: trace.at('x', row), y: trace.at('y', row), vx: trace.at('vx', row), vy: trace.at('vy', row), facing };
  if (isBetween(drive)) {
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

/** True if the moment shown lies between two ticks: not when looking back, nor where the body has been put elsewhere. */
function isBetween(drive: Drive): boolean {
  const { trace } = drive.world;
  const { row } = drive;
  const jumped = trace.at('events', row) & (eventBit.wrapped | eventBit.sent);
  return drive.$lookBack.get() === null && drive.$running.get() && row > trace.first && !jumped;
}

/** The world point in the middle of the camera's view at the moment shown. */
export function shownCamera(drive: Drive): { x: number; y: number } {
  const { trace } = drive.world;
  const { row } = drive;
  const [x, y] = [trace.at('cameraX', row), trace.at('cameraY', row)];
  if (!isBetween(drive)) return { x, y };
  const share = drive.fraction;
  const [lastX, lastY] = [trace.at('cameraX', row - 1), trace.at('cameraY', row - 1)];
  return { x: lastX + (x - lastX) * share, y: lastY + (y - lastY) * share };
}

/** The moment shown, as a time of the trace, s. */
export function shownTime(drive: Drive): number {
  const { trace } = drive.world;
  const { row } = drive;
  if (row <= trace.first) return trace.at('time', row);
  const before = trace.at('time', row - 1);
  return isBetween(drive) ? before + (trace.at('time', row) - before) * drive.fraction : trace.at('time', row);
}
