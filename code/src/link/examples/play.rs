//! A game of a few lines: a scripted player, driven by `go N` on stdin up to tick N.
#![allow(dead_code)]
use std::io::{BufRead, Write};
mod motion;
mod motion_link;
mod zygopod_link;

fn main() {
    let args: Vec<String> = std::env::args().collect();
    let options = zygopod_link::Options { host: args[1].clone(), port: args[2].parse().unwrap(), game: args[3].clone(), ..Default::default() };
    let mut game = motion_link::MotionLink::new(options, [100.0, 100.0, 0.0]);
    game.open();
    let mut tick = 0;
    for line in std::io::stdin().lock().lines() {
        let to = line.unwrap().strip_prefix("go ").map_or(0, |to| to.parse().unwrap());
        while tick < to {
            match if tick < 600 { tick % 120 } else { -1 } {
                10 => game.press("right"),
                30 => game.press("sprint"),
                55 => game.press("down"),
                80 => game.release("right"),
                95 => game.release("sprint"),
                110 => game.release("down"),
                _ => (),
            }
            game.begin();
            motion::motion_tick(&mut game.state.body, &mut game.hands, &mut |b: &mut motion::Body| motion::motion_free(b));
            game.end();
            tick += 1;
        }
        game.poll();
        println!("at {tick}");
        std::io::stdout().flush().unwrap();
    }
    game.close();
}
