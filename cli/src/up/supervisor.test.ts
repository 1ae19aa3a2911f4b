import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Failure } from '../misuse.ts';
import { Killed, MENDED_IN, type RunningServer, Supervisor } from './supervisor.ts';

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] });
});
afterEach(() => {
  vi.useRealTimers();
});

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** A machine of its own: a database, servers that need it, and what goes wrong on it. */
class Machine {
  isDatabaseUp = true;
  servers: { isUp: boolean; kill(): void }[] = [];
  lines: string[] = [];
  /** Starts of the database and the server that fail from now on. */
  failing = { database: 0, server: 0 };
  delay = 50;
  /** Milliseconds that the database takes to start, besides. */
  recovery = 0;
  isFull = false;
  isFrozen = false;

  readonly database = {
    hasRoom: () => !this.isFull,
    isRunning: async () => this.isDatabaseUp,
    ensure: async () => {
      if (this.isDatabaseUp) return;
      await pause(this.delay + this.recovery);
      if (this.isFull || this.failing.database-- > 0) throw new Error('no memory for it\nand more');
      this.isDatabaseUp = true;
    },
  };

  readonly startServer = async (): Promise<RunningServer> => {
    expect(this.up).toBe(0);
    let die!: () => void;
    const died = new Promise<void>((resolve) => {
      die = resolve;
    });
    const server = {
      isUp: true,
      kill: () => {
        server.isUp = false;
        die();
      },
    };
    this.servers.push(server);
    await pause(this.delay);
    for (let waited = 0; !this.isDatabaseUp && server.isUp && waited < 8000; waited += 50) await pause(50);
    if (!server.isUp) throw new Killed('SIGKILL');
    if (!this.isDatabaseUp || this.failing.server-- > 0) {
      server.kill();
      throw new Error('not healthy');
    }
    const answers = async () => !this.isFrozen;
    return { address: '', pid: this.servers.length, died, answers, kill: server.kill, stop: async () => server.kill() };
  };

  get up(): number {
    return this.servers.filter(({ isUp }) => isUp).length;
  }

  async supervise(): Promise<{ supervisor: Supervisor; over: Promise<unknown> }> {
    const started = this.startServer();
    await vi.advanceTimersByTimeAsync(this.delay);
    const supervisor = new Supervisor(
      { database: this.database, startServer: this.startServer, say: (line) => this.lines.push(line) },
      await started,
    );
    return { supervisor, over: supervisor.run().catch((error: unknown) => error) };
  }
}

describe('the supervisor', () => {
  it('starts again what dies, in any order and also while the other is being started, within ten seconds, or says that it could not; at the end nothing runs', async () => {
    let ended = 0;
    const deaths = fc.array(fc.record({ after: fc.nat(3000), which: fc.constantFrom('server', 'database', 'both') }), { maxLength: 12 });
    await fc.assert(
      fc.asyncProperty(deaths, fc.nat(3), fc.nat(3), fc.integer({ min: 1, max: 900 }), async (list, database, server, delay) => {
        const machine = new Machine();
        machine.delay = delay;
        const { supervisor, over } = await machine.supervise();
        machine.failing = { database, server };
        for (const { after, which } of list) {
          await vi.advanceTimersByTimeAsync(after);
          if (which !== 'database') machine.servers.at(-1)?.kill();
          if (which !== 'server') machine.isDatabaseUp = false;
        }
        await vi.advanceTimersByTimeAsync(MENDED_IN + 1000);
        if (supervisor.state === 'ended') {
          // Only what is killed again and again while it is being started is given up.
          ended++;
          expect(list.length).toBeGreaterThan(2);
          expect(await over).toBeInstanceOf(Failure);
          expect(machine.up).toBe(0);
          return;
        }
        expect([machine.isDatabaseUp, machine.up, supervisor.state]).toEqual([true, 1, 'running']);
        supervisor.stop();
        await vi.advanceTimersByTimeAsync(10);
        expect(await over).toBeUndefined();
        expect([machine.up, supervisor.state]).toEqual([0, 'ended']);
      }),
      { numRuns: 300 },
    );
    expect(ended).toBeLessThan(30);
  });

  it.each(['server', 'database'] as const)('ends with one line, and nothing left, when the %s does not come back', async (which) => {
    const machine = new Machine();
    const { over } = await machine.supervise();
    machine.failing[which] = Infinity;
    if (which === 'server') machine.servers.at(-1)?.kill();
    else machine.isDatabaseUp = false;
    await vi.advanceTimersByTimeAsync(MENDED_IN + 2000);
    const error = await over;
    expect(error).toBeInstanceOf(Failure);
    expect((error as Error).message).toMatch(/^The (server|database) has died and could not be started again: [^\n]+$/);
    expect(machine.up).toBe(0);
  });

  it('goes on with a server that is killed while it starts, but not for ever', async () => {
    for (const seconds of [30, 90]) {
      const machine = new Machine();
      machine.delay = 2000;
      const { supervisor, over } = await machine.supervise();
      for (let second = 0; second < seconds; second++) {
        machine.servers.at(-1)?.kill();
        await vi.advanceTimersByTimeAsync(1000);
      }
      await vi.advanceTimersByTimeAsync(MENDED_IN + 1000);
      expect(supervisor.state).toBe(seconds < 60 ? 'running' : 'ended');
      supervisor.stop();
      await vi.advanceTimersByTimeAsync(10);
      expect(await over)[seconds < 60 ? 'toBeUndefined' : 'toBeDefined']();
    }
  });

  it('starts a database that is killed while the server is being started, at once', async () => {
    const machine = new Machine();
    machine.delay = 1500;
    const { supervisor, over } = await machine.supervise();
    machine.servers.at(-1)?.kill();
    await vi.advanceTimersByTimeAsync(500);
    machine.isDatabaseUp = false;
    await vi.advanceTimersByTimeAsync(4000);
    expect([machine.isDatabaseUp, machine.up, supervisor.state]).toEqual([true, 1, 'running']);
    supervisor.stop();
    await vi.advanceTimersByTimeAsync(10);
    await over;
  });

  it('waits for a database that recovers slowly, and for the server after it', async () => {
    for (const seconds of [5, 15, 45, 90]) {
      const machine = new Machine();
      const { supervisor, over } = await machine.supervise();
      machine.recovery = seconds * 1000;
      machine.isDatabaseUp = false;
      machine.servers.at(-1)?.kill();
      await vi.advanceTimersByTimeAsync(seconds * 1000 + MENDED_IN);
      const isWaitedFor = seconds < 60;
      expect([machine.isDatabaseUp, machine.up, supervisor.state]).toEqual(isWaitedFor ? [true, 1, 'running'] : [true, 0, 'ended']);
      supervisor.stop();
      await vi.advanceTimersByTimeAsync(10);
      expect((await over) instanceof Failure).toBe(!isWaitedFor);
    }
  });

  it('gives a database that dies during a slow start of the server ten seconds of its own', async () => {
    const machine = new Machine();
    const { supervisor, over } = await machine.supervise();
    machine.delay = 14_000;
    machine.servers.at(-1)?.kill();
    await vi.advanceTimersByTimeAsync(13_000);
    machine.delay = 50;
    machine.failing.database = 20;
    machine.isDatabaseUp = false;
    await vi.advanceTimersByTimeAsync(MENDED_IN);
    expect([machine.isDatabaseUp, machine.up, supervisor.state]).toEqual([true, 1, 'running']);
    supervisor.stop();
    await vi.advanceTimersByTimeAsync(10);
    expect(await over).toBeUndefined();
  });

  it('waits for room on a full disk, for as long as it takes', async () => {
    const machine = new Machine();
    const { supervisor, over } = await machine.supervise();
    machine.isFull = true;
    machine.isDatabaseUp = false;
    await vi.advanceTimersByTimeAsync(10 * MENDED_IN);
    expect(supervisor.state).toBe('mending');
    expect(machine.lines.filter((line) => /disk is full/.test(line))).toHaveLength(1);
    machine.isFull = false;
    await vi.advanceTimersByTimeAsync(MENDED_IN);
    expect([machine.isDatabaseUp, machine.up, supervisor.state]).toEqual([true, 1, 'running']);
    supervisor.stop();
    await vi.advanceTimersByTimeAsync(10);
    await over;
  });

  it('ends a server that does not answer, and starts another', async () => {
    const machine = new Machine();
    const { supervisor, over } = await machine.supervise();
    machine.isFrozen = true;
    await vi.advanceTimersByTimeAsync(4000);
    // Two questions without an answer are no reason yet.
    machine.isFrozen = false;
    await vi.advanceTimersByTimeAsync(20_000);
    expect(machine.servers).toHaveLength(1);
    machine.isFrozen = true;
    await vi.advanceTimersByTimeAsync(7000);
    machine.isFrozen = false;
    await vi.advanceTimersByTimeAsync(MENDED_IN);
    expect([machine.servers.length, machine.up, supervisor.state]).toEqual([2, 1, 'running']);
    supervisor.stop();
    await vi.advanceTimersByTimeAsync(10);
    await over;
  });

  it.each([0, 40_000])('can be stopped while it mends, also during a start that takes %d ms', async (recovery) => {
    const machine = new Machine();
    const { supervisor, over } = await machine.supervise();
    machine.failing.database = Infinity;
    machine.recovery = recovery;
    machine.isDatabaseUp = false;
    await vi.advanceTimersByTimeAsync(3000);
    expect(supervisor.state).toBe('mending');
    supervisor.stop();
    await vi.advanceTimersByTimeAsync(500);
    expect(await over).toBeUndefined();
    expect(machine.up).toBe(0);
  });

  it('leaves a database of the user’s alone', async () => {
    const machine = new Machine();
    const started = machine.startServer();
    await vi.advanceTimersByTimeAsync(machine.delay);
    const supervisor = new Supervisor({ database: null, startServer: machine.startServer, say: () => undefined }, await started);
    const over = supervisor.run();
    machine.servers.at(-1)?.kill();
    await vi.advanceTimersByTimeAsync(2000);
    expect([machine.up, machine.servers.length]).toEqual([1, 2]);
    supervisor.stop();
    await vi.advanceTimersByTimeAsync(10);
    await over;
  });
});
