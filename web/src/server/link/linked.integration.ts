import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { gaits, newGround, parseTuning, Replay, resolveTuning, type Tape, type Tuning, tapeOf, World, withValue } from '@zygopod/core';
import { describe, expect, inject, it } from 'vitest';
import { freePort, startServer, stopServer } from '../../../../cli/src/up/server.ts';
import { linkClients, typeScriptExample } from '../../../../code/src/link/clients.ts';
import { seeds } from '../../../../core/src/testing/campaign.ts';
import { GameProgram, succeeds } from '../../testing/gameProgram.ts';

const root = join(import.meta.dirname, '../../../..');
const tuningPath = join(root, 'demo/carrier-day-boots.tuning.json');
const extensions = { ts: 'ts', c: 'h', csharp: 'cs', python: 'py', lua: 'lua', rust: 'rs' } as const;
const live = ['pace.walkSpeed', 'ramp.accelerate', 'stamina.drain'];

const all = [
  typeScriptExample,
  ...linkClients.filter(({ probe }) => succeeds(probe)).map(({ language, example }) => ({ language, ...example })),
];
/** Others in each run. */
const tried = seeds(2, all.length).flatMap((seed) => all[seed - 1] ?? []);

const boots = parseTuning(readFileSync(tuningPath, 'utf8'));
if (!boots.ok) throw new Error('no demo');
const at = (values: Readonly<Record<string, number>>): Tuning['parameters'] => {
  const read = resolveTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), boots.value.file));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return { ...read.value.parameters, bounds: { ...read.value.parameters.bounds, policy: 'none' } };
};

/** The model on the hands and the numbers that a game has reported, from the start. */
function modelled(ticks: number, hands: Tape['events'], sets: readonly { tick: number; values: Record<string, number> }[]): number[][] {
  const open = { ...newGround('Open'), size: { width: 1e6, height: 1e6 }, start: { x: 100, y: 100, facing: 0 } };
  const values: Record<string, number> = {};
  const world = new World(at({}), open, ticks);
  const replay = new Replay(tapeOf({ name: 'Reported', hz: 60, ticks, events: hands }), 60);
  return Array.from({ length: ticks }, (_, tick) => {
    const now = sets.filter((one, i) => i > 0 && one.tick === tick);
    for (const one of now) Object.assign(values, one.values);
    if (now.length > 0) world.setParameters(at(values));
    world.tick(replay.next());
    const row = world.trace.end - 1;
    return [tick, ...(['x', 'y', 'vx', 'vy', 'facing', 'gait', 'stamina'] as const).map((column) => world.trace.at(column, row) + 0)];
  });
}

describe.each(tried)('exported code with its link in $language', ({ language, file, build, run }) => {
  it('reports every tick as the model has it, at each of the values that are sent, and replays hands', async () => {
    expect(readFileSync(file, 'utf8').split('\n').length).toBeLessThanOrEqual(41);
    const folder = mkdtempSync(join(tmpdir(), 'zygopod-linked-'));
    const motion = join(folder, `motion.${extensions[language]}`);
    execFileSync(join(root, 'zygopod'), ['export', tuningPath, '--code', '--link', '--live', live.join(), '--to', language, '-o', motion], {
      stdio: 'pipe',
    });
    copyFileSync(file, join(folder, basename(file)));
    for (const [command, ...args] of build) execFileSync(command as string, args, { cwd: folder, stdio: 'pipe' });
    const port = await freePort();
    const server = await startServer({ host: '127.0.0.1', port, databaseUrl: inject('databaseUrl'), env: { LOG_LEVEL: 'error' } });
    const api = async (path: string, body?: object) => {
      const answer = await fetch(`http://127.0.0.1:${port}/api/v1${path}`, {
        ...(body ? { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
      });
      if (!answer.ok) throw new Error(await answer.text());
      return answer.json();
    };
    const name = `Linked ${language} ${Math.random()}`;
    const game = new GameProgram(run, folder, ['127.0.0.1', String(port), name]);
    try {
      const found = async () => (await api('/links')).items.find((one: { game: string }) => one.game === name);
      for (let one = await found(); !one?.isLinked; one = await found()) {
        await game.ask('wait');
        await pause(20);
      }
      const { id, parameters, can } = await found();
      expect(parameters.map(({ path, value }: { path: string; value: number }) => [path, value])).toEqual([
        ['pace.walkSpeed', 140],
        ['ramp.accelerate', 900],
        ['stamina.drain', 20],
      ]);
      expect([...can].sort()).toEqual(['place', 'restart', 'set', 'tape']);
      /** Sends a request, and waits until the game has answered it. */
      const request = async (body: object, isDone: (one: { sets: object[] }) => boolean) => {
        await api(`/links/${id}/requests`, body);
        while (!isDone(await found())) await game.ask('wait');
      };
      await game.ask('go 200');
      await request({ type: 'set', values: { 'pace.walkSpeed': 171.3, 'stamina.drain': 44.7 } }, ({ sets }) => sets.length === 2);
      await game.ask('go 430');
      await request({ type: 'set', values: { 'ramp.accelerate': 412.25 } }, ({ sets }) => sets.length === 3);
      await game.ask('go 620');
      const replayed = [
        { at: 3, stick: [0.5, -0.8125] },
        { at: 30, press: 'left' },
        { at: 44, release: 'left' },
        { at: 60, stick: [0, 0] },
      ];
      await api(`/links/${id}/requests`, { type: 'tape', hands: replayed, ticks: 80 });
      await pause(100);
      for (let i = 0; i < 5; i++) await game.ask('wait');
      await game.ask('go 720');
      for (let one = await found(); one.next < 720; one = await found()) await game.ask('wait');
      const { rows, hands } = await api(`/links/${id}/rows`);
      const { sets } = await found();
      expect(sets.map((one: { tick: number }) => one.tick)).toEqual([0, 200, 430]);
      expect(hands.filter((event: { at: number }) => event.at >= 620)).toEqual(replayed.map((event) => ({ ...event, at: event.at + 620 })));
      const model = modelled(720, hands, sets);
      const first = rows.findIndex((row: number[], i: number) => row.some((value, k) => !Object.is(value + 0, model[i]?.[k])));
      expect(first, `${rows[first]} is not ${model[first]}`).toBe(-1);
      expect(rows.length).toBe(720);
      expect(new Set(rows.map((row: number[]) => gaits[row[6] as number]))).toEqual(new Set(gaits));
    } finally {
      game.kill();
      await stopServer(server.process);
      rmSync(folder, { recursive: true });
    }
  }, 120_000);
});
