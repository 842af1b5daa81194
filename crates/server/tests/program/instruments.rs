//! Instruments that say lines: what is heard of them, whatever they say.

use std::sync::mpsc::channel;
use std::time::{Duration, Instant};

use rstest::rstest;
use zinc_kite::format::{nmea, rangefinder};
use zinc_kite::instrument::lines::{LineFault, Said};
use zinc_kite::instrument::rangefinder::{RangefinderStandIn, run as run_rangefinder};
use zinc_kite::instrument::wind_meter::{WindMeterStandIn, run as run_wind_meter};
use zinc_kite::listen::{Heard, Listener};

const OFTEN_MS: u64 = 20;

fn beam(said: Said) -> String {
    let (tell, told) = channel();
    let of = RangefinderStandIn::saying(said);
    std::thread::spawn(move || run_rangefinder(of, |at| Ok(tell.send(at.to_owned())?)).unwrap());
    told.recv().unwrap()
}

fn wind(said: Said) -> String {
    let (tell, told) = channel();
    let of = WindMeterStandIn::saying(said);
    std::thread::spawn(move || run_wind_meter(of, |at| Ok(tell.send(at.to_owned())?)).unwrap());
    told.recv().unwrap()
}

/// What is heard once something is so.
fn once<T: Copy + Send + 'static>(of: &Listener<T>, what: &str, is: impl Fn(&Heard<T>) -> bool) -> Heard<T> {
    let start = Instant::now();
    loop {
        let heard = of.heard();
        if is(&heard) {
            return heard;
        }
        assert!(start.elapsed() < Duration::from_secs(20), "{what}: never so, {}", heard.words);
        std::thread::sleep(Duration::from_millis(20));
    }
}

#[test]
fn what_is_said_is_heard_with_its_age_and_quality() {
    let (beam, wind) = (beam(Said::on(0, OFTEN_MS)), wind(Said::on(0, OFTEN_MS)));
    let shots = Listener::at(beam, rangefinder::read);
    let heard = once(&shots, "heard", |h| h.reading.is_some());
    let shot = heard.reading.unwrap();
    assert!((shot.distance_m - 84.0).abs() < 3.0 && (shot.bearing_deg - 230.0).abs() < 3.0, "{shot:?}");
    assert!(heard.age_s.unwrap() < 5.0);
    assert_eq!((heard.quality, heard.words.as_str()), (Some(1.0), "good"));
    let winds = Listener::at(wind, nmea::read);
    let said = once(&winds, "heard", |h| h.reading.is_some()).reading.unwrap();
    assert!((2.0..9.0).contains(&said.wind_m_s) && (50.0..80.0).contains(&said.from_deg), "{said:?}");
}

/// Whatever comes, nothing changes but the quality and what is said of it; right lines among wrong ones are heard.
#[rstest]
#[case(LineFault::Garbage, true, "could not be read")]
#[case(LineFault::HalfLines, true, "")]
#[case(LineFault::DropOuts, true, "")]
#[case(LineFault::Absurd, false, "distance_m")]
#[case(LineFault::Flood, false, "more than 512 characters")]
#[case(LineFault::Silence, false, "silent")]
fn prop_a_rangefinder_that_misbehaves_changes_only_its_quality(
    #[case] fault: LineFault,
    #[case] is_heard: bool,
    #[case] words: &str,
) {
    let shots = Listener::at(beam(Said::on(0, OFTEN_MS).failing(fault)), rangefinder::read);
    let heard = once(&shots, "told", |h| h.reading.is_some() == is_heard && h.words.contains(words));
    assert!(heard.reading.is_none_or(|s| (s.distance_m - 84.0).abs() < 3.0), "{heard:?}");
    let wrong = matches!(fault, LineFault::Garbage | LineFault::Absurd | LineFault::Flood);
    assert_eq!(heard.quality.is_some_and(|q| q < 1.0), wrong, "{heard:?}");
}

#[test]
fn prop_a_wrong_checksum_is_no_wind() {
    let winds = Listener::at(wind(Said::on(0, OFTEN_MS).failing(LineFault::WrongChecksums)), nmea::read);
    let heard = once(&winds, "half", |h| h.quality.is_some_and(|q| (0.4..0.6).contains(&q)));
    assert!(heard.words.contains("checksum") && heard.reading.is_some(), "{heard:?}");
}

/// An instrument that is switched off and on again is heard again.
#[test]
fn it_is_heard_again_after_a_loss() {
    use std::io::Write;
    let listener = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let address = listener.local_addr().unwrap().to_string();
    let shots = Listener::at(address, rangefinder::read);
    let say = |distance_m: f64| {
        let (mut to, _) = listener.accept().unwrap();
        let shot = rangefinder::Shot { distance_m, bearing_deg: 10.0, slope_deg: 0.0 };
        to.write_all(rangefinder::write(&shot).as_bytes()).unwrap();
        to
    };
    drop(say(50.0));
    let first = once(&shots, "lost", |h| h.reading.is_some() && h.words.contains("does not answer"));
    assert_eq!(first.reading.unwrap().distance_m, 50.0, "what was said last stays, with its age");
    let _open = say(60.0);
    once(&shots, "again", |h| h.reading.is_some_and(|s| s.distance_m == 60.0) && h.words == "good");
}
