//! Links a game to Zygopod: its rows and hands go there, and numbers that are dragged there come back. One file, std alone; MIT license.
//! Nothing in the game's thread waits: a thread of its own connects, sends and listens. Requests are carried out in `row`, between two ticks.
//! The link is for this machine: ws://, no TLS.
use std::collections::VecDeque;
use std::io::{Error, ErrorKind, Read, Result, Write};
use std::net::{TcpStream, ToSocketAddrs};
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};

const KEPT: usize = 36_000; // rows that are kept to be sent again: ten minutes at a rate of 60
const MOST: usize = 40; // rows of a message

/// A value of JSON.
#[derive(Clone, Debug)]
pub enum Json { Null, Bool(bool), Number(f64), Text(String), List(Vec<Json>), Object(Vec<(String, Json)>) }

impl Json {
    pub fn get(&self, name: &str) -> Option<&Json> {
        match self { Json::Object(members) => members.iter().find(|one| one.0 == name).map(|one| &one.1), _ => None }
    }
    pub fn number(&self) -> Option<f64> { match self { Json::Number(value) => Some(*value), _ => None } }
    pub fn text(&self) -> &str { match self { Json::Text(text) => text, _ => "" } }
    pub fn list(&self) -> &[Json] { match self { Json::List(list) => list, _ => &[] } }
    /// Reads a value at a place of a text; moves the place behind it.
    fn read(text: &[u8], at: &mut usize) -> Option<Json> {
        while matches!(text.get(*at), Some(b' ' | b'\n' | b'\r' | b'\t' | b',' | b':')) { *at += 1; }
        let first = *text.get(*at)?;
        *at += 1;
        Some(match first {
            b'{' => {
                let mut members = Vec::new();
                while let Some(Json::Text(name)) = Json::read(text, at) { members.push((name, Json::read(text, at)?)); }
                Json::Object(members)
            }
            b'[' => {
                let mut list = Vec::new();
                while let Some(value) = Json::read(text, at) { list.push(value); }
                Json::List(list)
            }
            b'}' | b']' => return None,
            b'"' => {
                let mut bytes = Vec::new();
                while let Some(&byte) = text.get(*at) {
                    *at += 1;
                    match byte {
                        b'"' => return Some(Json::Text(String::from_utf8_lossy(&bytes).into_owned())),
                        b'\\' => {
                            let escape = *text.get(*at)?;
                            *at += if escape == b'u' { 5 } else { 1 };
                            bytes.push(match escape { b'n' => b'\n', b't' => b'\t', b'r' => b'\r', b'u' => b'?', other => other });
                        }
                        other => bytes.push(other),
                    }
                }
                return None;
            }
            _ => {
                let from = *at - 1;
                while matches!(text.get(*at), Some(c) if c.is_ascii_alphanumeric() || b"+-.".contains(c)) { *at += 1; }
                match std::str::from_utf8(&text[from..*at]).ok()? {
                    "true" => Json::Bool(true),
                    "false" => Json::Bool(false),
                    "null" => Json::Null,
                    word => Json::Number(word.parse().ok()?),
                }
            }
        })
    }
}

/// A text as JSON.
fn quoted(text: &str) -> String {
    let mut out = String::from("\"");
    for c in text.chars() {
        match c { '"' | '\\' => { out.push('\\'); out.push(c); } c if (c as u32) < 32 => out.push(' '), c => out.push(c) }
    }
    out + "\""
}

/// What the two threads share.
#[derive(Default)]
struct Shared {
    rows: VecDeque<Vec<f64>>,
    hands: VecDeque<(f64, String)>,
    /// How many of these were sent on this connection.
    sent: usize,
    sent_hands: usize,
    is_linked: bool,
    over: bool,
    inbox: Vec<Json>,
    outbox: VecDeque<String>,
    /// The parameters of hello, as they are now.
    parameters: String,
}

/// What a game calls itself. Columns begin with `tick`; unit is px, m or tiles.
#[derive(Clone)]
pub struct Options { pub host: String, pub port: u16, pub token: Option<String>, pub game: String, pub build: String, pub hz: f64, pub unit: String, pub y_up: bool, pub columns: Vec<String> }

impl Default for Options {
    fn default() -> Self {
        Options { host: "127.0.0.1".into(), port: 4380, token: None, game: "Game".into(), build: String::new(), hz: 60.0, unit: "px".into(), y_up: false, columns: vec!["tick".into(), "x".into(), "y".into()] }
    }
}

type Reason = Option<String>;
struct Number<G> { name: String, path: Option<String>, range: Option<(f64, f64)>, at: fn(&mut G) -> &mut f64 }
type Handler<G> = fn(&mut G, &Json) -> Reason;

/// A link of a game whose state is a `G`.
pub struct Link<G> { options: Options, numbers: Vec<Number<G>>, handlers: Vec<(String, Handler<G>)>, shared: Arc<Mutex<Shared>>, thread: Option<std::thread::JoinHandle<()>> }

impl<G> Link<G> {
    pub fn new(options: Options) -> Self {
        Link { options, numbers: Vec::new(), handlers: Vec::new(), shared: Arc::default(), thread: None }
    }
    /// Registers a number of the game: where it lies in its state, its parameter in the catalogue, and its range.
    pub fn watch(&mut self, name: &str, path: Option<&str>, range: Option<(f64, f64)>, at: fn(&mut G) -> &mut f64) {
        self.numbers.push(Number { name: name.into(), path: path.map(String::from), range, at });
    }
    /// Registers what the game can do: restart, place, pause (also run and step), tape. The handler returns why not, or None.
    pub fn on(&mut self, ability: &str, handler: Handler<G>) { self.handlers.push((ability.into(), handler)); }
    pub fn open(&mut self, game: &mut G) {
        self.describe(game);
        let mut can: Vec<String> = self.handlers.iter().map(|one| quoted(&one.0)).collect();
        if !self.numbers.is_empty() { can.push("\"set\"".into()); }
        let (options, shared, can) = (self.options.clone(), self.shared.clone(), can.join(","));
        self.thread = Some(std::thread::spawn(move || run(&options, &shared, &can)));
    }
    fn describe(&mut self, game: &mut G) {
        let each: Vec<String> = self.numbers.iter().map(|one| {
            let path = one.path.as_ref().map_or(String::new(), |path| format!(",\"path\":{}", quoted(path)));
            let range = one.range.map_or(String::new(), |(min, max)| format!(",\"min\":{min},\"max\":{max}"));
            format!("{{\"name\":{},\"value\":{}{path}{range}}}", quoted(&one.name), *(one.at)(game))
        }).collect();
        self.shared.lock().unwrap().parameters = each.join(",");
    }
    /// Records the row of a tick, with the changes of the hands in it (`"press":"right"`). Call once a tick, with rising ticks.
    pub fn row(&mut self, game: &mut G, values: &[f64], hands: &[&str]) {
        let is_asked = {
            let mut shared = self.shared.lock().unwrap();
            shared.rows.push_back(values.to_vec());
            for event in hands { shared.hands.push_back((values[0], event.to_string())); }
            if shared.rows.len() > KEPT {
                shared.rows.pop_front();
                shared.sent = shared.sent.saturating_sub(1);
                let first = shared.rows[0][0];
                while shared.hands.front().is_some_and(|one| one.0 < first) {
                    shared.hands.pop_front();
                    shared.sent_hands = shared.sent_hands.saturating_sub(1);
                }
            }
            !shared.inbox.is_empty()
        };
        if is_asked { self.poll(game); }
    }
    /// Carries out what was requested since the last call; `row` does it, a game that is paused calls it itself.
    pub fn poll(&mut self, game: &mut G) {
        let (asked, tick) = {
            let mut shared = self.shared.lock().unwrap();
            (std::mem::take(&mut shared.inbox), shared.rows.back().map_or(0.0, |row| row[0] + 1.0))
        };
        for message in asked {
            let id = message.get("id").and_then(Json::number).unwrap_or(0.0);
            let answer = match self.carry_out(game, &message) {
                None => format!("{{\"type\":\"done\",\"id\":{id},\"tick\":{tick}}}"),
                Some((name, why)) => format!("{{\"type\":\"refused\",\"id\":{id},{name}\"why\":{}}}", quoted(&why)),
            };
            self.describe(game);
            self.shared.lock().unwrap().outbox.push_back(answer);
        }
    }
    fn carry_out(&mut self, game: &mut G, message: &Json) -> Option<(String, String)> {
        let kind = message.get("type").map_or("", Json::text);
        if kind != "set" {
            let ability = if kind == "run" || kind == "step" { "pause" } else { kind };
            let Some(handler) = self.handlers.iter().find(|one| one.0 == ability) else { return Some((String::new(), "the game can’t do that".into())) };
            return (handler.1)(game, message).map(|why| (String::new(), why));
        }
        let Some(Json::Object(values)) = message.get("values") else { return None };
        for (name, value) in values {
            let named = format!("\"name\":{},", quoted(name));
            let Some(one) = self.numbers.iter().find(|one| one.name == *name) else { return Some((named, "no such number".into())) };
            match value.number() {
                Some(value) if one.range.is_none_or(|(min, max)| value >= min && value <= max) => *(one.at)(game) = value,
                _ => return Some((named, "not a value of this number".into())),
            }
        }
        None
    }
    /// Sends what is left, and says goodbye.
    pub fn close(&mut self) {
        self.shared.lock().unwrap().over = true;
        if let Some(thread) = self.thread.take() { let _ = thread.join(); }
    }
}

fn run(options: &Options, shared: &Mutex<Shared>, can: &str) {
    let (mut pause, mut session) = (Duration::from_millis(500), String::new());
    while !shared.lock().unwrap().over {
        if serve(options, shared, can, &mut session).is_ok() { return; }
        let mut state = shared.lock().unwrap();
        pause = if std::mem::take(&mut state.is_linked) { Duration::from_millis(400) } else { (pause * 3 / 2).min(Duration::from_secs(5)) };
        drop(state);
        let until = Instant::now() + pause;
        while Instant::now() < until && !shared.lock().unwrap().over { std::thread::sleep(Duration::from_millis(20)); }
    }
}

fn bad(why: &str) -> Error { Error::new(ErrorKind::InvalidData, why) }

fn serve(options: &Options, shared: &Mutex<Shared>, can: &str, session: &mut String) -> Result<()> {
    let address = (options.host.as_str(), options.port).to_socket_addrs()?.next().ok_or_else(|| bad("no such host"))?;
    let mut socket = TcpStream::connect_timeout(&address, Duration::from_secs(2))?;
    socket.set_nodelay(true)?;
    socket.set_read_timeout(Some(Duration::from_secs(2)))?;
    socket.set_write_timeout(Some(Duration::from_secs(2)))?;
    let token = options.token.as_ref().map_or(String::new(), |token| format!("Authorization: Bearer {token}\r\n"));
    write!(socket, "GET /api/v1/link HTTP/1.1\r\nHost: {}:{}\r\nUpgrade: websocket\r\nConnection: Upgrade\r\nSec-WebSocket-Key: enlnb3BvZC1saW5rLXYxIQ==\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Protocol: zygopod.link.v1\r\n{token}\r\n", options.host, options.port)?;
    let (mut head, mut byte) = (Vec::new(), [0u8]);
    while !head.ends_with(b"\r\n\r\n") && head.len() < 4096 { socket.read_exact(&mut byte)?; head.push(byte[0]); }
    if !head.starts_with(b"HTTP/1.1 101") { return Err(bad("no link here")); }
    let known = if session.is_empty() { String::new() } else { format!("\"session\":\"{session}\",") };
    let columns: Vec<String> = options.columns.iter().map(|one| quoted(one)).collect();
    let parameters = shared.lock().unwrap().parameters.clone();
    send(&mut socket, 1, format!("{{\"type\":\"hello\",\"protocol\":1,{known}\"game\":{},\"build\":{},\"hz\":{},\"unit\":\"{}\",\"yUp\":{},\"columns\":[{}],\"parameters\":[{parameters}],\"can\":[{can}]}}", quoted(&options.game), quoted(&options.build), options.hz, options.unit, options.y_up, columns.join(",")).as_bytes())?;
    let (mut input, mut chunk, mut more) = (Vec::new(), [0u8; 65536], false);
    loop {
        socket.set_read_timeout(Some(Duration::from_micros(if more { 1 } else { 2000 })))?;
        match socket.read(&mut chunk) {
            Ok(0) => return Err(bad("closed")),
            Ok(size) => input.extend_from_slice(&chunk[..size]),
            Err(error) if matches!(error.kind(), ErrorKind::WouldBlock | ErrorKind::TimedOut | ErrorKind::Interrupted) => (),
            Err(error) => return Err(error),
        }
        while let Some((opcode, data)) = frame(&mut input) {
            match opcode { 1 => hear(shared, &data, session), 9 => send(&mut socket, 10, &data)?, 8 => return Err(bad("closed")), _ => () }
        }
        let (said, rows, left, is_over) = due(shared);
        for answer in said { send(&mut socket, 1, answer.as_bytes())?; }
        if !rows.is_empty() { send(&mut socket, 1, rows.as_bytes())?; }
        more = left;
        if is_over && !more { return send(&mut socket, 1, b"{\"type\":\"bye\"}"); }
    }
}

/// The answers and the message of rows that are due, and whether there are more rows.
fn due(shared: &Mutex<Shared>) -> (VecDeque<String>, String, bool, bool) {
    let (said, rows, hands, more, is_over) = {
        let mut state = shared.lock().unwrap(); // only copies: the game's frame may wait for it
        if !state.is_linked { return (VecDeque::new(), String::new(), false, state.over); }
        let rows: Vec<Vec<f64>> = state.rows.range(state.sent..state.rows.len().min(state.sent + MOST)).cloned().collect();
        let last = rows.last().map_or(-1.0, |row| row[0]);
        let hands: Vec<(f64, String)> = state.hands.range(state.sent_hands..).take_while(|one| one.0 <= last).cloned().collect();
        state.sent += rows.len();
        state.sent_hands += hands.len();
        (std::mem::take(&mut state.outbox), rows, hands, state.sent < state.rows.len(), state.over)
    };
    if rows.is_empty() { return (said, String::new(), more, is_over); }
    let each: Vec<String> = rows.iter().map(|row| format!("[{}]", row.iter().map(f64::to_string).collect::<Vec<_>>().join(","))).collect();
    let events: Vec<String> = hands.iter().map(|(at, event)| format!("{{\"at\":{at},{event}}}")).collect();
    (said, format!("{{\"type\":\"rows\",\"rows\":[{}],\"hands\":[{}]}}", each.join(","), events.join(",")), more, is_over)
}

fn hear(shared: &Mutex<Shared>, data: &[u8], session: &mut String) {
    let Some(message) = Json::read(data, &mut 0) else { return };
    let mut state = shared.lock().unwrap();
    match message.get("type").map_or("", Json::text) {
        "welcome" => {
            let from = message.get("from").and_then(Json::number).unwrap_or(0.0);
            *session = message.get("session").map_or("", Json::text).into();
            state.sent = state.rows.partition_point(|row| row[0] < from);
            state.sent_hands = state.hands.partition_point(|one| one.0 < from);
            state.is_linked = true;
        }
        "problem" => (),
        _ => state.inbox.push(message),
    }
}

/// A frame of RFC 6455, masked with zeros: nothing between here and the server reads it.
fn send(socket: &mut TcpStream, opcode: u8, data: &[u8]) -> Result<()> {
    let mut out = vec![0x80 | opcode];
    if data.len() < 126 { out.push(0x80 | data.len() as u8); } else { out.push(0xfe); out.extend_from_slice(&(data.len() as u16).to_be_bytes()); }
    out.extend_from_slice(&[0; 4]);
    out.extend_from_slice(data);
    socket.write_all(&out)
}

/// Takes the first frame of the input, if it is whole.
fn frame(input: &mut Vec<u8>) -> Option<(u8, Vec<u8>)> {
    let short = (input.get(1)? & 127) as usize;
    let (size, begin) = if short < 126 { (short, 2) } else { (((*input.get(2)? as usize) << 8) | *input.get(3)? as usize, 4) };
    if input.len() < begin + size { return None; }
    let (opcode, data) = (input[0] & 15, input[begin..begin + size].to_vec());
    input.drain(..begin + size);
    Some((opcode, data))
}
