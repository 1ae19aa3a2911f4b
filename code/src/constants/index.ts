/** Hand-off of numbers: a tuning's parameters as constants of a game. Light enough for a page: nothing in it generates motion. */
export { changesSince, type HandedOver, type HandOffChange, type HandOffChoice, handOver } from './handOff.ts';
export { languageIds, languages, writers } from './writers.ts';
