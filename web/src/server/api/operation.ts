import { collections, type DocumentKind, formatNames } from '@zygopod/core';
import { z } from 'zod';
import type { Database } from '../data/connection.ts';
import type { JudgedBody } from '../judge/judge.ts';

/** The validated request of an operation. */
export interface OperationRequest<Q = Record<string, never>, B = never> {
  request: Request;
  url: URL;
  query: Q;
  kind: DocumentKind;
  id: string;
  number: number;
  /** The database, prepared. */
  database(): Promise<Database>;
  /** The body, parsed by the operation's own schema. */
  body: B;
  /** The file that the body holds, judged. */
  file(): Promise<JudgedBody>;
}

interface Answer {
  words: string;
  schema?: z.ZodType;
  /** The media type, where it is not JSON. */
  type?: string;
  /** Has an ETag. */
  tagged?: boolean;
}

/** An operation of the API: its description, its checks, and its work. */
export interface Operation {
  method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** Below /api/v1, with parameters in braces: kind, id, number. */
  path: string;
  name: string;
  words: string;
  query?: z.ZodObject;
  /** True if If-Match has to name a version, whether that may be none, or whether it is only checked where it is there. */
  condition?: 'seen' | 'seenOrNone' | 'ifSeen';
  takesFile?: boolean;
  /** Schema of the body if it is no file, and its maximum size (bytes) if larger than usual. */
  body?: z.ZodType;
  largest?: number;
  answers: Record<number, Answer>;
  // biome-ignore lint/suspicious/noExplicitAny: each operation's query is of its own schema's type
  run(request: OperationRequest<any, any>): Promise<Response>;
}

/** Parameters in paths. */
export const parameters = {
  kind: z.enum(collections).meta({ description: 'Which kind of document' }),
  id: z.uuid().meta({ description: 'The document' }),
  number: z
    .string()
    .regex(/^[1-9]\d{0,8}$/)
    .meta({ description: 'Number of a revision, from 1', example: '1' }),
  format: z.enum(formatNames).meta({ description: 'Which file format' }),
};
