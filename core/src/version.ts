/** The version of the core: what was measured by another one may differ. */
export const VERSION = '0.3.1';
