import { type Case, type ConstantValue, type GameUnits, plainUnits, readUnits, unitsWord } from '@zygopod/core';
import { atom } from 'nanostores';

/** A hand-off as the server keeps it. */
export interface KeptHandOff {
  id: string;
  createdAt: string;
  tuning: { id: string; revision: number; name: string };
  changedSince: boolean;
  to: string;
  units: string;
  label: string;
  values: Record<string, ConstantValue>;
}

/** How a tuning is to be handed over: as what, in which units and names. */
export interface Choice {
  to: string;
  units: GameUnits;
  style: Case | null;
  all: boolean;
}

const keyOf = (project: string) => `zygopod-hand-off:${project}`;

/** The choice of the last hand-off in this project: kept in this browser, else as the last one that the server knows, else plain. */
export function choiceOf(project: string, last: KeptHandOff | undefined): Choice {
  const plain: Choice = { to: last?.to ?? 'c', units: plainUnits, style: null, all: false };
  const lastUnits = readUnits(last?.units ?? '');
  if (typeof lastUnits !== 'string') plain.units = lastUnits;
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(project)) ?? 'null') as {
      to?: string;
      units?: string;
      style?: Case;
      all?: boolean;
    } | null;
    const units = readUnits(kept?.units ?? '');
    if (!kept || typeof units === 'string') return plain;
    return { to: kept.to ?? plain.to, units, style: kept.style ?? null, all: kept.all === true };
  } catch {
    return plain;
  }
}

export const keepChoice = (project: string, { to, units, style, all }: Choice): void =>
  localStorage.setItem(keyOf(project), JSON.stringify({ to, units: unitsWord(units), style, all }));

/** What the server keeps of a tuning's hand-offs and of its project's names. */
export class HandOffs {
  readonly $kept = atom<readonly KeptHandOff[]>([]);
  readonly $names = atom<Readonly<Record<string, string>>>({});
  readonly $why = atom<string | null>(null);
  readonly #tuning: string;
  readonly #project: string;

  constructor(tuning: string, project: string) {
    this.#tuning = tuning;
    this.#project = project;
  }

  async load(): Promise<void> {
    try {
      const [handed, project] = await Promise.all([
        fetch(`/api/v1/handoffs?tuning=${this.#tuning}`).then((answer) => answer.json() as Promise<{ items?: KeptHandOff[] }>),
        fetch(`/api/v1/projects/${this.#project}`).then((answer) => answer.json() as Promise<{ names?: Record<string, string> }>),
      ]);
      this.$kept.set(handed.items ?? []);
      this.$names.set(project.names ?? {});
    } catch {
      this.$why.set('The server cannot be reached.');
    }
  }

  /** Keeps a hand-off; it is the last one from now on. */
  async keep(handOff: Omit<KeptHandOff, 'id' | 'createdAt'>): Promise<void> {
    const kept = await this.#send('POST', '/api/v1/handoffs', handOff);
    if (kept) this.$kept.set([kept as KeptHandOff, ...this.$kept.get()]);
  }

  /** Keeps what the game calls parameters, with the project. */
  async rename(names: Record<string, string>): Promise<void> {
    if (await this.#send('PUT', `/api/v1/projects/${this.#project}`, { names })) this.$names.set(names);
  }

  async #send(method: string, path: string, body: unknown): Promise<unknown> {
    try {
      const answer = await fetch(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
      const told = (await answer.json().catch(() => null)) as { title?: string } | null;
      if (answer.ok) {
        this.$why.set(null);
        return told;
      }
      this.$why.set(`${told?.title ?? `The server said ${answer.status}`}.`);
    } catch {
      this.$why.set('The server cannot be reached.');
    }
    return null;
  }
}
