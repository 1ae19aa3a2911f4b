import { snakeCased } from '../../casing/casing.ts';
import { CHANGED, type CheckFile, HANDS, handed, POINTED, quotedSnake, single } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';

/** The test that replays goldens in it. */
export const check: CheckFile = {
  name: 'check.rs',
  run: 'rustc -O check.rs -o check-rs && ./check-rs goldens/*.csv',
  text: (asks) =>
    snakeCased(`// Replays goldens against the game's own movement, and reports the first difference, and its size.
// Your own movement in place of the model's: a Body, motion_start and motion_tick.
mod motion;

const SLACK: f64 = 1e-6;
const FIELDS: [&str; ${compared.length}] = [${quotedSnake}];

fn check(name: &str) -> Option<String> {
    let Ok(text) = std::fs::read_to_string(name) else { return Some("cannot be read".to_string()) };
    let mut b = motion::motion_start();
    let mut h = motion::Hands::default();
    for (tick, line) in text.lines().skip(1).enumerate() {
        let v: Vec<f64> = line.split(',').map(|one| one.parse().unwrap_or(f64::NAN)).collect();
        if v[0] != 0.0 { b = motion::motion_start(); }
        for i in 0..11 { h.held[i] = v[1 + i]; h.order[i] = v[12 + i]; }
        ${single.map(([field, at]) => `h.${field} = v[${at}];`).join(' ')}
        h.pointed = v[${POINTED}] != 0.0;
        h.changed = v[${CHANGED}] != 0.0;
        motion::motion_tick(&mut b, &mut h${handed(asks, {
          contact: '&mut |b| motion::motion_free(b)',
          isClear: '&mut |_, _, _, _| true',
          plan: '&mut |from_x, from_y, to_x, to_y, way| {\n            *way = motion::Way { points: vec![from_x, from_y, to_x, to_y], reached: true, squeezed: false };\n            true\n        }',
        })});
        let got = [${compared.map((field) => `b.${field}`).join(', ')}];
        for i in 0..FIELDS.len() {
            let want = v[${HANDS} + i];
            let off = (got[i] - want).abs();
            if !(off <= SLACK * want.abs().max(1.0)) {
                return Some(format!("first at tick {}: {} is {}, in the golden {}, off by {:.3e}", tick, FIELDS[i], got[i], want, off));
            }
        }
    }
    None
}

fn main() {
    let names: Vec<String> = std::env::args().skip(1).collect();
    let mut failed = names.is_empty();
    for name in names {
        let parted = check(&name);
        failed |= parted.is_some();
        println!("{}: {}", name, parted.unwrap_or("good".to_string()));
    }
    std::process::exit(if failed { 1 } else { 0 });
}
`),
};
