import { dotted, flags, unitAfter, valueKeys } from './cells.ts';
import type { expressionAt, quotedNumber } from './expression.ts';
import type { ListValue, Reading, Scope } from './found.ts';
import type { Token } from './tokens.ts';
import type { Block, Node } from './tree.ts';

/** Collects the findings in a source, each once. */
export class Readings {
  readonly found: Reading[] = [];
  readonly #taken = new Set<number>();

  number(name: string, read: NonNullable<ReturnType<typeof expressionAt>>, cell: readonly Node[], scopes: readonly Scope[]): void {
    const { decimal, of, literals, next, at, end, isDegrees } = read;
    const after = unitAfter(cell, next);
    const isUnit = of !== null && /(?:second|millisecond|minute|[mun]?s)s?$/i.test(of);
    this.keep(name, scopes, {
      kind: 'number',
      value: Number(decimal),
      decimal,
      ...(of === null || isUnit ? {} : { times: { of: dotted(of), factor: decimal } }),
      line: (literals[0] as Token).line,
      unit: isDegrees ? 'degree' : isUnit ? (of as string) : after,
      at,
      end,
      literals,
    });
  }

  quoted(
    name: string,
    node: Token,
    { decimal, at, end, unit }: NonNullable<ReturnType<typeof quotedNumber>>,
    scopes: readonly Scope[],
  ): void {
    const literal = { ...node, kind: 'number' as const, text: decimal, at, end };
    const stated = unit === '%' ? 'percent' : unit;
    this.keep(name, scopes, {
      kind: 'number',
      value: Number(decimal),
      decimal,
      line: node.line,
      unit: stated,
      at,
      end,
      literals: [literal],
    });
  }

  /** A flag, or a word that one of several is chosen by: `'step'`, `Scheme::Turn`. */
  word(name: string, node: Token, scopes: readonly Scope[]): void {
    const text = node.kind === 'text' ? node.text : (dotted(node.text).split('.').at(-1) as string);
    const flag = node.kind === 'name' ? flags[text.toLowerCase()] : undefined;
    const at = node.kind === 'text' ? node.at + 1 : node.at;
    const end = node.kind === 'text' ? at + node.text.length : node.end;
    const kind = flag === undefined ? 'word' : 'flag';
    this.keep(name, scopes, { kind, value: flag ?? text, decimal: '', line: node.line, unit: '', at, end, literals: [node] });
  }

  list(name: string, value: ListValue, { at, end, line }: Block, scopes: readonly Scope[]): void {
    this.keep(name, scopes, { kind: 'list', value, decimal: '', line, unit: '', at, end, literals: [] });
  }

  keep(name: string, scopes: readonly Scope[], read: Omit<Reading, 'own' | 'within'>): void {
    const { at } = read.literals[0] ?? read;
    if (this.#taken.has(at)) return;
    this.#taken.add(at);
    const parts = dotted(name).split('.').filter(Boolean);
    const own = parts.pop() ?? '';
    const last = scopes.at(-1);
    // `{ name: "walk_speed", value: 120 }`: the thing's name is the number's.
    const isValue = valueKeys.has(own.toLowerCase());
    const within = [...scopes, ...parts.map((part) => ({ name: part }))];
    this.found.push(isValue && last ? namedByThing(last, within, own, read) : { ...read, own, within });
  }
}
/** A number under `value`, named by the thing around it, before it or after. */
function namedByThing(thing: Scope, within: readonly Scope[], own: string, read: Omit<Reading, 'own' | 'within'>): Reading {
  const others = within.filter((one) => one !== thing);
  return {
    ...read,
    get own() {
      return thing.label ?? own;
    },
    within: others,
  };
}
