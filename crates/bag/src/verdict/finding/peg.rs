//! Pegs: wanted ones that stand empty, and discs that wear has moved off theirs.

use crate::disc::spec::{Disc, DiscId};
use crate::verdict::finding::scene::Change;
use crate::verdict::finding::{Finding, FindingKind, Scene};
use crate::words::{degrees, percent};

/// Wear from which a disc can be said to have worn out of its peg.
const WORN: f64 = 0.25;

/// Of the free discs that `sits` holds for, the one whose carrying saves most.
fn best<'a>(scene: &'a Scene, taken: &[DiscId], sits: impl Fn(&&Disc) -> bool) -> Option<(&'a Disc, Change)> {
    scene
        .bench()
        .filter(|d| !taken.contains(&d.id))
        .filter(sits)
        .filter_map(|d| Some((d, scene.carrying(d.id, taken)?)))
        .max_by(|a, b| a.1.saves.total_cmp(&b.1.saves))
}

/// Discs that wear has moved off the peg they filled when fresh, where another sits on it.
pub(super) fn worn_out(scene: &Scene, taken: &[DiscId]) -> Vec<Finding> {
    let mut found = Vec::new();
    for puck in scene.board.pucks().filter(|p| p.wear_share >= WORN && p.peg.is_some()) {
        let fresh = scene.fresh_pucks.iter().find(|p| p.disc_id == puck.disc_id);
        let (Some(disc), Some(was), Some(now)) =
            (scene.disc(puck.disc_id), fresh.and_then(|f| f.peg), puck.peg)
        else {
            continue;
        };
        if was >= now {
            continue;
        }
        let slot = scene.lane(disc);
        let sits = |d: &&Disc| scene.lane(d) == slot && scene.peg(d.id) == Some(was);
        let Some((successor, change)) = best(scene, taken, sits) else { continue };
        let name = &disc.spec.name;
        found.push(Finding {
            key: format!("worn-{}", disc.id.0),
            kind: FindingKind::WornOut,
            title: format!("{name} has worn out of its peg"),
            reason: format!(
                "Fresh it was a {} at {} of finish; {} worn it is a {} at {}. {} sits there now: carrying it {}.",
                was.label(),
                degrees(fresh.map_or(0.0, |f| f.bend.finish_deg)),
                percent(puck.wear_share),
                now.label(),
                degrees(puck.bend.finish_deg),
                successor.spec.name,
                change.told()
            ),
            action_label: change.label(),
            action: change.action,
            other: None,
            disc_ids: vec![disc.id, successor.id],
            line_keys: vec![],
            saves_strokes: change.saves,
        });
    }
    found
}

/// Wanted pegs without a disc that something on the shelf would fill.
pub(super) fn empty_pegs(scene: &Scene, taken: &[DiscId]) -> Vec<Finding> {
    let mut found = Vec::new();
    for lane in &scene.board.lanes {
        for socket in lane.sockets.iter().filter(|s| s.wanted && s.disc_ids.is_empty()) {
            let sits = |d: &&Disc| scene.lane(d) == lane.slot && scene.peg(d.id) == Some(socket.peg);
            let Some((disc, change)) = best(scene, taken, sits) else { continue };
            let finish = scene.puck(disc.id).map_or(0.0, |p| p.bend.finish_deg);
            found.push(Finding {
                key: format!("empty-{}-{}", lane.label, socket.label),
                kind: FindingKind::EmptyPeg,
                title: format!("No {} among the {}", socket.label, lane.label),
                reason: format!(
                    "No carried {} disc {} at your arm. {} finishes at {}; {} {}.",
                    lane.label,
                    socket.meaning,
                    disc.spec.name,
                    degrees(finish),
                    change.doing(),
                    change.told()
                ),
                action_label: change.label(),
                action: change.action,
                other: None,
                disc_ids: vec![disc.id],
                line_keys: vec![],
                saves_strokes: change.saves,
            });
        }
    }
    found
}
