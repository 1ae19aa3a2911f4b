import 'vitest';

/** Values that the global set-up provides to the tests. */
declare module 'vitest' {
  export interface ProvidedContext {
    address: string;
    databaseUrl: string;
  }
}
