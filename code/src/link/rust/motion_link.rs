//! Links motion.rs to Zygopod: its live numbers, the state after each tick, and hands from there. Beside zygopod_link.rs; MIT license.
use crate::motion::{motion_place, motion_start, Body, Control, Hands, Swipe};
use crate::zygopod_link::{Json, Link, Options};

const CONTROLS: [(&str, Control); 11] = [
    ("up", Control::Up), ("down", Control::Down), ("left", Control::Left), ("right", Control::Right), ("sprint", Control::Sprint),
    ("sprintToggle", Control::SprintToggle), ("autoRun", Control::AutoRun), ("plant", Control::Plant), ("action", Control::Action),
    ("launch", Control::Launch), ("pointer", Control::Pointer),
];
const SWIPES: [(&str, Swipe); 4] = [("up", Swipe::Up), ("right", Swipe::Right), ("down", Swipe::Down), ("left", Swipe::Left)];
type Live = (&'static str, fn(&mut State) -> &mut f64, f64, f64);
const LIVE: &[Live] = &[];

/// What a request may change.
pub struct State { pub body: Body, start: [f64; 3], tape: Vec<Json>, at: usize, began: f64, tick: f64 }

/// Call `begin` before each `motion_tick` and `end` after it; report the hands here, not to the `Hands` themselves.
pub struct MotionLink { pub state: State, pub hands: Hands, link: Link<State>, events: Vec<String> }

impl MotionLink {
    pub fn new(options: Options, start: [f64; 3]) -> Self {
        let columns = ["tick", "x", "y", "vx", "vy", "facing", "gait", "stamina"].map(String::from).to_vec();
        let mut state = State { body: motion_start(), start, tape: Vec::new(), at: 0, began: 0.0, tick: 0.0 };
        motion_place(&mut state.body, start[0], start[1], start[2]);
        let mut link = Link::new(Options { columns, ..options });
        for &(path, at, least, most) in LIVE { link.watch(path, Some(path), Some((least, most)), at); }
        link.on("restart", |state: &mut State, _| {
            let kept: Vec<f64> = LIVE.iter().map(|one| *(one.1)(state)).collect();
            state.body = motion_start();
            for (one, value) in LIVE.iter().zip(kept) { *(one.1)(state) = value; }
            motion_place(&mut state.body, state.start[0], state.start[1], state.start[2]);
            None
        });
        link.on("place", |state, message| {
            let at = |name: &str| message.get(name).and_then(Json::number).unwrap_or(0.0);
            (state.body.x, state.body.y, state.body.vx, state.body.vy) = (at("x"), at("y"), 0.0, 0.0);
            None
        });
        link.on("tape", |state, message| {
            (state.tape, state.at, state.began) = (message.get("hands").map_or(Vec::new(), |hands| hands.list().to_vec()), 0, state.tick);
            None
        });
        MotionLink { state, hands: Hands::default(), link, events: Vec::new() }
    }
    pub fn open(&mut self) { self.link.open(&mut self.state); }
    pub fn poll(&mut self) { self.link.poll(&mut self.state); }
    pub fn close(&mut self) { self.link.close(); }
    /// The press of a control by its name in tapes.
    pub fn press(&mut self, name: &str) {
        let Some(&(_, control)) = CONTROLS.iter().find(|one| one.0 == name) else { return };
        self.events.push(format!("\"press\":\"{name}\""));
        self.hands.press(control);
    }
    pub fn release(&mut self, name: &str) {
        let Some(&(_, control)) = CONTROLS.iter().find(|one| one.0 == name) else { return };
        self.events.push(format!("\"release\":\"{name}\""));
        self.hands.release(control);
    }
    pub fn stick(&mut self, x: f64, y: f64) {
        self.events.push(format!("\"stick\":[{x},{y}]"));
        self.hands.stick(x, y);
    }
    pub fn point(&mut self, x: f64, y: f64) {
        self.events.push(format!("\"point\":[{x},{y}]"));
        self.hands.point(x, y);
    }
    pub fn swipe(&mut self, name: &str) {
        let Some(&(_, to)) = SWIPES.iter().find(|one| one.0 == name) else { return };
        self.events.push(format!("\"swipe\":\"{name}\""));
        self.hands.swipe(to);
    }
    /// Applies the replayed hands of the tick that comes.
    pub fn begin(&mut self) {
        while let Some(event) = self.state.tape.get(self.state.at).cloned() {
            if event.get("at").and_then(Json::number).unwrap_or(0.0) > self.state.tick - self.state.began { return; }
            self.state.at += 1;
            let pair = |of: &Json| (of.list()[0].number().unwrap_or(0.0), of.list()[1].number().unwrap_or(0.0));
            if let Some(one) = event.get("press") { self.press(one.text()); }
            if let Some(one) = event.get("release") { self.release(one.text()); }
            if let Some(one) = event.get("swipe") { self.swipe(one.text()); }
            if let Some(one) = event.get("stick") { let (x, y) = pair(one); self.stick(x, y); }
            if let Some(one) = event.get("point") { let (x, y) = pair(one); self.point(x, y); }
        }
    }
    /// Reports the state after a tick.
    pub fn end(&mut self) {
        let b = &self.state.body;
        let row = [self.state.tick, b.x + 0.0, b.y + 0.0, b.vx + 0.0, b.vy + 0.0, b.facing_angle * 57.29577951308232 + 0.0, b.gait_index, b.gait_stamina + 0.0];
        self.state.tick += 1.0;
        let events = std::mem::take(&mut self.events);
        self.link.row(&mut self.state, &row, &events.iter().map(String::as_str).collect::<Vec<_>>());
    }
}
