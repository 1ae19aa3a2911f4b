import { mendTo, numberWords, type Rule, tickTravel } from './rule.ts';

/** Walls. */
export const wallsRules: readonly Rule[] = [
  [
    'wall-not-solid',
    'fault',
    ({ contact }) =>
      contact.response === 'none'
        ? {
            path: 'contact.response',
            evidence: 'no wall stops the body',
            ...mendTo('Slide along walls', { 'contact.response': 'slide' }),
          }
        : null,
  ],
  [
    'wall-not-solid',
    'fault',
    (p) =>
      p.contact.response !== 'none' && !p.contact.swept && p.scheme !== 'step' && tickTravel(p) > 0
        ? {
            path: 'contact.swept',
            evidence: `one tick travels ${numberWords(tickTravel(p))}: it passes thinner walls`,
            ...mendTo('Check the whole movement of a tick', { 'contact.swept': true }),
          }
        : null,
  ],
  [
    'seams-felt',
    'fault',
    ({ contact }) =>
      contact.seams
        ? {
            path: 'contact.seams',
            evidence: 'the joints between solid cells stand out',
            ...mendTo('Merge solid cells', { 'contact.seams': false }),
          }
        : null,
  ],
];
