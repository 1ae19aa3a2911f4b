import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { handed } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';
import { built, type Driver, fields, LINE, ran, WAY } from '../../testing/driver.ts';
import { type Proof, withoutComments } from '../../testing/languageProof.ts';

const driver: Driver = {
  text: ({ begin, asks, segments }) => `using System;
using System.Globalization;
public static class Drive {
    static double[] v;
    static bool Planned(double fromX, double fromY, double toX, double toY, out int at) {
        for (at = ${LINE + 1}; at < v.Length; at += ${WAY} + 2 * (int)v[at + 7])
            if (v[at] == fromX && v[at + 1] == fromY && v[at + 2] == toX && v[at + 3] == toY) return v[at + 4] != 0;
        throw new Exception("nobody planned that");
    }
    public static void Main() {
        var b = new Body(); var h = new Hands(); string line;
        ${segments ? `var segments = new double[] { ${segments.join(', ')} };\n        var held = new Walls(segments);` : ''}
        while ((line = Console.ReadLine()) != null) {
            v = Array.ConvertAll(line.Split(' '), one => BitConverter.Int64BitsToDouble(long.Parse(one.Substring(1))));
            if (v[0] != 0) {
                b = new Body(); ${begin((field, at) => `b.${field} = v[${at}];`)}
                ${segments ? 'held = new Walls(segments);' : ''}
            }
            for (int i = 0; i < 11; i++) { h.held[i] = v[1 + i]; h.order[i] = v[12 + i]; }
            ${fields.map((field, i) => `h.${field} = v[${23 + i}];`).join(' ')} h.pointed = v[30] != 0; h.changed = v[31] != 0;
            Motion.Tick(b, h${handed(asks, {
              contact: segments ? 'held.Contact' : 'Motion.Free',
              isClear: segments
                ? 'held.IsClear'
                : '(ax, ay, bx, by) => bx < 0 || by < 0 || bx >= 512 || by >= 384 || ((long)Math.Floor(bx / 32) * 7 + (long)Math.Floor(by / 32) * 13) % 5 != 0',
              plan: `(fromX, fromY, toX, toY, way) => {
                int at;
                if (!Planned(fromX, fromY, toX, toY, out at)) return false;
                way.reached = v[at + 5] != 0; way.squeezed = v[at + 6] != 0;
                way.points = new double[2 * (int)v[at + 7]];
                Array.Copy(v, at + ${WAY}, way.points, 0, way.points.Length);
                return true;
            }`,
            })});
            Console.WriteLine(string.Join(" ", new[] { ${compared.map((field) => `b.${field} + 0.0`).join(', ')} }.Select()));
        }
    }
    static string[] Select(this double[] all) { return Array.ConvertAll(all, one => "#" + BitConverter.DoubleToInt64Bits(one)); }
}
`,
  isInBits: true,
};

/** How tests run it. */
export const proof: Proof = {
  command: 'mcs',
  driver,
  run: (stem, folder, input) => {
    const walls = existsSync(join(folder, 'walls.cs')) ? ['walls.cs'] : [];
    built('mcs', [`${stem}.cs`, 'motion.cs', ...walls, `-out:${stem}.exe`], folder);
    return ran('mono', [`${stem}.exe`], folder, input);
  },
  withoutComments: (texts) => {
    const bare = texts.map(withoutComments);
    for (const text of bare)
      if (/[^ -~]/.test(text.replace(/public static class (\w+)/, '')))
        throw new Error(`there is more than ASCII in it: ${text.slice(0, 200)}`);
    return bare.map((text) => text.replace(/public static class [A-Za-z]\w*/, 'public static class Name'));
  },
  isCamel: true,
  names: { refused: ['event', 'a$b'], taken: ['скорость'] },
};
