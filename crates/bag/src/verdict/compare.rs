//! Two bags of one shelf side by side: what differs, what each has of the lines and winds, in strokes.

use serde::Serialize;
use utoipa::ToSchema;

use crate::chance::memo::Memo;
use crate::disc::spec::{Disc, DiscId};
use crate::error::BagError;
use crate::need::line::Line;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::season::WeatherKind;
use crate::verdict::alike::apart;
use crate::verdict::board::{mass_g, moulds_of};
use crate::verdict::carried::{BagSpec, Carried};
use crate::verdict::ledger::{Ledger, Row, VERDICT};
use crate::verdict::school::moulds_strokes;
use crate::verdict::season::counted;
use crate::verdict::standing::Question;
use crate::verdict::work::Work;

/// A difference of chance that is told: less is within the grain of a chance.
const TOLD: f64 = 0.03;
/// A spare at home is one that flies within this of a carried disc, as [`crate::verdict::alike`] measures.
const FLIES_ALIKE: f64 = 1.2;

/// A line in a weather in which two bags do unlike.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LineDifference {
    /// The line.
    pub line_key: String,
    /// Its name.
    pub line_name: String,
    /// The weather.
    pub weather: WeatherKind,
    /// Chance of the first bag, 0 to 1.
    pub first: f64,
    /// Its disc.
    pub first_disc: Option<DiscId>,
    /// Chance of the second bag, 0 to 1.
    pub second: f64,
    /// Its disc.
    pub second_disc: Option<DiscId>,
    /// What the second saves on it against the first, strokes a round; negative if it leaves more.
    pub saves_strokes: f64,
}

/// Two bags side by side.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Comparison {
    /// Discs only in the first.
    pub only_first: Vec<DiscId>,
    /// Discs only in the second.
    pub only_second: Vec<DiscId>,
    /// Discs in both.
    pub both: Vec<DiscId>,
    /// What the first leaves over the season, strokes a round.
    pub first_leaves_strokes: f64,
    /// What the second leaves.
    pub second_leaves_strokes: f64,
    /// Mass of all discs of the first, g.
    pub first_mass_g: f64,
    /// Mass of all discs of the second, g.
    pub second_mass_g: f64,
    /// How many moulds the first is of.
    pub first_moulds: usize,
    /// How many the second is of.
    pub second_moulds: usize,
    /// What moulds cost in a round by the player's own dial, strokes: the first bag's, then the second's.
    pub first_moulds_strokes: f64,
    /// See [`Comparison::first_moulds_strokes`].
    pub second_moulds_strokes: f64,
    /// Lines and weathers in which they do unlike, what the second gains most first, what it loses most last.
    pub differences: Vec<LineDifference>,
}

/// A bag and what is in it.
pub struct Packed<'a> {
    /// Its size and the event's cap.
    pub bag: &'a BagSpec,
    /// What is in it.
    pub carried: &'a [Carried],
}

/// Holds two bags of one shelf against one another over the season. Both are read from one account, so that a disc that is in
/// both does the same in both. Another thread may ask `work` how far it is, or stop it.
///
/// # Errors
/// [`BagError`] for a value outside its range, [`BagError::Stopped`] after it was stopped.
pub fn compare(
    player: &Player,
    shelf: &[Disc],
    lines: &[Line],
    (first, second): (&Packed, &Packed),
    memo: &Memo,
    work: &Work,
) -> Result<Comparison, BagError> {
    let has = |bag: &Packed, id: DiscId| bag.carried.iter().any(|c| c.disc_id == id);
    let mut together = first.carried.to_vec();
    together.extend(second.carried.iter().filter(|c| !has(first, c.disc_id)));
    let everything = BagSpec::of_everything();
    let conditions = Conditions::default();
    let whole =
        Question { player, conditions, shelf, bag: &everything, carried: &together, lines, today: None };
    let ledger = Ledger::of(&whole, &VERDICT, memo, work)?;
    let columns = |p: &Packed| {
        let own = Question { player, conditions, shelf, bag: p.bag, carried: p.carried, lines, today: None };
        ledger.columns(&counted(&own, &ledger))
    };
    let (a, b) = (columns(first), columns(second));
    let differences = differences(&ledger, lines, &a, &b);
    let of = |want: (bool, bool)| -> Vec<DiscId> {
        shelf.iter().map(|d| d.id).filter(|&id| (has(first, id), has(second, id)) == want).collect()
    };
    let (first_moulds, second_moulds) = (moulds_of(shelf, first.carried), moulds_of(shelf, second.carried));
    Ok(Comparison {
        only_first: of((true, false)),
        only_second: of((false, true)),
        both: of((true, true)),
        first_leaves_strokes: ledger.leaves(&a),
        second_leaves_strokes: ledger.leaves(&b),
        first_mass_g: mass_g(shelf, first.carried),
        second_mass_g: mass_g(shelf, second.carried),
        first_moulds,
        second_moulds,
        first_moulds_strokes: moulds_strokes(player, first_moulds),
        second_moulds_strokes: moulds_strokes(player, second_moulds),
        differences,
    })
}

/// The lines and weathers in which two sets of an account's columns do unlike, what the second gains most first.
pub(crate) fn differences(ledger: &Ledger, lines: &[Line], a: &[usize], b: &[usize]) -> Vec<LineDifference> {
    let best = |row: &Row, columns: &[usize]| {
        let by = |x: &&usize, y: &&usize| row.chances[**x].total_cmp(&row.chances[**y]).then(y.cmp(x));
        columns.iter().max_by(by).filter(|c| row.chances[**c] > 0.0).map(|c| ledger.disc_ids[*c])
    };
    let mut differences: Vec<LineDifference> = ledger
        .rows
        .iter()
        .map(|row| LineDifference {
            line_key: lines[row.line].key.clone(),
            line_name: lines[row.line].spec.name.clone(),
            weather: row.weather,
            first: row.best(a),
            first_disc: best(row, a),
            second: row.best(b),
            second_disc: best(row, b),
            saves_strokes: row.strokes * (row.best(b) - row.best(a)),
        })
        .filter(|d| (d.second - d.first).abs() >= TOLD)
        .collect();
    differences.sort_by(|x, y| y.saves_strokes.total_cmp(&x.saves_strokes));
    differences
}

/// Whether one disc can stand in for another: it flies alike and is used alike.
pub(crate) fn flies_alike(a: &Disc, b: &Disc) -> bool {
    apart(a, b) <= FLIES_ALIKE
}

/// A carried disc and what could take its place.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Backup {
    /// The carried disc.
    pub disc_id: DiscId,
    /// Others in the bag that fly alike, the likest first.
    pub carried: Vec<DiscId>,
    /// Those at home that do.
    pub home: Vec<DiscId>,
    /// Copies of its mould at home that fly otherwise by now, the likest first.
    pub copies: Vec<DiscId>,
}

/// For every carried disc those that fly alike, in the bag and at home, each the likest first.
pub fn backups(shelf: &[Disc], carried: &[Carried]) -> Vec<Backup> {
    let is_carried = |id: DiscId| carried.iter().any(|c| c.disc_id == id);
    let at_hand = |d: &&Disc| d.spec.keeping.status.is_at_hand();
    let alike = |of: &Disc, in_bag: bool| -> Vec<DiscId> {
        let others = shelf.iter().filter(at_hand).filter(|d| d.id != of.id && is_carried(d.id) == in_bag);
        let mut near: Vec<(f64, DiscId)> =
            others.map(|d| (apart(of, d), d.id)).filter(|(far, _)| *far <= FLIES_ALIKE).collect();
        near.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
        near.into_iter().map(|(_, id)| id).collect()
    };
    let copies = |of: &Disc| -> Vec<DiscId> {
        let same = |d: &&Disc| d.spec.maker == of.spec.maker && d.spec.mould == of.spec.mould;
        let others = shelf.iter().filter(at_hand).filter(same).filter(|d| !is_carried(d.id));
        let mut far: Vec<(f64, DiscId)> =
            others.map(|d| (apart(of, d), d.id)).filter(|(far, _)| *far > FLIES_ALIKE).collect();
        far.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
        far.into_iter().map(|(_, id)| id).collect()
    };
    shelf
        .iter()
        .filter(|d| is_carried(d.id))
        .map(|d| Backup { disc_id: d.id, carried: alike(d, true), home: alike(d, false), copies: copies(d) })
        .collect()
}

/// The bag of backups: for every carried disc the likest at home, then for those without one a copy of their mould; none twice.
pub fn bag_of_backups(backups: &[Backup]) -> Vec<DiscId> {
    let mut taken: Vec<DiscId> = Vec::new();
    let mut without = Vec::new();
    for backup in backups {
        match backup.home.iter().find(|id| !taken.contains(id)) {
            Some(id) => taken.push(*id),
            None => without.push(backup),
        }
    }
    for backup in without {
        taken.extend(backup.copies.iter().copied().find(|id| !taken.contains(id)));
    }
    taken
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::disc::keeping::Status;
    use crate::disc::spec::{DiscSpec, Numbers};

    fn disc(id: i64, turn: f64) -> Disc {
        let printed = Numbers { speed: 7.0, glide: 5.0, turn, fade: 2.0 };
        Disc { id: DiscId(id), spec: DiscSpec::plain("Hobb & Tiller", "Purlin", printed) }
    }

    #[test]
    fn prop_a_backup_flies_alike_is_at_hand_and_takes_one_place() {
        let mut shelf = vec![disc(1, 0.0), disc(2, -0.1), disc(3, 0.05), disc(4, -3.0), disc(5, 0.02)];
        shelf[4].spec.keeping.status = Status::Lent;
        let carried = [1, 2].map(|id| Carried { disc_id: DiscId(id), spare: false });
        let found = backups(&shelf, &carried);
        assert_eq!(found[0].carried, [DiscId(2)]);
        assert_eq!(found[0].home, [DiscId(3)], "neither one that flies otherwise nor one that is lent");
        assert_eq!(found[1].home, [DiscId(3)]);
        assert_eq!(found[1].copies, [DiscId(4)], "of its mould, but it turns over");
        assert_eq!(bag_of_backups(&found), [DiscId(3), DiscId(4)]);
    }
}
