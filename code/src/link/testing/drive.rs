//! Drives a link as a test asks: `go N` on stdin drives up to tick N.
use std::io::{BufRead, Write};
use std::time::{Duration, Instant};
#[allow(dead_code)]
mod zygopod_link;
use zygopod_link::{Json, Link, Options};

struct Game { walk: f64, restarts: u32 }

fn main() {
    let args: Vec<String> = std::env::args().collect();
    let mut game = Game { walk: 140.0, restarts: 0 };
    let mut link = Link::new(Options { host: args[1].clone(), port: args[2].parse().unwrap(), game: args[3].clone(), ..Options::default() });
    link.watch("walk_speed", Some("pace.walkSpeed"), Some((0.0, 1000.0)), |game: &mut Game| &mut game.walk);
    link.on("restart", |game, _| { game.restarts += 1; None });
    link.on("place", |_, message| if message.get("x").and_then(Json::number).unwrap_or(0.0) < 0.0 { Some("outside \"here\"".into()) } else { None });
    link.open(&mut game);
    let (mut tick, mut took) = (0usize, Vec::new());
    for line in std::io::stdin().lock().lines() {
        let line = line.unwrap();
        if let Some(to) = line.strip_prefix("go ") {
            while tick < to.parse().unwrap() {
                let begun = Instant::now();
                let at = tick as f64;
                link.row(&mut game, &[at, at * 0.5, 0.0 - at], if tick % 50 == 0 { &["\"press\":\"up\""] } else { &[] });
                took.push(begun.elapsed().as_secs_f64() * 1000.0);
                if tick % 200 == 0 { std::thread::sleep(Duration::from_millis(1)); }
                tick += 1;
            }
            println!("at {tick}");
        } else {
            link.poll(&mut game);
            println!("walk {} restarts {}", game.walk, game.restarts);
        }
        std::io::stdout().flush().unwrap();
    }
    link.close();
    took.sort_by(f64::total_cmp);
    println!("took {} {} {}", took[took.len() / 2], took[took.len() * 99 / 100], took[took.len() - 1]);
}
