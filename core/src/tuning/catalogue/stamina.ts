import { amount, choice, duration, flag, perSecond, ratio, row } from './specs.ts';

/** Rows for the cost of a sprint. */

export const stamina = {
  enabled: row({ place: 1 }, flag('stamina', 'Stamina', false, 'Sprinting costs stamina.')),
  max: amount('stamina', 'Maximum', 100, 'Size of the bar.', 0.001),
  drain: row({ place: 2, entries: ['toEmpty'] }, perSecond('stamina', 'Drain', 20, 'Stamina lost per second of sprint.')),
  regain: row({ place: 3, entries: ['toFull'] }, perSecond('stamina', 'Regain', 15, 'Stamina gained per second of recovery.')),
  regainDelay: row({ place: 4 }, duration('stamina', 'Regain delay', 0.6, 'Time from the last drain until regain begins.')),
  regainWhile: row(
    { words: { notSprinting: 'not sprinting' } },
    choice('stamina', 'Regain while', ['standing', 'notSprinting', 'always'], 'notSprinting', 'When regain may run.'),
  ),
  regainMovingFactor: row(
    { when: [{ 'stamina.enabled': [true], 'stamina.regainWhile': ['notSprinting', 'always'] }] },
    ratio('stamina', 'Regain moving', 0.5, 'Fraction of the regain rate while walking.', 0, 10),
  ),
  startAt: row({ place: 5 }, amount('stamina', 'Start at', 10, 'Stamina needed to start a sprint.')),
  recoverTo: row({ place: 6 }, amount('stamina', 'Recover to', 25, 'Stamina at which sprinting is allowed again after the bar was empty.')),
  afterEmpty: choice(
    'stamina',
    'After empty',
    ['cancel', 'resume'],
    'cancel',
    'What happens, once recovered, to a sprint that is still held or toggled.',
  ),
  emptyEndsSprint: flag('stamina', 'Empty ends sprint', true, 'Off: sprint continues at zero stamina.'),
  spentFactor: ratio('stamina', 'Speed when spent', 1, 'Walk speed factor while spent.', 0, 10),
  interval: duration('stamina', 'Tick interval', 0, '0: continuous. Otherwise drain and regain are applied this far apart.', 0, 10),
  drainWhile: choice(
    'stamina',
    'Drain while',
    ['moving', 'held'],
    'moving',
    'Moving: only when the body really moves. Held: as long as sprint is on.',
  ),
};
