import { expect, it } from 'vitest';
import { drive, openGround } from '../testing/drive.ts';

it.each(['left', 'right', 'up', 'down'] as const)('surfaces reach the border that clamps a body by its centre (%s)', (press) => {
  const mud = openGround({
    size: { width: 96, height: 96 },
    cells: ['~~~', '~~~', '~~~'],
    surfaces: { '~': { name: 'mud', speed: 0.5 } },
    start: { x: 48, y: 48 },
  });
  const values = { 'ramp.model': 'instant', 'bounds.policy': 'clamp', 'bounds.measure': 'centre' };
  const { body } = drive(values, 240, [{ at: 0, press }], mud);
  expect([0, 96]).toContain(press === 'left' || press === 'right' ? body.x : body.y);
  expect(body.contactSurface).toBe(0.5);
});
