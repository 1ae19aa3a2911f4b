/** The kinds of document that a project holds; each is a file format of the core. */
export const kinds = ['tuning', 'ground', 'tape', 'targets'] as const;
export type Kind = (typeof kinds)[number];
