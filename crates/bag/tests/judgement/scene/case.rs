//! A bag to be judged.

use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::disc::spec::{Disc, DiscSpec, Use};
use zinc_kite_bag::disc::wear::Grade;
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::finding::Action;
use zinc_kite_bag::verdict::season::{SeasonVerdict, judge_season};
use zinc_kite_bag::verdict::standing::Question;
use zinc_kite_bag::verdict::work::{Progress, Work};

use super::{WORKED_OUT, disc, lines_of, spec, worn};

pub struct Case {
    pub player: Player,
    pub shelf: Vec<Disc>,
    pub bag: BagSpec,
    pub carried: Vec<Carried>,
    pub lines: Vec<Line>,
    pub memo: &'static Memo,
}

impl Case {
    pub fn of(player: Player, shelf: Vec<Disc>, carried: &[usize], capacity: u32) -> Case {
        let lines = lines_of(&player);
        let bag = BagSpec { name: "test".into(), capacity, event_cap_g: None };
        let carried = carried.iter().map(|&k| Carried { disc_id: shelf[k].id, spare: false }).collect();
        Case { player, shelf, bag, carried, lines, memo: &WORKED_OUT }
    }

    pub fn question(&self) -> Question<'_> {
        Question {
            player: &self.player,
            conditions: Conditions::default(),
            shelf: &self.shelf,
            bag: &self.bag,
            carried: &self.carried,
            lines: &self.lines,
            today: None,
        }
    }

    pub fn judge_or_stop(&self, stop: bool) -> Result<SeasonVerdict, BagError> {
        let work = Work::default();
        if stop {
            work.stop();
        }
        let verdict = judge_season(&self.question(), self.memo, &work);
        let Progress { done, of } = work.progress();
        assert!(done <= of && (verdict.is_err() || done == of), "{done} of {of}");
        verdict
    }

    pub fn judge(&self) -> SeasonVerdict {
        self.judge_or_stop(false).unwrap()
    }

    /// What a click does.
    pub fn press(&mut self, action: &Action) {
        let (carry, bench) = action.moves();
        self.carried.retain(|c| Some(c.disc_id) != bench);
        self.carried.extend(carry.map(|disc_id| Carried { disc_id, spare: false }));
    }
}

/// A shelf of every class, the understable and the overstable, some of it twice.
pub fn shelf() -> Vec<Disc> {
    let putting = DiscSpec { used_for: Use::Putting, ..spec(2.0, 3.0, 0.0, 1.0) };
    [
        putting.clone(),
        putting,
        spec(3.0, 3.0, 0.0, 1.0),
        spec(3.0, 3.0, 0.0, 3.0),
        spec(3.0, 4.0, -1.0, 0.0),
        spec(5.0, 4.0, -1.0, 1.0),
        spec(5.0, 4.0, 0.0, 3.0),
        spec(5.0, 5.0, -3.0, 0.0),
        spec(7.0, 5.0, 0.0, 2.0),
        spec(7.0, 4.0, 0.0, 4.0),
        spec(7.0, 5.0, -3.0, 1.0),
        spec(9.0, 5.0, -1.0, 2.0),
        spec(9.0, 4.0, 0.0, 4.0),
        spec(11.0, 5.0, -2.0, 2.0),
        spec(11.0, 5.0, -2.0, 2.0),
        spec(12.0, 5.0, -1.0, 3.0),
        spec(13.0, 5.0, 0.0, 4.0),
        worn(spec(5.0, 4.0, -1.0, 1.0), Grade::Beat),
    ]
    .into_iter()
    .enumerate()
    .map(|(k, s)| disc(k as i64 + 1, s))
    .collect()
}
