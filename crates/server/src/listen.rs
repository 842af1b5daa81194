//! An instrument that says a line a reading over TCP, listened to as long as somebody has the listener: what it said last, how long ago,
//! and how good its lines are. Whatever comes from it changes nothing else.

use std::collections::VecDeque;
use std::io::{ErrorKind, Read};
use std::net::{SocketAddr, TcpStream, ToSocketAddrs};
use std::sync::{Arc, Mutex, PoisonError, Weak};
use std::thread::{sleep, spawn};
use std::time::{Duration, Instant};

use serde::Serialize;
use utoipa::ToSchema;

/// How long a connection may take, and the pause before the next try.
const CONNECT_TIME: Duration = Duration::from_secs(2);
const PAUSE: Duration = Duration::from_millis(700);
/// How long a line is waited for before it is looked whether anybody still listens.
const WAIT: Duration = Duration::from_millis(500);
/// Longest line that is read, bytes; of a longer one nothing is kept.
const LONGEST: usize = 512;
/// Latest lines by which the quality is told.
const LATEST: usize = 20;
/// An instrument that said nothing for so long is silent, and one that said nothing for so long is called anew: it may have gone
/// without hanging up.
const SILENT: Duration = Duration::from_secs(5);
const CALL_ANEW: Duration = Duration::from_secs(15);

/// What is known of an instrument.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Heard<T> {
    /// What it said last; null if nothing that could be read.
    pub reading: Option<T>,
    /// How long ago, s.
    pub age_s: Option<f64>,
    /// Share of its latest lines that could be read, 0 to 1; null before the first.
    pub quality: Option<f64>,
    /// How it is, in words.
    pub words: String,
}

impl<T> Heard<T> {
    /// The same of what follows from the reading.
    pub fn map<U>(self, to: impl FnOnce(T) -> U) -> Heard<U> {
        let Heard { reading, age_s, quality, words } = self;
        Heard { reading: reading.map(to), age_s, quality, words }
    }
}

struct State<T> {
    connected: bool,
    last: Option<(T, Instant)>,
    latest: VecDeque<bool>,
    wrong: String,
}

/// Listens to an instrument until it is dropped.
pub struct Listener<T>(Arc<Mutex<State<T>>>);

type ReadLine<T> = fn(&str) -> Result<T, String>;

impl<T: Copy + Send + 'static> Listener<T> {
    /// Begins to listen at an address, such as 127.0.0.1:4819.
    pub fn at(address: String, read: ReadLine<T>) -> Listener<T> {
        let state = State { connected: false, last: None, latest: VecDeque::new(), wrong: String::new() };
        let state = Arc::new(Mutex::new(state));
        let weak = Arc::downgrade(&state);
        spawn(move || listen(&address, read, &weak));
        Listener(state)
    }

    /// What is known of it.
    pub fn heard(&self) -> Heard<T> {
        let state = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let age = state.last.as_ref().map(|(_, at)| at.elapsed());
        let (good, all) = (state.latest.iter().filter(|g| **g).count(), state.latest.len());
        let words = match age {
            _ if !state.connected => "does not answer; is it switched on?".into(),
            None if all == 0 => "is silent".into(),
            None => format!("says nothing that can be read: {}", state.wrong),
            Some(age) if age > SILENT => format!("silent for {} s", age.as_secs()),
            Some(_) if good < all => {
                format!("{} of the last {all} lines could not be read: {}", all - good, state.wrong)
            }
            Some(_) => "good".into(),
        };
        Heard {
            reading: state.last.as_ref().map(|(reading, _)| *reading),
            age_s: age.map(|age| age.as_secs_f64()),
            quality: (all > 0).then(|| good as f64 / all as f64),
            words,
        }
    }
}

/// Does something to the state; nothing is left to do if nobody listens any more.
fn with<T>(weak: &Weak<Mutex<State<T>>>, change: impl FnOnce(&mut State<T>)) -> Option<()> {
    let state = weak.upgrade()?;
    change(&mut state.lock().unwrap_or_else(PoisonError::into_inner));
    Some(())
}

fn listen<T>(address: &str, read: ReadLine<T>, to: &Weak<Mutex<State<T>>>) -> Option<()> {
    loop {
        if let Some(mut stream) = connected(address) {
            with(to, |state| state.connected = true)?;
            if follow(&mut stream, read, to)? == Ended::Silent {
                continue;
            }
        }
        with(to, |state| state.connected = false)?;
        sleep(PAUSE);
    }
}

fn connected(address: &str) -> Option<TcpStream> {
    let there: Vec<SocketAddr> = address.to_socket_addrs().ok()?.collect();
    let stream = there.iter().find_map(|a| TcpStream::connect_timeout(a, CONNECT_TIME).ok())?;
    stream.set_read_timeout(Some(WAIT)).ok()?;
    Some(stream)
}

/// Why an instrument is no longer followed.
#[derive(PartialEq, Eq)]
enum Ended {
    /// It hung up.
    HungUp,
    /// It said nothing for long.
    Silent,
}

/// Reads lines until it ends; none if nobody listens any more.
fn follow<T>(from: &mut impl Read, read: ReadLine<T>, to: &Weak<Mutex<State<T>>>) -> Option<Ended> {
    let mut line: Vec<u8> = Vec::with_capacity(LONGEST);
    let mut overlong = false;
    let mut chunk = [0; 1024];
    let mut said_at = Instant::now();
    loop {
        let n = match from.read(&mut chunk) {
            Ok(0) => return Some(Ended::HungUp),
            Ok(n) => {
                said_at = Instant::now();
                n
            }
            Err(e)
                if matches!(
                    e.kind(),
                    ErrorKind::WouldBlock | ErrorKind::TimedOut | ErrorKind::Interrupted
                ) =>
            {
                0
            }
            Err(_) => return Some(Ended::HungUp),
        };
        if said_at.elapsed() > CALL_ANEW {
            return Some(Ended::Silent);
        }
        with(to, |_| ())?;
        for &byte in &chunk[..n] {
            if byte == b'\n' {
                let said = String::from_utf8_lossy(&line).into_owned();
                if !overlong && !said.trim().is_empty() {
                    with(to, |state| state.hears(read(&said)))?;
                }
                line.clear();
                overlong = false;
            } else if line.len() < LONGEST {
                line.push(byte);
            } else if !overlong {
                overlong = true;
                with(to, |state| state.hears(Err(format!("a line of more than {LONGEST} characters came"))))?;
            }
        }
    }
}

impl<T> State<T> {
    fn hears(&mut self, said: Result<T, String>) {
        self.latest.push_back(said.is_ok());
        if self.latest.len() > LATEST {
            self.latest.pop_front();
        }
        match said {
            Ok(reading) => self.last = Some((reading, Instant::now())),
            // What came is shown: nothing of it that shows nothing.
            Err(wrong) => self.wrong = wrong.chars().filter(|c| !c.is_control()).take(160).collect(),
        }
    }
}
