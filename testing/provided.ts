import 'vitest';

/** What the global set-up hands to the tests. */
declare module 'vitest' {
  export interface ProvidedContext {
    address: string;
    databaseUrl: string;
  }
}
