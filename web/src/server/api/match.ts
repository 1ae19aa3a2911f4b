import type { Operation } from './operation.ts';

interface Pattern {
  path: string;
  pattern: RegExp;
  methods: Map<string, Operation>;
}

/** A path of the API with its operations. */
export interface Match {
  methods: ReadonlyMap<string, Operation>;
  /** Its parameters by name, from the address. */
  values: Record<string, string>;
}

/** Finds the operations at a path; a literal path has priority over one with parameters. */
export class Matcher {
  readonly #patterns: Pattern[];

  constructor(operations: readonly Operation[]) {
    const byPath = new Map<string, Pattern>();
    for (const operation of operations) {
      const { path } = operation;
      const pattern = byPath.get(path) ?? {
        path,
        pattern: new RegExp(`^${path.replace(/[.]/g, '\\.').replace(/\{(\w+)\}/g, '(?<$1>[^/]+)')}/?$`),
        methods: new Map(),
      };
      pattern.methods.set(operation.method, operation);
      byPath.set(path, pattern);
    }
    const parameters = ({ path }: Pattern) => path.split('{').length;
    this.#patterns = [...byPath.values()].sort((a, b) => parameters(a) - parameters(b));
  }

  find(path: string): Match | null {
    for (const { pattern, methods } of this.#patterns) {
      const match = pattern.exec(path);
      if (match) return { methods, values: { ...match.groups } };
    }
    return null;
  }
}
