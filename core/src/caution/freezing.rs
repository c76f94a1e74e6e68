//! A hollow-fibre filter where it freezes: ice tears the fibres without showing. Limits: the low at or under 0 °C, as forecast; valleys
//! and clear nights are colder.

use super::{AT_HAND, Caution, CautionId, Level, Situation};

/// Raised at 0 °C and below, with a thing tagged `hollow_fibre`.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let of = situation.positions(&AT_HAND, |thing| thing.has("hollow_fibre"));
    if situation.trip.low_tenth_c > 0 || of.is_empty() {
        return Vec::new();
    }
    vec![Caution { of, ..Caution::new(CautionId::Freezing, Level::Amber) }]
}
