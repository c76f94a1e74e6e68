//! Where light turns unsafe: what a list does about cold, thirst, getting lost, snow, flame and load, against what the trip asks.
//!
//! A caution says what was found and what it was held against; it never says that anything is safe. One file a rule, each with its
//! source and its limits. [`cautions`] are those of the rules' section 8 that follow from figures alone; [`reminders`] are said
//! whatever the figures.

mod animals;
mod body_load;
mod cold_back;
mod cold_ground;
mod cold_night;
mod dry_stretch;
mod essentials;
mod flame;
mod freezing;
mod known;
mod load;
mod reminders;
mod room;
mod snow;
mod warmth;
mod water_treatment;

#[cfg(test)]
mod tests;

pub use known::KnownCaution;
pub use reminders::{Behind, reminders};

use crate::gear::{Job, Jobs};
use crate::list::{Place, Thing, balance, count_jobs};
use crate::quantity::Mass;
use crate::trip::{Days, Held, Supplies, Trip, day_by_day};
pub(crate) use cold_ground::asked as ground_asked;
use serde::{Deserialize, Serialize};
pub(crate) use warmth::{HAMMOCK, UNDERQUILT};

/// Declares the cautions once: variant, key, the measure of its figures, and where its rule comes from.
macro_rules! ids {
    ($($variant:ident $key:literal $measure:ident $source:literal,)*) => {
        /// What a caution is about.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        #[serde(rename_all = "snake_case")]
        pub enum CautionId { $(#[doc = $source] $variant,)* }

        impl CautionId {
            /// The word it is known by in files and answers.
            pub fn key(self) -> &'static str {
                match self { $(CautionId::$variant => $key,)* }
            }

            /// What its figures count.
            pub fn measure(self) -> Measure {
                match self { $(CautionId::$variant => Measure::$measure,)* }
            }

            /// Where its rule comes from, in a sentence.
            pub fn source(self) -> &'static str {
                match self { $(CautionId::$variant => $source,)* }
            }
        }
    };
}

// In the order of their keys, which is the order in which they are told.
ids! {
    Animals "animals" None "Where a container is compulsory, local rules decide; a bag is not a container.",
    Assumed "assumed" Job "A figure that such things usually have, and that nobody has confirmed of this one.",
    BodyLoad "body_load" Mass "A share of body weight, a fifth unless you say otherwise: a common rule of thumb for loads carried for days.",
    ColdBack "cold_back" TenthC "In a hammock the underquilt keeps the back warm. Ratings are for an average sleeper.",
    ColdGround "cold_ground" TenthR "R of all pads added up, against steps that are a rule of thumb for three-season use.",
    ColdNight "cold_night" TenthC "Comfort and limit as bags are rated on a warm enough pad; a rating that doesn't say what it is counts as a limit, with comfort 5.5 °C above it (rule of thumb).",
    DryStretch "dry_stretch" Ml "Half a litre for each hour of walking, three quarters above 25 °C, unless you say otherwise.",
    Essentials "essentials" Job "Jobs that most accident reports wish somebody had done. Nothing on the list does them.",
    Flame "flame" None "No stove inside a closed shelter; gas and lighters are restricted on flights; fire bans are local law.",
    Freezing "freezing" None "Water left in hollow fibres tears them when it freezes, and nothing shows. Keep the filter in the sleeping bag.",
    Load "load" Mass "The load that the pack's maker, or you, call comfortable.",
    MadeGear "made_gear" None "A made shelter, pack or quilt is tried close to home first.",
    Medical "medical" None "Prescribed medicine and allergy injectors are never proposed for cutting.",
    Room "room" Ml "Packed sizes as far as they are known, against the pack.",
    Rules "rules" None "Permits, closures, containers, fires and drones: the local authority and the land manager decide.",
    SharedGear "shared_gear" Job "What one of you would lack if you were separated.",
    Snow "snow" None "Axe and traction need practice, and are not cut for weight where the trip has snow.",
    Untested "untested" None "Try new gear near home before a long trip.",
    WaterTreatment "water_treatment" Count "One way of treating water can break, freeze or run out.",
}

/// What the figures of a caution count.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Measure {
    /// It has none.
    None,
    /// Tenths of a degree Celsius.
    TenthC,
    /// Tenths of R.
    TenthR,
    /// Millilitres.
    Ml,
    /// Milligrams.
    Mass,
    /// Pieces.
    Count,
    /// The unit of the caution's job.
    Job,
}

/// How grave it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Level {
    /// Worth knowing; nothing was measured.
    Note,
    /// Short of what is comfortable or usual.
    Amber,
    /// Nothing says how warm it is.
    Unrated,
    /// Short of what is usually survived without harm.
    Red,
}

/// One caution.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Caution {
    /// What it is about.
    pub id: CautionId,
    /// How grave it is.
    pub level: Level,
    /// The job that it is about, if it is about one.
    pub job: Option<Job>,
    /// What was found, in the caution's measure.
    pub found: Option<i64>,
    /// What it was held against.
    pub against: Option<i64>,
    /// How much is lacking, or too much.
    pub short: Option<i64>,
    /// For the cold: the limit beside the comfort that was found.
    pub limit: Option<i64>,
    /// Whether comfort or limit was calculated by a rule of thumb.
    pub assumed: bool,
    /// Positions of the things behind the figure, the main one first.
    pub of: Vec<usize>,
}

impl Caution {
    fn new(id: CautionId, level: Level) -> Caution {
        Caution {
            id,
            level,
            job: None,
            found: None,
            against: None,
            short: None,
            limit: None,
            assumed: false,
            of: Vec::new(),
        }
    }

    /// With what was found, what it was held against, and how much is lacking.
    fn figures(self, found: i64, against: i64, short: i64) -> Caution {
        Caution { found: Some(found), against: Some(against), short: Some(short), ..self }
    }
}

/// Who sleeps and carries.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Sleeper {
    /// What is added to ratings: above 0 for who sleeps cold, in tenths of a degree.
    pub offset: i64,
    /// What the walker weighs; `None` if nobody said.
    pub body: Option<Mass>,
    /// The share of that above which a load is told, in percent; a fifth where nobody said.
    pub body_percent: Option<u32>,
}

/// The share of body weight above which a load is told where nobody says another, in percent.
pub const BODY_PERCENT: u32 = 20;

impl Sleeper {
    /// The share of body weight above which a load is told, in percent.
    pub fn body_percent(self) -> i64 {
        i64::from(self.body_percent.unwrap_or(BODY_PERCENT))
    }
}

/// A list and its trip, as far as cautions look at them.
#[derive(Debug, Clone)]
pub struct Situation<'a> {
    things: Vec<&'a Thing>,
    trip: &'a Trip,
    sleeper: Sleeper,
    supplies: Supplies,
    days: Days,
    /// What is asked of each job less what is done; below 0 where more is done.
    balance: Jobs,
}

/// Places of what is carried or worn.
const AT_HAND: [Place; 2] = [Place::Carried, Place::Worn];
/// Places of what comes along and does its jobs.
const COMING: [Place; 3] = Place::COUNTED;

impl<'a> Situation<'a> {
    /// Of a list. `carried` is what is in the pack that the load is asked of: all things, or those of one walker of several.
    pub fn new(
        things: &'a [Thing],
        carried: impl IntoIterator<Item = &'a Thing>,
        trip: &'a Trip,
        sleeper: Sleeper,
    ) -> Situation<'a> {
        let supplies = Supplies::of(trip);
        let days = day_by_day(carried, trip, &supplies);
        let balance = balance(things, &trip.requires);
        Situation { things: things.iter().collect(), trip, sleeper, supplies, days, balance }
    }

    /// What the trip takes.
    pub fn supplies(&self) -> &Supplies {
        &self.supplies
    }

    /// The pack day by day.
    pub fn days(&self) -> &Days {
        &self.days
    }

    /// What the things hold.
    pub fn held(&self) -> Held {
        Held::by(&self.things)
    }

    /// What the packs carry comfortably together; `None` if none says so.
    pub fn comfortable(&self) -> Option<Mass> {
        let grams = self.sum("load", &AT_HAND);
        (grams > 0).then(|| Mass::from_mg(grams.saturating_mul(1_000)))
    }

    /// The share of body weight above which a load is told; `None` where nobody says what they weigh.
    pub fn body_limit(&self) -> Option<Mass> {
        let body = self.sleeper.body?.mg();
        Some(Mass::from_mg(body.saturating_mul(self.sleeper.body_percent()) / 100))
    }

    /// The comfort of what is slept in, with all that warms it and the sleeper's offset, in tenths of a degree; `None` where nothing is rated.
    pub fn comfort(&self) -> Option<i64> {
        cold_night::found(self)
    }

    /// What the trip and the things ask of jobs beyond what the things do.
    pub fn shortfalls(&self) -> Jobs {
        self.balance.iter().filter(|(_, amount)| **amount > 0).map(|(job, amount)| (job.clone(), *amount)).collect()
    }

    /// The same with one more thing brought along.
    fn with(&self, thing: &'a Thing) -> Situation<'a> {
        let mut more = self.clone();
        more.things.push(thing);
        count_jobs(&mut more.balance, thing);
        more
    }

    fn sum(&self, job: &str, places: &[Place]) -> i64 {
        crate::list::job_sum(self.things.iter().copied(), job, places)
    }

    /// Positions of things with a piece in one of `places`.
    fn positions(&self, places: &[Place], which: impl Fn(&Thing) -> bool) -> Vec<usize> {
        let there = self.things.iter().enumerate().filter(|(_, thing)| thing.is_in(places) && which(thing));
        there.map(|(at, _)| at).collect()
    }
}

/// A rule: what it raises, the figure that it looks at, and whether a thing brought along could change that.
struct Rule {
    id: CautionId,
    raise: fn(&Situation<'_>) -> Vec<Caution>,
    found: fn(&Situation<'_>) -> Option<i64>,
    helps: fn(&Thing) -> bool,
}

/// For rules that look at no figure.
fn no_figure(_: &Situation<'_>) -> Option<i64> {
    None
}

/// For rules that nothing brought along can quiet.
fn nothing(_: &Thing) -> bool {
    false
}

/// Each rule, in the order of the cautions' keys.
const RULES: [Rule; 13] = [
    Rule { id: CautionId::Animals, raise: animals::raise, found: no_figure, helps: animals::helps },
    Rule { id: CautionId::BodyLoad, raise: body_load::raise, found: no_figure, helps: nothing },
    Rule { id: CautionId::ColdBack, raise: cold_back::raise, found: cold_back::found, helps: cold_back::helps },
    Rule { id: CautionId::ColdGround, raise: cold_ground::raise, found: cold_ground::found, helps: cold_ground::helps },
    Rule { id: CautionId::ColdNight, raise: cold_night::raise, found: cold_night::found, helps: cold_night::helps },
    Rule { id: CautionId::DryStretch, raise: dry_stretch::raise, found: dry_stretch::found, helps: dry_stretch::helps },
    Rule { id: CautionId::Essentials, raise: essentials::raise, found: no_figure, helps: essentials::helps },
    Rule { id: CautionId::Flame, raise: flame::raise, found: no_figure, helps: nothing },
    Rule { id: CautionId::Freezing, raise: freezing::raise, found: no_figure, helps: nothing },
    Rule { id: CautionId::Load, raise: load::raise, found: no_figure, helps: nothing },
    Rule { id: CautionId::Room, raise: room::raise, found: no_figure, helps: nothing },
    Rule { id: CautionId::Snow, raise: snow::raise, found: no_figure, helps: snow::helps },
    Rule {
        id: CautionId::WaterTreatment,
        raise: water_treatment::raise,
        found: water_treatment::found,
        helps: water_treatment::helps,
    },
];

/// Every caution that the figures raise, in the order of their keys, then of their jobs.
pub fn cautions(situation: &Situation<'_>) -> Vec<Caution> {
    RULES.iter().flat_map(|rule| (rule.raise)(situation)).collect()
}

/// A caution and what would quiet it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CautionWithRemedies {
    /// The caution.
    pub caution: Caution,
    /// What of the shelf would quiet or ease it; positions are those of the shelf.
    pub remedies: Vec<Remedy>,
}

/// Everything that is to be told of a list, the gravest first: cautions with their remedies, and reminders. `behind` stands beside the
/// things, `lacking` is what each walker would lack alone.
pub fn with_remedies<'a>(
    situation: &Situation<'a>,
    shelf: &'a [Thing],
    behind: &[Behind],
    lacking: &[Vec<Job>],
) -> Vec<CautionWithRemedies> {
    let raised = cautions(situation);
    let remedies = remedies(situation, &raised, shelf);
    let reminders = reminders(situation, behind, lacking).into_iter();
    let mut all: Vec<CautionWithRemedies> =
        raised.into_iter().zip(remedies).map(|(caution, remedies)| CautionWithRemedies { caution, remedies }).collect();
    all.extend(reminders.map(|caution| CautionWithRemedies { caution, remedies: Vec::new() }));
    all.sort_by_key(|one| std::cmp::Reverse(one.caution.level));
    all
}

/// A thing that would quiet a caution, or ease it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Remedy {
    /// Its position among the things that were offered.
    pub thing: usize,
    /// What the caution's figure would be with it.
    pub found: Option<i64>,
    /// By how much that is another figure.
    pub gain: Option<i64>,
    /// Whether the caution would be gone.
    pub quiets: bool,
}

/// The most remedies that are told of one caution.
const REMEDIES: usize = 4;

/// What of `shelf`, one piece of it brought along and carried, would quiet or ease each of `raised`: what quiets first, the lightest
/// first; then what eases most.
pub fn remedies<'a>(situation: &Situation<'a>, raised: &[Caution], shelf: &'a [Thing]) -> Vec<Vec<Remedy>> {
    let mut found = vec![Vec::new(); raised.len()];
    for rule in &RULES {
        let own: Vec<usize> = (0..raised.len()).filter(|at| raised[*at].id == rule.id).collect();
        if own.is_empty() {
            continue;
        }
        let before = (rule.found)(situation);
        for (thing, there) in shelf.iter().enumerate().filter(|(_, thing)| (rule.helps)(thing)) {
            let with = situation.with(there);
            let (raised_then, figure) = ((rule.raise)(&with), (rule.found)(&with));
            for &at in &own {
                let same = |then: &&Caution| then.job == raised[at].job;
                let then = raised_then.iter().find(same);
                let lacks = |caution: &Caution| (caution.level, caution.short.unwrap_or_default());
                if then.is_none_or(|then| lacks(then) < lacks(&raised[at])) {
                    let gain = before.zip(figure).map(|(before, after)| (after - before).abs());
                    found[at].push(Remedy { thing, found: figure, gain, quiets: then.is_none() });
                }
            }
        }
    }
    for remedies in &mut found {
        remedies.sort_by_key(|remedy: &Remedy| {
            let unknown = shelf[remedy.thing].line.unit().is_none();
            let eases = if remedy.quiets { 0 } else { -remedy.gain.unwrap_or_default() };
            (!remedy.quiets, eases, unknown, shelf[remedy.thing].unit(), remedy.thing)
        });
        remedies.truncate(REMEDIES);
    }
    found
}
