import { CHANGED, type CheckFile, HANDS, handed, POINTED, quoted, single } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';

/** The test that replays goldens in it. */
export const check: CheckFile = {
  name: 'check.cs',
  run: 'mcs check.cs motion.cs -out:check.exe && mono check.exe goldens/*.csv',
  text: (asks) => `// Replays goldens against the game's own movement, and reports the first difference, and its size.
using System;
using System.Globalization;
using System.IO;

public static class Check {
    const double Slack = 1e-6;
    static readonly string[] fields = { ${quoted} };

    static string Replay(string name) {
        // Your own movement in place of the model's: a body with x, y, vx, vy …, and a tick that moves it.
        var b = new Body();
        var h = new Hands();
        var lines = File.ReadAllLines(name);
        for (int tick = 0; tick + 1 < lines.Length; tick++) {
            var v = Array.ConvertAll(lines[tick + 1].Split(','), one => double.Parse(one, CultureInfo.InvariantCulture));
            if (v[0] != 0) b = new Body();
            for (int i = 0; i < 11; i++) { h.held[i] = v[1 + i]; h.order[i] = v[12 + i]; }
            ${single.map(([field, at]) => `h.${field} = v[${at}];`).join(' ')}
            h.pointed = v[${POINTED}] != 0; h.changed = v[${CHANGED}] != 0;
            Motion.Tick(b, h${handed(asks, {
              contact: 'Motion.Free',
              isClear: '(fromX, fromY, toX, toY) => true',
              plan: '(fromX, fromY, toX, toY, way) => { way.points = new[] { fromX, fromY, toX, toY }; way.reached = true; way.squeezed = false; return true; }',
            })});
            var got = new[] { ${compared.map((field) => `b.${field}`).join(', ')} };
            for (int i = 0; i < fields.Length; i++) {
                double want = v[${HANDS} + i], off = Math.Abs(got[i] - want);
                if (!(off <= Slack * Math.Max(1.0, Math.Abs(want))))
                    return string.Format(CultureInfo.InvariantCulture,
                        "first at tick {0}: {1} is {2:G9}, in the golden {3:G9}, off by {4:G3}", tick, fields[i], got[i], want, off);
            }
        }
        return null;
    }

    public static int Main(string[] names) {
        bool failed = names.Length == 0;
        foreach (var name in names) {
            var parted = Replay(name);
            failed |= parted != null;
            Console.WriteLine(name + ": " + (parted ?? "good"));
        }
        return failed ? 1 : 0;
    }
}
`,
};
