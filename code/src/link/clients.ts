import { join } from 'node:path';
import type { LanguageId } from '../languages/list.ts';

/** A client in a language: its file, how a program with it is built, and what runs that. */
export interface LinkClient {
  language: LanguageId;
  /** The client, to be copied into a game. */
  file: string;
  /** A command that succeeds where it can be tested. */
  probe: readonly string[];
  /** The program that drives it in tests, and the commands that build it in a folder in which both files lie. */
  test: string;
  build: readonly (readonly string[])[];
  run: readonly string[];
  /** The same for a small game of exported code. */
  example: { file: string; build: readonly (readonly string[])[]; run: readonly string[] };
}

const here = import.meta.dirname;
const at = (...path: string[]) => join(here, ...path);

/** The example in TypeScript, which Node.js runs as it is. */
export const typeScriptExample = {
  language: 'ts',
  file: at('examples', 'play.ts'),
  build: [],
  run: [process.execPath, 'play.ts'],
} as const;

/** The clients for languages with a compiler or an interpreter of their own. TypeScript's runs in the tests themselves. */
export const linkClients: readonly LinkClient[] = [
  {
    language: 'c',
    file: at('c', 'zygopod_link.h'),
    probe: ['gcc', '--version'],
    test: at('testing', 'drive.c'),
    build: [['gcc', '-std=c11', '-D_GNU_SOURCE', '-O2', '-Wall', '-Wextra', '-Werror', '-pthread', 'drive.c', '-o', 'drive']],
    run: ['./drive'],
    example: {
      file: at('examples', 'play.c'),
      build: [
        [
          'gcc',
          '-std=c11',
          '-D_GNU_SOURCE',
          '-O2',
          '-ffp-contract=off',
          '-Wall',
          '-Wextra',
          '-Werror',
          '-pthread',
          'play.c',
          '-lm',
          '-o',
          'play',
        ],
      ],
      run: ['./play'],
    },
  },
  {
    language: 'python',
    file: at('python', 'zygopod_link.py'),
    probe: ['python3', '--version'],
    test: at('testing', 'drive.py'),
    build: [],
    run: ['python3', 'drive.py'],
    example: { file: at('examples', 'play.py'), build: [], run: ['python3', 'play.py'] },
  },
  {
    language: 'lua',
    file: at('lua', 'zygopod_link.lua'),
    probe: ['lua5.4', '-e', 'require("socket")'],
    test: at('testing', 'drive.lua'),
    build: [],
    run: ['lua5.4', 'drive.lua'],
    example: { file: at('examples', 'play.lua'), build: [], run: ['lua5.4', 'play.lua'] },
  },
  {
    language: 'csharp',
    file: at('csharp', 'ZygopodLink.cs'),
    probe: ['mcs', '--version'],
    test: at('testing', 'Drive.cs'),
    build: [['mcs', '-warnaserror', '-out:drive.exe', 'Drive.cs', 'ZygopodLink.cs']],
    run: ['mono', 'drive.exe'],
    example: {
      file: at('examples', 'Play.cs'),
      build: [['mcs', '-warnaserror', '-out:play.exe', 'Play.cs', 'MotionLink.cs', 'ZygopodLink.cs', 'motion.cs']],
      run: ['mono', 'play.exe'],
    },
  },
  {
    language: 'rust',
    file: at('rust', 'zygopod_link.rs'),
    probe: ['rustc', '--version'],
    test: at('testing', 'drive.rs'),
    build: [['rustc', '-O', '-D', 'warnings', 'drive.rs', '-o', 'drive']],
    run: ['./drive'],
    example: { file: at('examples', 'play.rs'), build: [['rustc', '-O', 'play.rs', '-o', 'play']], run: ['./play'] },
  },
];
