import { c } from './c.ts';
import { csharp } from './csharp.ts';
import type { Driver } from './driver.ts';
import { lua } from './lua.ts';
import { python } from './python.ts';
import { rust } from './rust.ts';
import { typescript } from './typescript.ts';

/** The programs by the language of the code that they drive. */
export const drivers: Readonly<Record<string, Driver>> = { c, python, lua, rust, csharp, ts: typescript };
