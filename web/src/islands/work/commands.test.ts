import { describe, expect, it } from 'vitest';
import { keyName, keyWord } from '../drive/bindings.ts';
import { keyOf } from './commands.ts';

const press = (key: string, code: string, more: { ctrlKey?: boolean; shiftKey?: boolean } = {}) =>
  keyOf({ key, code, ctrlKey: false, metaKey: false, shiftKey: false, ...more });

describe('the key of a command', () => {
  it.each([
    ['on a QWERTY keyboard', 'z', 'KeyZ'],
    ['on a QWERTZ keyboard', 'z', 'KeyY'],
    ['on an AZERTY keyboard', 'z', 'KeyW'],
    ['on a Dvorak keyboard', 'z', 'Slash'],
    ['on a Cyrillic keyboard, by its place', 'я', 'KeyZ'],
    ['with the capitals locked', 'Z', 'KeyZ'],
  ])('undoes %s', (_, key, code) => {
    expect(press(key, code, { ctrlKey: true })).toBe('Ctrl+Z');
  });

  it('is a figure by its place, whatever stands on it', () => {
    expect(press('à', 'Digit0')).toBe('0');
    expect(press(')', 'Digit0', { shiftKey: true })).toBe('Shift+0');
    expect(press('?', 'Minus', { shiftKey: true })).toBe('?');
  });
});

it('the two of a pair of keys are distinguished where that matters', () => {
  expect([keyName('ShiftLeft'), keyName('ShiftRight'), keyWord('ShiftLeft'), keyName('ArrowLeft'), keyName('KeyW')]).toEqual([
    'Left Shift',
    'Right Shift',
    'Shift',
    '←',
    'W',
  ]);
});
