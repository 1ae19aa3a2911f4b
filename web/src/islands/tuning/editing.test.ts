import { merge, numberAt, type TuningFile } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { Editing } from './editing.ts';

const file: TuningFile = { format: 'zygopod/tuning', version: 2, name: 'Boots', unit: 'px' };
const walk = (editing: Editing) => numberAt(editing.$tuning.get().parameters, 'pace.walkSpeed');
const sprint = (editing: Editing) => numberAt(editing.$tuning.get().parameters, 'pace.sprintSpeed');

describe('editing', () => {
  it('shows what a mend would do as long as it is pointed at, and takes all of it as one step', () => {
    const editing = new Editing({ ...file, pace: { walkSpeed: 0 } }, file);
    const mend = { 'pace.walkSpeed': 90, 'pace.sprintSpeed': { of: 'pace.walkSpeed', times: 3 } };
    editing.preview(mend);
    expect([walk(editing), sprint(editing)]).toEqual([90, 270]);
    expect(numberAt(editing.$plainTuning.get().parameters, 'pace.walkSpeed')).toBe(0);
    expect(editing.$history.get().undo).toBeNull();
    editing.preview(null);
    expect(walk(editing)).toBe(0);
    expect(editing.setAll(mend, 'walk at 90')).toBeNull();
    expect([walk(editing), sprint(editing)]).toEqual([90, 270]);
    expect(editing.$history.get().undo).toBe('walk at 90');
    editing.undo();
    expect([walk(editing), sprint(editing)]).toEqual([0, 0]);
  });

  it('takes none of several values where one cannot be, and shows nothing of them', () => {
    const editing = new Editing(file, file);
    const bad = { 'pace.walkSpeed': 90, 'ramp.accelerate': -5 };
    editing.preview(bad);
    expect(walk(editing)).toBe(140);
    expect(editing.setAll(bad, 'bad')).toContain('ramp.accelerate');
    expect(editing.$now.get()).toBe(file);
    editing.flip();
    editing.setAll({ 'pace.walkSpeed': 77 }, 'walk');
    expect([editing.$flipped.get(), walk(editing)]).toEqual([false, 77]);
  });

  it('undoes and redoes; a drag is one step; a cancelled one is none', () => {
    const editing = new Editing(file, file);
    editing.set('pace.walkSpeed', 150, 'walk');
    editing.beginGesture('walk');
    for (const value of [160, 170, 180]) editing.set('pace.walkSpeed', value, 'walk');
    editing.endGesture();
    editing.beginGesture('walk');
    editing.set('pace.walkSpeed', 500, 'walk');
    editing.cancelGesture();
    expect(walk(editing)).toBe(180);
    editing.undo();
    expect(walk(editing)).toBe(150);
    editing.undo();
    editing.undo();
    expect(walk(editing)).toBe(140);
    editing.redo();
    editing.redo();
    expect(walk(editing)).toBe(180);
  });

  it('moves what is linked, and keeps the number of a link that is broken', () => {
    const editing = new Editing(file, file);
    editing.set('pace.walkSpeed', 200, 'walk');
    expect(sprint(editing)).toBe(350);
    editing.set('pace.sprintSpeed', sprint(editing), 'break');
    editing.set('pace.walkSpeed', 100, 'walk');
    expect(sprint(editing)).toBe(350);
  });

  it('refuses a loop of links and says so; nothing changes', () => {
    const editing = new Editing(file, file);
    expect(editing.set('pace.walkSpeed', { of: 'pace.sprintSpeed' }, 'walk')).toContain('a loop of links');
    expect(editing.$now.get()).toBe(file);
  });

  it('flips to the last revision and back, and tries a multiple without changing anything', () => {
    const editing = new Editing({ ...file, pace: { walkSpeed: 200 } }, file);
    editing.flip();
    expect(walk(editing)).toBe(140);
    editing.flip();
    editing.$trial.set({ path: 'pace.walkSpeed', factor: 4 });
    expect([walk(editing), sprint(editing)]).toEqual([800, 1400]);
    // A multiple that takes the linked sprint out of its range is not tried.
    editing.$trial.set({ path: 'pace.walkSpeed', factor: 1e9 });
    expect(walk(editing)).toBe(200);
    editing.$trial.set(null);
    expect(walk(editing)).toBe(200);
  });
});

describe('merge', () => {
  it('takes each change that only one side made, and names what both changed', () => {
    const base = { ...file, pace: { walkSpeed: 140 } };
    const mine = { ...file, pace: { walkSpeed: 150 }, ramp: { brake: 2000 } };
    const theirs = { ...file, pace: { walkSpeed: 160 }, ramp: { ease: 800 } };
    const merged = merge([base], mine, theirs);
    expect(merged.conflicts).toEqual(['pace.walkSpeed']);
    expect(merged.file).toMatchObject({ pace: { walkSpeed: 150 }, ramp: { brake: 2000, ease: 800 } });
    expect(merge([base], base, theirs)).toEqual({ file: theirs, conflicts: [] });
  });
});
