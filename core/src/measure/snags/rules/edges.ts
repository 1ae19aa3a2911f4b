import { bodySize } from '../../../tuning/body.ts';
import type { Parameters } from '../../../tuning/catalogue/catalogue.ts';
import type { Snag } from '../snag.ts';
import { mendTo, neat, numberWords, type Rule, tickTravel } from './rule.ts';

/**
 * The fault of a push, if any. A sound one is at least two ticks' travel and at most half the body; where no push is both, the edge had better hold.
 */
function pushMend(p: Parameters): Pick<Snag, 'mend'> {
  const { width, height } = bodySize(p.body);
  const [least, most] = [2 * tickTravel(p), Math.min(width, height) / 2];
  if (least * 1.05 > most) return mendTo('Hold it at the edge instead', { 'bounds.policy': 'clamp' });
  return mendTo('Use a push that neither trembles nor pops', { 'bounds.push': neat(Math.min(most, least * 1.25)) });
}

/** Edges. */
export const edgesRules: readonly Rule[] = [
  [
    'clamp-centre',
    'fault',
    (p) => {
      const { bounds, body } = p;
      const { width, height } = bodySize(body);
      const { top, right, bottom, left } = bounds.inset;
      const out = Math.max(
        bounds.axes === 'y' ? 0 : Math.max(width / 2 - left, width / 2 - right),
        bounds.axes === 'x' ? 0 : Math.max(height / 2 - top, height / 2 - bottom),
      );
      if (bounds.measure !== 'centre' || (bounds.policy !== 'clamp' && bounds.policy !== 'push') || out <= 0) return null;
      return {
        path: 'bounds.measure',
        evidence: `${numberWords(out)} of the body hangs over the edge`,
        ...mendTo('Keep the whole body inside', { 'bounds.measure': 'body' }),
      };
    },
  ],
  [
    'push-trembles',
    'fault',
    (p) =>
      p.bounds.policy === 'push' && p.bounds.push < 2 * tickTravel(p)
        ? {
            path: 'bounds.push',
            evidence: `pushed by ${numberWords(p.bounds.push)}, one tick travels ${numberWords(tickTravel(p))}`,
            ...pushMend(p),
          }
        : null,
  ],
  [
    'push-pops',
    'risk',
    (p) => {
      const half = Math.min(...Object.values(bodySize(p.body))) / 2;
      if (p.bounds.policy !== 'push' || p.bounds.push <= half || p.bounds.push < 2 * tickTravel(p)) return null;
      return {
        path: 'bounds.push',
        evidence: `pushed by ${numberWords(p.bounds.push)}, half the body is ${numberWords(half)}`,
        ...pushMend(p),
      };
    },
  ],
];
