import { faults } from './carrier.ts';
import { draw } from './draw.ts';
import { type Key, LetterRun } from './letterRun.ts';
import type { PageOptions } from './serve.ts';
import { townOf } from './town.ts';

declare global {
  interface Window {
    run: PageOptions & { town: Parameters<typeof townOf>[0] };
  }
}

/** Keys by their places on the keyboard. */
const bindings: Readonly<Record<string, Key>> = {
  ArrowUp: 'up',
  KeyW: 'up',
  ArrowDown: 'down',
  KeyS: 'down',
  ArrowLeft: 'left',
  KeyA: 'left',
  ArrowRight: 'right',
  KeyD: 'right',
  ShiftLeft: 'sprint',
  ShiftRight: 'sprint',
};
/** Ticks that a slow frame may bring at most. */
const MOST = 6;

const { address, token, faults: on, town } = window.run;
const game = new LetterRun(townOf(town), { address, faults: on, ...(token === undefined ? {} : { token }) });
game.link.open();

const canvas = document.querySelector('canvas') as HTMLCanvasElement;
const context = canvas.getContext('2d') as CanvasRenderingContext2D;
const letters = document.querySelector('#letters') as HTMLElement;
const state = document.querySelector('#link') as HTMLElement;

addEventListener('keydown', (event) => {
  const key = bindings[event.code];
  if (event.code === 'KeyR' && !event.repeat) game.restart();
  if (!key || event.ctrlKey || event.metaKey) return;
  event.preventDefault();
  if (!event.repeat) game.press(key);
});
addEventListener('keyup', ({ code }) => {
  const key = bindings[code];
  if (key) game.release(key);
});
addEventListener('blur', () => {
  for (const key of new Set(Object.values(bindings))) game.release(key);
});

const list = document.querySelector('#faults') as HTMLElement;
for (const fault of faults) {
  const label = document.createElement('label');
  const box = document.createElement('input');
  box.type = 'checkbox';
  box.checked = game.carrier.faults.has(fault);
  box.addEventListener('change', () => (box.checked ? game.carrier.faults.add(fault) : game.carrier.faults.delete(fault)));
  label.append(box, ` ${fault}`);
  list.append(label);
}

let isPerFrame = false;
for (const radio of document.querySelectorAll<HTMLInputElement>('input[name=steps]'))
  radio.addEventListener('change', () => {
    isPerFrame = radio.value === 'frame' && radio.checked;
  });

/** Draws, and writes what has changed beside it. */
function show(): void {
  draw(context, game);
  canvas.dataset['tick'] = String(game.tick);
  const words = game.left.size === 0 ? 'All ten letters are delivered.' : `${10 - game.left.size} of 10 letters delivered`;
  if (letters.textContent !== words) letters.textContent = words;
  const linked = game.link.isLinked ? 'linked to Zygopod' : 'not linked';
  if (state.textContent !== linked) state.textContent = linked;
}

let last = performance.now();
let owed = 0;
/** Ticks that are due; they go on in a hidden window, where no frame is drawn. */
function advance(): void {
  const now = performance.now();
  const elapsed = Math.min(0.25, (now - last) / 1000);
  last = now;
  if (isPerFrame) {
    if (!document.hidden) game.advance(elapsed);
    return;
  }
  owed = Math.min(owed + elapsed * game.hz, MOST);
  for (; owed >= 1; owed--) game.advance();
}

function frame(): void {
  advance();
  show();
  requestAnimationFrame(frame);
}
requestAnimationFrame(frame);
setInterval(() => document.hidden && advance(), 1000 / 60);
