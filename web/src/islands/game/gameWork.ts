import { GameDrive, type Ground, type LinkRequest, lengthIn, newGround, valueAt } from '@zygopod/core';
import { atom } from 'nanostores';
import { chosenNames } from '../source/kept.ts';
import type { NamedParameters } from '../source/pasting.ts';
import type { TuningWork } from '../tuning/context.ts';
import { askServer } from '../work/server.ts';
import { currentOf } from '../work/work.ts';
import { Canon, tuningsInForce } from './inForce.ts';
import { Late } from './late.ts';
import { followGame, type GameRows, type GameValue, type LinkedGame, listGames, requestOf } from './link.ts';
import { type Exchange, exchangeWith, isSame, type Matched, matchGame, type Unmatched } from './matching.ts';
import { type Measured, measureDrive, unmeasured } from './measured.ts';
import { Sending } from './sending.ts';
import { ShownDrive } from './shownDrive.ts';

/** Milliseconds between two looks at the list of games, and between two measurements of a drive that goes on. */
const LIST_EVERY = 1000;
const MEASURE_EVERY = 500;
/** Seconds of a drive that are read when a game is opened. */
const SHOWN = 600;
/** Milliseconds of a frame that driving the model may take, and ticks at a time. */
const SLICE = 5;
const PIECE = 300;
/** px in a metre, where a game and its ground have different units. */
const METRE = 32;

/** The Game screen: the games that are linked, and the one that is open, with the model beside it. */
export class GameWork {
  readonly work: TuningWork;
  readonly $games = atom<readonly LinkedGame[] | null>(null);
  /** The open game as it is now. */
  readonly $game = atom<LinkedGame | null>(null);
  readonly $matched = atom<{ matched: readonly Matched[]; others: readonly Unmatched[] }>({ matched: [], others: [] });
  readonly sending = new Sending();
  readonly $sends = atom(true);
  /** True if the game's walls are not those of the ground. */
  readonly $isOpen = atom(false);
  readonly $measured = atom<Measured>(unmeasured);
  readonly $trouble = atom<string | null>(null);
  readonly shown = new ShownDrive();
  late = new Late(60);
  #exchange: Exchange;
  #names: NamedParameters = {};
  #unfollow: (() => void) | null = null;
  readonly #canon = new Canon();
  /** Values of the tuning when it was looked at last, by their parameters. */
  #last = new Map<string, GameValue>();
  #measuredAt = 0;
  #isMeasured = true;
  #isDirty = false;
  /** True once the open game was linked while it was open. */
  #wasLinked = false;

  constructor(work: TuningWork) {
    this.work = work;
    this.#exchange = exchangeWith({ unit: 'px' }, this.ground, METRE);
  }

  /** Begins to list games and to follow the tuning; returns the function that ends it. */
  start(): () => void {
    const wanted = new URLSearchParams(window.location.search).get('game');
    void chosenNames(this.work.opening.project.id).then((names) => {
      this.#names = names;
      this.#match();
    });
    const list = async () => {
      const games = await listGames();
      if ('why' in games) return;
      this.$games.set(games);
      const open = this.$game.get();
      if (open) {
        // A game that was started again is another one by its link; who watched it goes on with that.
        const again = open.isLinked || !this.#wasLinked ? undefined : games.find((one) => one.isLinked && one.game === open.game);
        if (again) this.open(again);
        return;
      }
      const first = games.find(({ id }) => id === wanted) ?? games.find(({ isLinked }) => isLinked) ?? games[0];
      if (first) this.open(first);
    };
    void list();
    const timer = setInterval(() => document.hidden || void list(), LIST_EVERY);
    const isStill = () => this.isStill;
    this.work.rests.add(isStill);
    const unlisten = this.work.editing.$plainTuning.listen(() => this.#follow());
    return () => {
      clearInterval(timer);
      unlisten();
      this.work.rests.delete(isStill);
      this.#unfollow?.();
    };
  }

  /** The ground that the model is driven on: the page's, with its walls or without. */
  get ground(): Ground {
    const ground = currentOf(this.work.opening.ground);
    return this.$isOpen.get() ? { ...newGround(ground.name, ground.unit), size: ground.size, cell: ground.cell } : ground;
  }

  /** Opens a game: its drive, the model beside it, and the requests to it. */
  open(game: LinkedGame): void {
    this.#unfollow?.();
    const url = new URL(window.location.href);
    url.searchParams.set('game', game.id);
    window.history.replaceState(null, '', url);
    this.sending.to(game);
    this.#wasLinked = game.isLinked;
    this.$game.set(game);
    this.#begin(game);
  }

  /** Lays the open game's drive out anew, from its rows. */
  #begin(game: LinkedGame): void {
    this.#unfollow?.();
    const { ground } = this;
    this.#exchange = exchangeWith(game, ground, METRE);
    this.#match();
    this.$measured.set(unmeasured);
    this.late = new Late(game.hz);
    this.shown.show(
      new GameDrive(game, {
        ground,
        tunings: this.#tunings(),
        scale: { length: lengthIn(ground, game.unit, METRE), height: ground.size.height },
      }),
    );
    this.#unfollow = followGame(game.id, Math.max(0, game.next - SHOWN * game.hz), {
      rows: (rows) => this.#take(rows),
      state: (now) => {
        this.$game.set(now);
        this.#wasLinked ||= now.isLinked;
        this.#match();
        this.#retune();
      },
      done: ({ id, tick, values }) => this.#answered(id, tick, values),
      refused: ({ id, name, why }) => {
        if (!this.sending.refused(id, name, why)) this.$trouble.set(`The game refused: ${why}`);
      },
    });
  }

  /** Takes the walls of the ground away, or puts them back. */
  openGround(isOpen: boolean): void {
    this.$isOpen.set(isOpen);
    const game = this.$game.get();
    if (game) this.#begin(game);
  }

  #take({ rows, hands, arrived }: GameRows): void {
    this.shown.drive?.add(rows, hands);
    if (arrived !== null) this.late.take(rows, arrived, Date.now());
    this.#isMeasured = false;
  }

  /** Compares from here on. */
  layAgain(): void {
    this.shown.drive?.layAgain();
    this.shown.$held.set(null);
    this.#isMeasured = false;
  }

  #match(): void {
    const game = this.$game.get();
    if (!game) return;
    this.$matched.set(matchGame(game.parameters, this.#names));
    this.#remember();
  }

  /** Matches a number by hand (null: with none), for all of the project. */
  async choose(name: string, path: string | null): Promise<void> {
    this.#names = { ...this.#names, [name]: path };
    this.#match();
    this.#retune();
    const answer = await askServer('POST', `/api/v1/projects/${this.work.opening.project.id}/source-names`, {
      body: { names: { [name]: path } },
    });
    if ('why' in answer) this.$trouble.set(`The name is not kept: ${answer.why}`);
  }

  /** A value of the tuning. */
  ours(path: string): GameValue {
    return valueAt(this.work.editing.$plainTuning.get().parameters, path) as GameValue;
  }

  /** A value of the game in the tuning's units. */
  theirs({ path, value }: Matched): GameValue {
    return this.#exchange.fromGame(path, value);
  }

  isSame(one: Matched): boolean {
    return isSame(this.theirs(one), this.ours(one.path));
  }

  #tunings() {
    const game = this.$game.get();
    const { pending } = this.sending;
    const { matched } = this.$matched.get();
    return tuningsInForce(
      this.work.editing.$now.get(),
      game ?? { sets: [] },
      matched,
      this.#exchange,
      (path) => this.ours(path),
      (name) => pending.has(name),
      this.#canon,
    );
  }

  #retune(): void {
    this.#isDirty = true;
  }

  /** The tuning was changed: what is matched and may be sent goes to the game. */
  #follow(): void {
    const { matched } = this.$matched.get();
    const changed = matched.filter(({ path }) => this.#last.get(path) !== this.ours(path));
    this.#remember();
    if (this.$sends.get() && this.canSend) this.#send(changed);
    this.#retune();
  }

  #remember(): void {
    this.#last = new Map(this.$matched.get().matched.map(({ path }) => [path, this.ours(path)]));
  }

  get canSend(): boolean {
    const game = this.$game.get();
    return game?.isLinked === true && game.can.includes('set');
  }

  #send(some: readonly Matched[]): void {
    this.sending.send(Object.fromEntries(some.map(({ name, path }) => [name, this.#exchange.toGame(path, this.ours(path))])));
  }

  /** Sends all numbers that differ. */
  sendAll(): void {
    this.#send(this.$matched.get().matched.filter((one) => !this.isSame(one)));
  }

  #answered(id: number, tick: number, values: Record<string, GameValue> | undefined): void {
    this.sending.answered(id);
    const game = this.$game.get();
    if (!game || !values) return;
    const parameters = game.parameters.map((one) => ({ ...one, value: values[one.name] ?? one.value }));
    this.$game.set({ ...game, parameters, sets: [...game.sets, { tick, values }] });
    this.#match();
    this.#retune();
  }

  /** Takes the game's numbers over into the tuning, as one step. */
  takeTheirs(): void {
    const { matched } = this.$matched.get();
    const values = Object.fromEntries(matched.filter((one) => !this.isSame(one)).map((one) => [one.path, this.theirs(one)]));
    if (Object.keys(values).length > 0) this.$trouble.set(this.work.editing.setAll(values, 'the game’s numbers'));
  }

  /** Sets a number that was found in the game's motion in the tuning. */
  mend(path: string, value: number): void {
    this.$trouble.set(this.work.editing.set(path, value, 'what the game does'));
  }

  /** A place of the ground in the game's unit and axes. */
  placeInGame({ x, y }: { x: number; y: number }): { x: number; y: number } {
    const game = this.$game.get();
    const length = lengthIn(this.ground, game?.unit ?? 'px', METRE);
    return { x: x / length, y: (game?.yUp ? this.ground.size.height - y : y) / length };
  }

  /** Takes a game that was deleted off the list. */
  forget(id: string): void {
    this.$games.set((this.$games.get() ?? []).filter((one) => one.id !== id));
    if (this.$game.get()?.id !== id) return;
    this.#unfollow?.();
    this.$game.set(null);
    this.shown.show(null);
    const [next] = this.$games.get() ?? [];
    if (next) this.open(next);
  }

  /** Sends a request other than a set. */
  async request(body: LinkRequest): Promise<boolean> {
    const game = this.$game.get();
    if (!game) return false;
    const sent = await requestOf(game.id, body);
    this.$trouble.set('why' in sent ? `${sent.why[0]?.toUpperCase()}${sent.why.slice(1)}` : null);
    return 'id' in sent;
  }

  /** True while frames would show nothing new. */
  get isStill(): boolean {
    return !this.#isDirty && (this.shown.drive?.isWhole ?? true) && this.#isMeasured;
  }

  /** A frame: the model is driven on, and measured now and then. */
  advance(now: number): void {
    const { drive } = this.shown;
    if (!drive) return;
    if (this.#isDirty) {
      this.#isDirty = false;
      drive.retune(this.#tunings());
      this.#isMeasured = false;
    }
    const end = performance.now() + SLICE;
    while (!drive.run(PIECE) && performance.now() < end);
    if (!drive.isWhole || this.#isMeasured || now - this.#measuredAt < MEASURE_EVERY) return;
    this.#measuredAt = now;
    this.#isMeasured = true;
    this.#measure(drive);
  }

  #measure(drive: GameDrive): void {
    const declared = new Map(this.$matched.get().matched.map((one) => [one.path, this.theirs(one)]));
    const measured = measureDrive(drive, { unit: this.ground.unit, hz: this.$game.get()?.hz ?? 60, declared });
    if (measured) this.$measured.set(measured);
  }
}
