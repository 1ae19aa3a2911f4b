// A game of a few lines: a scripted player, driven by `go N` on stdin up to tick N.
import { createInterface } from 'node:readline';
import { motionFree, motionTick } from './motion.ts';
import { MotionLink } from './motionLink.ts';

const script: Record<number, object> = {
  10: { press: 'right' },
  30: { press: 'sprint' },
  55: { press: 'down' },
  80: { release: 'right' },
  95: { release: 'sprint' },
  110: { release: 'down' },
};
const [host, port, name] = process.argv.slice(2) as [string, string, string];
const game = new MotionLink({ game: name, hz: 60, address: `ws://${host}:${port}/api/v1/link` }, [100, 100, 0]);
game.link.open();
for await (const line of createInterface(process.stdin)) {
  const to = Number(/^go (\d+)/.exec(line)?.[1] ?? 0);
  while (game.tick < to) {
    const what = game.tick < 600 ? script[game.tick % 120] : undefined;
    if (what) game.report(what);
    game.begin();
    motionTick(game.body, game.hands, motionFree);
    game.end();
  }
  // The link works while the program waits.
  await new Promise((over) => setTimeout(over, 10));
  console.log(`at ${game.tick}`);
}
game.link.close();
