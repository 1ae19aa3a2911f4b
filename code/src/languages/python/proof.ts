import { snakeCased } from '../../casing/casing.ts';
import { handed } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';
import { type Driver, fields, LINE, ran, WAY } from '../../testing/driver.ts';
import { faultsBy, linesBy, type Proof } from '../../testing/languageProof.ts';

const driver: Driver = {
  text: ({ begin, asks, segments }) =>
    snakeCased(`import sys
import motion
${segments ? 'import walls' : ''}
b, h, paths = motion.Body(), motion.Hands(), []
${segments ? `segments = [${segments.map((one) => `float(${one})`).join(', ')}]\nheld = walls.Walls(segments)` : ''}


def plan(fromX, fromY, toX, toY, way):
    i = 0
    while i < len(paths):
        count = int(paths[i + 7])
        if paths[i:i + 4] == [fromX, fromY, toX, toY]:
            if paths[i + 4] == 0:
                return False
            way.reached, way.squeezed = paths[i + 5] != 0, paths[i + 6] != 0
            way.points = paths[i + ${WAY}:i + ${WAY} + 2 * count]
            return True
        i += ${WAY} + 2 * count
    raise Exception("nobody planned that")


for line in sys.stdin:
    first, *v = [float(one) for one in line.split()]
    paths = v[${LINE}:]
    if first:
        b = motion.Body()
        ${begin((field, at) => `b.${field} = v[${at - 1}];`)}
        ${segments ? 'held = walls.Walls(segments)' : ''}
    h.held, h.order = v[:11], v[11:22]
    ${fields.map((field, i) => `h.${field} = v[${22 + i}]`).join('; ')}
    h.pointed, h.changed = v[29] != 0, v[30] != 0
    motion.motion_tick(b, h${handed(asks, {
      contact: segments ? 'held.contact' : 'motion.motion_free',
      isClear: segments
        ? 'held.isClear'
        : 'lambda ax, ay, bx, by: bx < 0 or by < 0 or bx >= 512 or by >= 384 or (int(bx // 32) * 7 + int(by // 32) * 13) % 5 != 0',
      plan: 'plan',
    })})
    print(${compared.map((field) => `repr(float(b.${field}) + 0.0)`).join(', ')})
`),
};

/** Prints a word for the syntax tree of each file, in which all documentation strings are empty. */
const TREE = `
import ast, hashlib, sys
for path in sys.argv[1:]:
    tree = ast.parse(open(path, 'rb').read())
    for node in ast.walk(tree):
        body = getattr(node, 'body', None)
        if isinstance(body, list) and body and isinstance(body[0], ast.Expr) and isinstance(body[0].value, ast.Constant):
            body[0].value.value = ''
    print(hashlib.sha256(ast.dump(tree).encode()).hexdigest())
`;

/** How tests run it. */
export const proof: Proof = {
  command: 'python3',
  driver,
  run: (stem, folder, input) => ran('python3', [`${stem}.py`], folder, input),
  faults: (texts, folder) =>
    faultsBy('python3', ['-c', 'import ast, sys; ast.parse(open(sys.argv[1], encoding="utf-8").read())'], texts, folder),
  withoutComments: (texts, folder) => linesBy('python3', ['-c', TREE], texts, folder),
  linter: { program: 'flake8', options: [] },
  names: { refused: ['None', 'ﬁn', 'a-b'], taken: ['été'] },
};
