import { join } from 'node:path';
import { snakeCased } from '../../casing/casing.ts';
import { handed } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';
import { built, type Driver, fields, LINE, ran, WAY } from '../../testing/driver.ts';
import { faultsBy, type Proof, withoutComments } from '../../testing/languageProof.ts';

const driver: Driver = {
  text: ({ begin, asks, segments }) =>
    snakeCased(`mod motion;
${segments ? 'mod walls;' : ''}
use std::cell::RefCell;
use std::io::BufRead;
fn main() {
    let mut b = motion::motion_start();
    let mut h = motion::Hands::default();
    ${segments ? `let segments = vec![${segments.map((one) => `${one} as f64`).join(', ')}];\n    let held = RefCell::new(walls::Walls::new(segments.clone()));` : 'let _none = RefCell::new(0);'}
    for line in std::io::stdin().lock().lines() {
        let mut v: Vec<f64> = line.unwrap().split_whitespace().map(|one| one.parse().unwrap()).collect();
        let paths: Vec<f64> = v[${LINE + 1}..].to_vec();
        if v.remove(0) != 0.0 {
            b = motion::motion_start(); ${begin((field, at) => `b.${field} = v[${at - 1}];`)}
            ${segments ? '*held.borrow_mut() = walls::Walls::new(segments.clone());' : ''}
        }
        for i in 0..11 { h.held[i] = v[i]; h.order[i] = v[11 + i]; }
        ${fields.map((field, i) => `h.${field} = v[${22 + i}];`).join(' ')} h.pointed = v[29] != 0.0; h.changed = v[30] != 0.0;
        let _ = &paths;
        motion::motion_tick(&mut b, &mut h${handed(asks, {
          contact: segments
            ? '&mut |b: &mut motion::Body| held.borrow_mut().contact(b)'
            : '&mut |b: &mut motion::Body| motion::motion_free(b)',
          isClear: segments
            ? '&mut |ax, ay, bx, by| held.borrow_mut().isClear(ax, ay, bx, by)'
            : '&mut |_, _, x: f64, y: f64| x < 0.0 || y < 0.0 || x >= 512.0 || y >= 384.0 || ((x / 32.0).floor() as i64 * 7 + (y / 32.0).floor() as i64 * 13) % 5 != 0',
          plan: `&mut |from_x: f64, from_y: f64, to_x: f64, to_y: f64, way: &mut motion::Way| {
            let mut i = 0;
            while i < paths.len() {
                let count = paths[i + 7] as usize;
                if paths[i..i + 4] == [from_x, from_y, to_x, to_y] {
                    if paths[i + 4] == 0.0 { return false; }
                    way.reached = paths[i + 5] != 0.0;
                    way.squeezed = paths[i + 6] != 0.0;
                    way.points = paths[i + ${WAY}..i + ${WAY} + 2 * count].to_vec();
                    return true;
                }
                i += ${WAY} + 2 * count;
            }
            panic!("nobody planned that")
        }`,
        })});
        println!("${compared.map(() => '{}').join(' ')}", ${compared.map((field) => `b.${field} + 0.0`).join(', ')});
    }
}
`),
};

/** How tests run it. */
export const proof: Proof = {
  command: 'rustc',
  driver,
  run: (stem, folder, input) => {
    built('rustc', ['-O', '-A', 'warnings', `${stem}.rs`, '-o', `${stem}-rs`], folder);
    return ran(join(folder, `${stem}-rs`), [], folder, input);
  },
  faults: (texts, folder) =>
    faultsBy(
      'rustc',
      ['--edition', '2021', '--crate-type', 'lib', '-A', 'warnings', '--emit', 'metadata', '-o', join(folder, 'n.rmeta')],
      texts,
      folder,
    ),
  withoutComments: (texts) => texts.map(withoutComments),
  names: { refused: ['crate', '_', 'dyn'], taken: ['été'] },
};
