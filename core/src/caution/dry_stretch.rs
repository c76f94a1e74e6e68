//! The water that the longest stretch and a dry camp take, against what the containers hold. Half a litre an hour is a rule of thumb for
//! mild weather, three quarters above 25 °C; heat, height and effort ask for more.

use super::{COMING, Caution, CautionId, Level, Situation};
use crate::list::Thing;

const JOB: &str = "water_carried";

/// Raised where the containers don't hold it.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let (takes, holds) = (situation.supplies.water_ml, situation.sum(JOB, &COMING));
    let caution = || Caution {
        of: situation.positions(&COMING, helps),
        ..Caution::new(CautionId::DryStretch, Level::Amber).figures(holds, takes, takes - holds)
    };
    (takes > holds).then(caution).into_iter().collect()
}

/// Millilitres that the containers hold.
pub(super) fn found(situation: &Situation<'_>) -> Option<i64> {
    Some(situation.sum(JOB, &COMING))
}

pub(super) fn helps(thing: &Thing) -> bool {
    thing.provides(JOB) > 0
}
