/** How many of a random campaign run: a share in every suite, all of them with `./zygopod test --long`. */
export const campaign = (share: number, whole: number): number => (process.env['ZYGOPOD_LONG'] === '1' ? whole : share);
