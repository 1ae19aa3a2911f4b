import { type Calm, newCalm } from '../collision/calm.ts';
import { originLimits } from '../collision/limits.ts';
import { type PlacedBody, placedBody } from '../collision/placedBody.ts';
import { Planes } from '../collision/planes.ts';
import type { Probe } from '../collision/probe.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** Settings of the contact stage. */
export interface ContactPlan {
  body: PlacedBody;
  probe: Probe;
  calm: Calm;
  planes: Planes;
  felt: boolean;
  /** Limits of the body's origin; infinite on a side without one. */
  left: number;
  right: number;
  top: number;
  bottom: number;
  /** Limits at which an edge of any kind takes effect. */
  farLeft: number;
  farRight: number;
  farTop: number;
  farBottom: number;
  /** Offset from the body's origin to its centre, unit. */
  centreX: number;
  centreY: number;
  /** Distance from the body's centre to its farthest point, unit. */
  half: number;
  /** True if the ground has surfaces that change the speed. */
  surfaced: boolean;
  /** True if a tick without contact has nothing else to do: no surfaces, no grid steps. */
  calms: boolean;
  slides: boolean;
  /** Contacts along which a body slides in one tick. */
  most: number;
  cornerAssist: number;
  swept: boolean;
}

/** Grid steps test for walls themselves, with the bare body: one as wide as its cell fits between them. */
export function prepareContact(parameters: Parameters, ground: Ground, walls: WallIndex): ContactPlan {
  const { contact, scheme } = parameters;
  const steps = scheme === 'step';
  const body = placedBody(parameters, ground, walls, steps ? -contact.skin : 0);
  const { probe } = body;
  const far = originLimits(parameters, ground);
  return {
    body,
    probe,
    calm: newCalm(),
    planes: new Planes(contact.wallFriction, contact.keepSpeed),
    felt: body.felt && !steps,
    ...body.limits,
    farLeft: far.left,
    farRight: far.right,
    farTop: far.top,
    farBottom: far.bottom,
    centreX: body.centreX,
    centreY: body.centreY,
    half: probe.circle ? probe.halfWidth : length(probe.halfWidth, probe.halfHeight),
    surfaced: isSurfaced(ground),
    calms: !steps && !isSurfaced(ground),
    slides: contact.response === 'slide',
    most: contact.contactsPerTick,
    cornerAssist: contact.cornerAssist,
    swept: contact.swept,
  };
}

/** True if a ground has surfaces that change the speed. */
function isSurfaced({ cells, surfaces }: Ground): boolean {
  return cells.length > 0 && Object.keys(surfaces).length > 0;
}
