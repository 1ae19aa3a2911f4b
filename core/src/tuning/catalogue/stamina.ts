import { amount, choice, duration, flag, perSecond, ratio, row } from './specs.ts';

/** Rows for what a sprint costs. */

export const stamina = {
  enabled: row({ place: 1 }, flag('stamina', 'Stamina', false, 'Sprinting costs stamina.')),
  max: amount('stamina', 'Full', 100, 'Size of the bar.', 0.001),
  drain: row({ place: 2, entries: ['toEmpty'] }, perSecond('stamina', 'Drain', 20, 'Stamina lost a second of sprint.')),
  regain: row({ place: 3, entries: ['toFull'] }, perSecond('stamina', 'Regain', 15, 'Stamina gained a second of recovery.')),
  regainDelay: row({ place: 4 }, duration('stamina', 'Wait', 0.6, 'Time after the last drain before regain begins.')),
  regainWhile: row(
    { words: { notSprinting: 'not sprinting' } },
    choice('stamina', 'Regain while', ['standing', 'notSprinting', 'always'], 'notSprinting', 'When regain may run.'),
  ),
  regainMovingFactor: row(
    { when: [{ 'stamina.enabled': [true], 'stamina.regainWhile': ['notSprinting', 'always'] }] },
    ratio('stamina', 'Regain moving', 0.5, 'Share of the regain while walking.', 0, 10),
  ),
  startAt: row({ place: 5 }, amount('stamina', 'Start at', 10, 'Stamina that a sprint needs to begin.')),
  recoverTo: row({ place: 6 }, amount('stamina', 'Recover to', 25, 'Stamina at which an emptied bar allows sprinting again.')),
  afterEmpty: choice(
    'stamina',
    'After empty',
    ['cancel', 'resume'],
    'cancel',
    'What a sprint that is still held or toggled does once recovered.',
  ),
  emptyEndsSprint: flag('stamina', 'Empty ends sprint', true, 'Off: sprint goes on with nothing left.'),
  spentFactor: ratio('stamina', 'Spent pace', 1, 'Walk speed factor while spent.', 0, 10),
  interval: duration('stamina', 'Lump', 0, '0: continuous. Else drain and regain come in lumps this far apart.', 0, 10),
  drainWhile: choice(
    'stamina',
    'Drain while',
    ['moving', 'held'],
    'moving',
    'Moving: only when the body really moves. Held: as long as sprint is on.',
  ),
};
