/** Hand-off of numbers: a tuning's parameters as constants of a game. Light enough for a page: nothing in it generates motion. */

export { languageIds, languages } from '../languages/list.ts';
export { changesSince, type HandedOver, type HandOffChange, type HandOffChoice, handOver } from './handOff.ts';
export { writers } from './writers.ts';
