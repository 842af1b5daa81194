//! Breaches of rules: a disc over the event's cap, more discs than the bag holds.

use crate::disc::spec::{Disc, DiscId};
use crate::verdict::finding::{Action, Finding, FindingKind, Scene};
use crate::words::strokes;

/// How nearly one disc does another's job: 2 for the same mould on the same peg, 1 for the same peg.
fn likeness(scene: &Scene, a: &Disc, b: &Disc) -> u8 {
    match (scene.peg(a.id) == scene.peg(b.id), a.spec.mould == b.spec.mould) {
        (true, true) => 2,
        (true, false) => 1,
        (false, _) => 0,
    }
}

/// A disc over the cap counts for nothing: whatever comes for it saves.
pub(super) fn over_cap(scene: &Scene, _: &[DiscId]) -> Vec<Finding> {
    let Some(cap) = scene.q.bag.event_cap_g else { return vec![] };
    let heavy = scene.q.shelf.iter().filter(|d| scene.carried(d.id) && !scene.q.bag.allows(&d.spec));
    heavy
        .map(|disc| {
            let substitute = scene
                .bench()
                .filter(|d| scene.lane(d) == scene.lane(disc) && d.spec.used_for == disc.spec.used_for)
                .map(|d| (d, likeness(scene, d, disc), scene.saves(Some(d.id), Some(disc.id))))
                .max_by(|a, b| a.1.cmp(&b.1).then(a.2.total_cmp(&b.2)));
            let name = &disc.spec.name;
            let (action, action_label, saves_strokes, instead) = match substitute {
                Some((d, _, saves)) => (
                    Action::Swap { carry: d.id, bench: disc.id },
                    format!("Carry {} instead", d.spec.name),
                    saves,
                    format!(" {} ({:.0} g) comes nearest to its job.", d.spec.name, d.spec.mass_g),
                ),
                None => (
                    Action::Bench { disc_id: disc.id },
                    format!("Bench {name}"),
                    0.0,
                    " Nothing on the shelf under the cap does its job.".into(),
                ),
            };
            Finding {
                key: format!("over-cap-{}", disc.id.0),
                kind: FindingKind::OverCap,
                title: format!("{name} is over the event's weight cap"),
                reason: format!(
                    "It weighs {:.0} g and the cap is {cap:.0} g; the event's own rules decide.{instead}",
                    disc.spec.mass_g
                ),
                action_label,
                action,
                other: None,
                disc_ids: vec![disc.id],
                line_keys: vec![],
                saves_strokes,
            }
        })
        .collect()
}

/// Discs beyond what the bag holds count for nothing: the one missed least goes.
pub(super) fn over_full(scene: &Scene, _: &[DiscId]) -> Vec<Finding> {
    let (n, capacity) = (scene.q.carried.len(), scene.q.bag.capacity);
    let beyond = scene.q.allowed().into_iter().find(|id| !scene.counted.contains(id));
    match beyond {
        Some(id) if n as u32 > capacity => vec![Finding {
            key: "over-full".into(),
            kind: FindingKind::OverFull,
            title: format!("{n} discs in a bag for {capacity}"),
            reason: format!(
                "{} is missed least: without it the bag leaves {} a round more.",
                scene.name(id),
                strokes(scene.saves(Some(id), None).max(0.0))
            ),
            action_label: format!("Bench {}", scene.name(id)),
            action: Action::Bench { disc_id: id },
            other: None,
            disc_ids: vec![id],
            line_keys: vec![],
            saves_strokes: 0.0,
        }],
        _ => vec![],
    }
}
