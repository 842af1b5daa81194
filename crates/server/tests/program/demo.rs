//! The demo scenario holds what it promises.

use zinc_kite::demo;
use zinc_kite::store::{BagId, Store};
use zinc_kite_bag::disc::spec::{Disc, Use};

fn shelf() -> (Vec<Disc>, usize) {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    (store.discs().unwrap(), store.bag(BagId(1)).unwrap().carried.len())
}

#[test]
fn the_demo_has_46_discs_of_three_makers_and_carries_19() {
    let (discs, carried) = shelf();
    assert_eq!((discs.len(), carried), (46, 19));
    let mut makers: Vec<&str> = discs.iter().map(|d| d.spec.maker.as_str()).collect();
    makers.sort_unstable();
    makers.dedup();
    assert_eq!(makers, ["Hobb & Tiller", "Orrery Works", "Saltmarsh"]);
    assert!(discs.iter().any(|d| d.spec.used_for == Use::Putting));
    assert!(discs.iter().any(|d| d.spec.used_for == Use::Utility));
}

/// Rim width goes with speed, within about a millimetre of common practice: 1.8 to 2.0 cm at speed 9, a millimetre a
/// unit of speed about it.
#[test]
fn trade_16_rim_width_goes_with_speed() {
    let (discs, _) = shelf();
    for d in discs.iter().filter(|d| (6.0..=11.0).contains(&d.spec.printed.speed)) {
        let rim = d.spec.rim_cm.unwrap();
        let usual = 1.9 + 0.1 * (d.spec.printed.speed - 9.0);
        assert!((rim - usual).abs() <= 0.15, "{}: {rim} cm at speed {}", d.spec.name, d.spec.printed.speed);
    }
}
