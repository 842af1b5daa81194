//! Whether a disc feels as its player likes discs to feel. What is off is told, never forbidden.

use crate::disc::mould::MouldSpec;
use crate::disc::spec::{DiscSpec, Use};
use crate::thrower::habits::{Feel, HandUse, Stiffness};
use crate::thrower::player::Player;

/// A rim that differs by no more than this feels the same, cm. Common practice, no source.
pub const SAME_CM: f64 = 0.1;

/// What a disc is held for.
pub fn hand_use(disc: &DiscSpec) -> Option<HandUse> {
    match disc.used_for {
        Use::Putting => Some(HandUse::Putting),
        Use::Throwing | Use::Utility => HandUse::of_thrown(disc.slot()),
    }
}

/// What is unlike the player's wish, each in words; nothing where nothing is wished or measured.
pub fn off(player: &Player, disc: &DiscSpec, mould: Option<&MouldSpec>) -> Vec<String> {
    let Some(wish) = hand_use(disc).and_then(|used| player.habits.feel.iter().find(|f| f.used == used))
    else {
        return vec![];
    };
    let Feel { used, rim_cm, rim_depth_cm, bead, thumb_track, stiffness } = *wish;
    let measure = |what: &str, is: Option<f64>, wished: Option<f64>| {
        let (is, wished) = (is?, wished?);
        let off = is - wished;
        let told = format!("{what} {is:.1} cm; you like {wished:.1} cm to {}", used.label());
        (off.abs() > SAME_CM + 1e-9).then_some(told)
    };
    let part = |what: &str, is: Option<bool>, wished: Option<bool>| {
        let (is, wished) = (is?, wished?);
        let (has, like) = if is { ("a", "without") } else { ("no", "with") };
        (is != wished).then(|| format!("{has} {what}; you like to {} {like}", used.label()))
    };
    let feels = Stiffness::of_softness(disc.plastic.facts().softness);
    let stiff = stiffness
        .filter(|wished| *wished != feels)
        .map(|wished| format!("{} plastic; you like {} to {}", feels.label(), wished.label(), used.label()));
    [
        measure("rim", disc.rim_cm.or(mould.and_then(|m| m.rim_cm)), rim_cm),
        measure("rim depth", mould.and_then(|m| m.rim_depth_cm), rim_depth_cm),
        part("bead", mould.and_then(|m| m.bead), bead),
        part("thumb track", mould.and_then(|m| m.thumb_track), thumb_track),
        stiff,
    ]
    .into_iter()
    .flatten()
    .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::disc::spec::Numbers;
    use crate::thrower::habits::Habits;
    use rstest::rstest;

    const NUMBERS: Numbers = Numbers { speed: 7.0, glide: 5.0, turn: -1.0, fade: 2.0 };

    fn wishing(feel: Feel) -> Player {
        Player { habits: Habits { feel: vec![feel], ..Habits::default() }, ..Player::default() }
    }

    fn wish(used: HandUse) -> Feel {
        Feel { used, rim_cm: None, rim_depth_cm: None, bead: None, thumb_track: None, stiffness: None }
    }

    /// One who likes a rim is served by another within 0.1 cm of it. Common practice, no source.
    #[rstest]
    #[case(1.8, false)]
    #[case(1.7, false)]
    #[case(1.9, false)]
    #[case(1.91, true)]
    #[case(1.6, true)]
    fn trade_a_rim_more_than_a_millimetre_off_is_told(#[case] rim_cm: f64, #[case] told: bool) {
        let player = wishing(Feel { rim_cm: Some(1.8), ..wish(HandUse::Fairways) });
        let disc = DiscSpec { rim_cm: Some(rim_cm), ..DiscSpec::plain("Saltmarsh", "Teasel", NUMBERS) };
        assert_eq!(!off(&player, &disc, None).is_empty(), told);
    }

    #[test]
    fn prop_a_wish_for_one_use_says_nothing_of_another_nor_of_what_is_not_measured() {
        let mould = MouldSpec {
            bead: Some(true),
            rim_depth_cm: Some(1.2),
            thumb_track: Some(false),
            ..MouldSpec::named("Saltmarsh", "Teasel", NUMBERS)
        };
        let disc = DiscSpec::plain("Saltmarsh", "Teasel", NUMBERS);
        let all = |used| Feel {
            used,
            rim_cm: Some(1.0),
            rim_depth_cm: Some(1.6),
            bead: Some(false),
            thumb_track: Some(true),
            stiffness: Some(Stiffness::Soft),
        };
        let told = off(&wishing(all(HandUse::Fairways)), &disc, Some(&mould));
        assert_eq!(
            told,
            [
                "rim depth 1.2 cm; you like 1.6 cm to throw fairway drivers",
                "a bead; you like to throw fairway drivers without",
                "no thumb track; you like to throw fairway drivers with",
                "medium plastic; you like soft to throw fairway drivers"
            ]
        );
        assert_eq!(off(&wishing(all(HandUse::Fairways)), &disc, None).len(), 1, "only its plastic is known");
        assert!(off(&wishing(all(HandUse::Putting)), &disc, Some(&mould)).is_empty());
        let putter = DiscSpec { used_for: Use::Putting, ..disc };
        assert_eq!(off(&wishing(all(HandUse::Putting)), &putter, Some(&mould)).len(), 4);
    }
}
