//! Places in the bag that another disc would make more of: twins, discs without a job, and any other.

use crate::disc::spec::{DiscId, Use};
use crate::verdict::board::TwinPair;
use crate::verdict::finding::scene::Change;
use crate::verdict::finding::{Action, Finding, FindingKind, OtherWay, Scene};
use crate::words::{percent, strokes};

fn missed(scene: &Scene, id: DiscId) -> f64 {
    scene.worths.iter().find(|w| w.disc_id == id).map_or(0.0, |w| w.missed_strokes)
}

fn brought(scene: &Scene, change: &Change) -> String {
    change.action.moves().0.map_or("", |id| scene.name(id)).to_owned()
}

/// Twins: one of the two could be something else.
pub(super) fn twins(scene: &Scene, taken: &[DiscId]) -> Vec<Finding> {
    let pairs = scene.board.lanes.iter().flat_map(|l| &l.twins).filter(|t| !t.on_purpose);
    let mut used: Vec<DiscId> = Vec::new();
    let mut found = Vec::new();
    for TwinPair { a, b, overlap, .. } in pairs {
        if used.contains(a) || used.contains(b) {
            continue;
        }
        let (less, more) = if missed(scene, *a) <= missed(scene, *b) { (*a, *b) } else { (*b, *a) };
        let Some(change) = scene.exchanging(less, taken) else { continue };
        used.extend([*a, *b]);
        found.push(Finding {
            key: format!("twins-{}-{}", a.0.min(b.0), a.0.max(b.0)),
            kind: FindingKind::Twins,
            title: format!("{} and {} are twins", scene.name(more), scene.name(less)),
            reason: format!(
                "Flat, on hyzer and on anhyzer their landings overlap at least {}: your own scatter hides the difference. Without {} you lose {}; {} in its place {}.",
                percent(*overlap),
                scene.name(less),
                strokes(missed(scene, less)),
                brought(scene, &change),
                change.told()
            ),
            action_label: change.label(),
            action: change.action,
            other: Some(OtherWay {
                label: "Keep it as a spare".into(),
                action: Action::MarkSpare { disc_id: less },
            }),
            disc_ids: vec![less, more],
            line_keys: vec![],
            saves_strokes: change.saves,
        });
    }
    found
}

/// Discs that are never the one to throw.
pub(super) fn no_job(scene: &Scene, taken: &[DiscId]) -> Vec<Finding> {
    let idle = scene.worths.iter().filter(|w| w.short.is_empty() && !scene.is_spare(w.disc_id));
    idle.filter(|w| scene.disc(w.disc_id).is_some_and(|d| d.spec.used_for == Use::Throwing))
        .filter_map(|w| {
            let change = scene.exchanging(w.disc_id, taken)?;
            Some(Finding {
                key: format!("no-job-{}", w.disc_id.0),
                kind: FindingKind::NoJob,
                title: format!("{} is never the one to throw", scene.name(w.disc_id)),
                reason: format!("{} {} in its place {}.", w.words, brought(scene, &change), change.told()),
                action_label: change.label(),
                action: change.action,
                other: None,
                disc_ids: vec![w.disc_id],
                line_keys: vec![],
                saves_strokes: change.saves,
            })
        })
        .collect()
}

/// The shelf disc that saves most, whatever it is for.
pub(super) fn better(scene: &Scene, taken: &[DiscId]) -> Vec<Finding> {
    let best = scene
        .bench()
        .filter(|d| !taken.contains(&d.id))
        .filter_map(|d| Some((d, scene.carrying(d.id, taken)?)))
        .max_by(|a, b| a.1.saves.total_cmp(&b.1.saves));
    best.map(|(disc, change)| Finding {
        key: format!("better-{}", disc.id.0),
        kind: FindingKind::Better,
        title: format!("{} would earn its place", disc.spec.name),
        reason: format!("Over the season {} {}.", change.doing(), change.told()),
        action_label: change.label(),
        action: change.action,
        other: None,
        disc_ids: vec![disc.id],
        line_keys: vec![],
        saves_strokes: change.saves,
    })
    .into_iter()
    .collect()
}
