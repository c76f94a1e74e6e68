//! What a swap changes of warmth, ground insulation and drinking water beside its grams: so that warm grams and cold grams are told apart.

use super::Candidate;
use crate::gear::{Facts, done_with};
use crate::list::Thing;

/// What is gained where a figure is above 0, and lost where it is below.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Gains {
    /// How much colder it is still comfortable, in tenths of a degree: of the warmest bed, quilt or underquilt that comes off against the warmest
    /// that goes on. `None` where either side has none that is rated.
    pub warmth: Option<i64>,
    /// Tenths of R between the back and the ground.
    pub ground: i64,
    /// Millilitres of drinking water that can be carried.
    pub water: i64,
}

impl Gains {
    /// Of a swap that takes pieces of some things off and puts pieces of some candidates on.
    pub fn of(gone: &[(&Thing, u32)], come: &[(&Candidate, u32)]) -> Gains {
        let comfort = |facts: Facts| Some(facts.rating?.comfort_and_limit()?.0);
        let before = gone.iter().filter_map(|(thing, _)| comfort(thing.facts)).min();
        let after = come.iter().filter_map(|(candidate, _)| comfort(candidate.facts)).min();
        let change = |job: &str| {
            let gone = gone.iter().map(|(thing, pieces)| thing.provides(job).saturating_mul(i64::from(*pieces)));
            let come = come.iter().map(|(candidate, pieces)| {
                let one = done_with(&candidate.provides, &candidate.tags).get(job).copied().unwrap_or_default();
                one.saturating_mul(i64::from(*pieces))
            });
            let sum = |all: &mut dyn Iterator<Item = i64>| all.fold(0, i64::saturating_add);
            sum(&mut { come }).saturating_sub(sum(&mut { gone }))
        };
        Gains {
            warmth: before.zip(after).map(|(before, after)| before - after),
            ground: change("ground_insulation"),
            water: change("water_carried"),
        }
    }
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used)]
    use super::*;
    use crate::gear::{Gear, Identity, Job, Jobs, Makers, Name, Rating, RatingKind, Tags};
    use crate::list::{Carrier, Counts, LineId, Place};
    use crate::quantity::Temperature;

    fn facts(kind: RatingKind, tenths: i64) -> Facts {
        Facts { rating: Some(Rating { kind, at: Temperature::from_tenths(tenths) }), ..Facts::default() }
    }

    fn owned(facts: Facts, job: &str, amount: i64) -> Thing {
        let mut gear = Gear::named(Name::new("old").unwrap());
        (gear.facts, gear.provides) = (facts, Jobs::from([(Job::new(job).unwrap(), amount)]));
        let counts = Counts::in_place(Place::Carried, 2);
        Thing::owned(LineId(String::new()), &gear, counts, Carrier::Own(0), &Makers::default())
    }

    fn new(facts: Facts, job: &str, amount: i64) -> Candidate {
        Candidate {
            name: Name::new("new").unwrap(),
            weight: None,
            price: None,
            seen: None,
            offer: None,
            provides: Jobs::from([(Job::new(job).unwrap(), amount)]),
            needs: Jobs::new(),
            facts,
            tags: Tags::default(),
            identity: Identity::default(),
        }
    }

    #[test]
    fn warmth_ground_and_water_are_told_apart() {
        // Limit −5 °C is comfort 0.5; comfort −2 is 2.5 °C warmer.
        let bag = owned(facts(RatingKind::Limit, -50), "sleep_insulation", 1);
        let quilt = new(facts(RatingKind::Comfort, -20), "sleep_insulation", 1);
        assert_eq!(Gains::of(&[(&bag, 1)], &[(&quilt, 1)]), Gains { warmth: Some(25), ground: 0, water: 0 });
        let unrated = new(Facts::default(), "sleep_insulation", 1);
        assert_eq!(Gains::of(&[(&bag, 1)], &[(&unrated, 1)]).warmth, None);
        let (pad, thin) =
            (owned(Facts::default(), "ground_insulation", 31), new(Facts::default(), "ground_insulation", 20));
        assert_eq!(Gains::of(&[(&pad, 1)], &[(&thin, 1)]).ground, -11);
        let (hard, soft) =
            (owned(Facts::default(), "water_carried", 1_000), new(Facts::default(), "water_carried", 500));
        assert_eq!(Gains::of(&[(&hard, 2)], &[(&soft, 3)]).water, -500);
        assert_eq!(Gains::of(&[(&hard, 1)], &[]).water, -1_000);
    }
}
