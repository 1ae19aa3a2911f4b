import { z } from 'zod';
import type { Place } from '../data/documents.ts';

/** A place in a list as opaque text. */
export const cursorOf = ({ createdAt, id }: Place) => Buffer.from(`${createdAt.getTime()} ${id}`).toString('base64url');

/** Milliseconds beyond which a date is invalid (ECMAScript, time values). */
const LATEST = 8.64e15;

const cursor = z.string().transform((text, context): Place => {
  const [created = '', id = ''] = Buffer.from(text, 'base64url').toString('latin1').split(' ');
  if (/^\d{1,16}$/.test(created) && Number(created) <= LATEST && z.uuid().safeParse(id).success)
    return { createdAt: new Date(Number(created)), id };
  context.addIssue({ code: 'custom', message: 'expected the next of an earlier page' });
  return z.NEVER;
});

/** The query parameter with which the next page of a list is requested. */
export const after = cursor.optional().meta({ description: 'The next of the page before', override: { type: 'string' } });

/** The member of a page that names the next one. */
export const next = z.string().nullable().meta({ description: 'What to ask for the next page with; null on the last one' });
