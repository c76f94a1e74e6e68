//! The problem as it is given, and the same made ready: checked, indexed, with the worth of every swap.

use super::Meet;
use super::TargetOf;
use super::night::{GROUND, Night, Warmth};
use crate::gear::{Counting, Job, Jobs, Known};
use crate::limits;
use crate::list::{Line, LineId, LinkedKits, Place, Totals, WeighedKit, WholeKit, totals, whole_kits};
use crate::quantity::{Currency, Mass, Money};
use crate::swap::{RankBy, Ranked, Selling, Swap, SwapId, Worth, plain_saving, rank, worth};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use std::fmt::Display;

/// A pack list, its swaps, and the question.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Problem {
    /// The currency of all money in it.
    pub currency: Currency,
    /// The list as it stands.
    pub lines: Vec<Line>,
    /// Kits whose own weighing counts where they are whole on the list, the newest first.
    pub kits: Vec<WeighedKit>,
    /// What could be changed.
    pub swaps: Vec<Swap>,
    /// What the trip requires.
    pub require: Jobs,
    /// What the pack weighs at its heaviest start with the list as it stands, food, water and gas in it; none if nobody knows. Then the load
    /// that packs carry comfortably is held against it.
    pub heaviest_start: Option<Mass>,
    /// The gas in one full piece of the lines that are cans: the heaviest start has its gas from the trip.
    pub gas: HashMap<LineId, Mass>,
    /// The night to get through; none if none is asked about.
    pub night: Option<Night>,
    /// The base weight to reach.
    pub target: Mass,
    /// The most money to spend.
    pub budget: Money,
    /// What an hour of making is worth; zero if nothing.
    pub hour_rate: Money,
    /// How it is asked for, beside target and budget.
    pub terms: Terms,
}

/// How a plan is asked for, beside target and budget.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct Terms {
    /// Which figure of each weight counts. In a [`Problem`] lines and additions are counted so already ([`Problem::counted`]).
    pub counting: Counting,
    /// Which saving ranks. What a plan is about is base weight, unless its target is of another figure.
    pub rank_by: RankBy,
    /// What the target is of. A [`Problem`] is put so that its base weight is that ([`Problem::loaded`], [`Problem::heavy_few`]).
    #[serde(skip_serializing_if = "TargetOf::is_base")]
    pub target_of: TargetOf,
    /// The money as it comes in, if somebody said.
    pub purse: Option<Purse>,
    /// What selling takes. In a [`Problem`] it is taken off each resale already.
    pub selling: Selling,
    /// What a plan must leave nothing short of, each once. In a [`Problem`] it is what of it is asked about.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub meet: Vec<Meet>,
}

/// Money that comes in month by month.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct Purse {
    /// There already.
    #[serde(rename = "now_minor")]
    pub now: Money,
    /// More of it each month from the next one on.
    #[serde(rename = "month_minor")]
    pub month: Money,
    /// How many months after its swap a resale is paid.
    #[serde(rename = "resale_after_months")]
    pub resale_after: u32,
    /// What had been spent on the list when it was said what is there already; `None` where nothing is counted as spent since.
    #[serde(rename = "spent_then_minor", default, skip_serializing_if = "Option::is_none")]
    pub spent_then: Option<Money>,
}

impl Purse {
    /// The same with what is left of it when so much has been spent on the list.
    #[must_use]
    pub fn left(self, spent: Money) -> Purse {
        let since = self.spent_then.map_or(Money::ZERO, |then| spent - then);
        Purse { now: (self.now - since).max(Money::ZERO), spent_then: self.spent_then.map(|_| spent), ..self }
    }
}

impl Problem {
    /// The same problem with another figure of each weight counting.
    #[must_use]
    pub fn counted(mut self, counting: Counting) -> Problem {
        let additions = self.swaps.iter_mut().flat_map(|swap| &mut swap.add).map(|addition| &mut addition.weight);
        let lines = self.lines.iter_mut().map(|line| &mut line.weight);
        lines.chain(additions).flatten().for_each(|known| *known = known.counted(counting));
        self.terms.counting = counting;
        self
    }
}

/// What is wrong with a problem: where, and what was expected there.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{path}: expected {expected}, found {found}")]
pub struct ProblemError {
    /// The JSON path of the value (`swaps[3].remove[0].line`).
    pub path: String,
    /// What would be accepted.
    pub expected: String,
    /// What is there.
    pub found: String,
}

/// A checked problem with its indexes.
#[derive(Debug)]
pub struct Ready<'a> {
    problem: &'a Problem,
    lines: HashMap<&'a LineId, &'a Line>,
    swaps: HashMap<&'a SwapId, usize>,
    kits: Vec<WholeKit<'a>>,
    worths: Vec<Worth>,
    plain_savings: Vec<Mass>,
    totals: Totals,
}

impl<'a> Ready<'a> {
    /// Checks a problem and computes the worth of every swap.
    ///
    /// # Errors
    /// [`ProblemError`] names the first value that can't be used: repeated or unknown ids, counts of zero, figures
    /// outside [`limits`].
    pub fn new(problem: &'a Problem) -> Result<Ready<'a>, ProblemError> {
        let lines = index_lines(problem)?;
        let swaps = index_swaps(problem)?;
        for (at, swap) in problem.swaps.iter().enumerate() {
            check_swap(at, swap, &lines, &swaps)?;
        }
        within("require", problem.require.values().copied(), limits::JOB_AMOUNT)?;
        within("heaviest_start_mg", problem.heaviest_start.map(Mass::mg), limits::PACK_MG)?;
        within("target_mg", [problem.target.mg()], i64::MAX)?;
        within("budget_minor", [problem.budget.minor()], limits::MONEY_MINOR)?;
        within("hour_minor", [problem.hour_rate.minor()], limits::MONEY_MINOR)?;
        if let Some(purse) = problem.terms.purse {
            within("money.now_minor", [purse.now.minor()], limits::MONEY_MINOR)?;
            within("money.month_minor", [purse.month.minor()], limits::MONEY_MINOR)?;
            within("money.resale_after_months", [purse.resale_after.into()], limits::MONTHS.into())?;
        }
        check_night(problem)?;
        check_kits(problem, &lines)?;
        let kits = whole_kits(&lines, &problem.kits);
        let linked = LinkedKits::new(&problem.kits);
        let worths = problem
            .swaps
            .iter()
            .map(|swap| worth(swap, &lines, &linked, problem.hour_rate, problem.terms.rank_by))
            .collect();
        let plain_savings = problem.swaps.iter().map(|swap| plain_saving(swap, &lines)).collect();
        let totals = totals(&problem.lines, &kits);
        Ok(Ready { problem, lines, swaps, kits, worths, plain_savings, totals })
    }

    /// The problem as it was given.
    pub fn problem(&self) -> &'a Problem {
        self.problem
    }

    /// Base weight of the list as it stands, unknown weights as nothing.
    pub fn base(&self) -> Mass {
        self.totals.base
    }

    /// The sums of the list as it stands.
    pub fn totals(&self) -> Totals {
        self.totals
    }

    /// The kits that are whole on the list as it stands, and so count as they were weighed.
    pub fn whole_kits(&self) -> &[WholeKit<'a>] {
        &self.kits
    }

    /// The worth of each swap, in the problem's order.
    pub fn worths(&self) -> &[Worth] {
        &self.worths
    }

    /// What each swap takes off the base weight by its pieces alone, kits aside, in the problem's order.
    pub(super) fn plain_savings(&self) -> &[Mass] {
        &self.plain_savings
    }

    /// The lines by id.
    pub fn lines(&self) -> &HashMap<&'a LineId, &'a Line> {
        &self.lines
    }

    /// The jobs of which a plan must leave nothing short.
    pub(super) fn jobs_to_meet(&self) -> impl Iterator<Item = &'a Job> {
        self.problem.terms.meet.iter().filter_map(|meet| match meet {
            Meet::Job(job) => Some(job),
            Meet::Warmth | Meet::Ground => None,
        })
    }

    /// The index of a swap.
    pub fn swap_index(&self, id: &SwapId) -> Option<usize> {
        self.swaps.get(id).copied()
    }

    /// The ranking.
    pub fn ranking(&self) -> Vec<Ranked> {
        rank(&self.problem.swaps, &self.worths)
    }
}

fn index_lines(problem: &Problem) -> Result<HashMap<&LineId, &Line>, ProblemError> {
    at_most("lines", problem.lines.len(), limits::LINES)?;
    let mut lines = HashMap::new();
    for (at, line) in problem.lines.iter().enumerate() {
        let path = format_args!("lines[{at}]");
        if lines.insert(&line.id, line).is_some() {
            return Err(error(format!("{path}.id"), "an id that no other line has", &line.id.0));
        }
        for (field, place) in PLACES {
            within(format_args!("{path}.{field}"), [i64::from(line.counts.at(place))], limits::COUNT.into())?;
        }
        check_weight(path, line.weight)?;
        check_jobs(path, &line.provides, &line.needs)?;
    }
    Ok(lines)
}

fn index_swaps(problem: &Problem) -> Result<HashMap<&SwapId, usize>, ProblemError> {
    at_most("swaps", problem.swaps.len(), limits::SWAPS)?;
    let mut swaps = HashMap::new();
    for (at, swap) in problem.swaps.iter().enumerate() {
        if swaps.insert(&swap.id, at).is_some() {
            return Err(error(format!("swaps[{at}].id"), "an id that no other swap has", &swap.id.0));
        }
    }
    let entries = |swap: &Swap| swap.remove.len() + swap.add.len() + swap.requires.len() + swap.excludes.len();
    let found: usize = problem.swaps.iter().map(entries).sum();
    if found > limits::ENTRIES {
        let expected =
            format!("at most {} entries in remove, add, requires and excludes of all swaps", limits::ENTRIES);
        return Err(error("swaps".to_owned(), &expected, &found.to_string()));
    }
    Ok(swaps)
}

fn check_night(problem: &Problem) -> Result<(), ProblemError> {
    at_most("meet", problem.terms.meet.len(), limits::JOBS)?;
    let asks_night = |meet: &Meet| matches!(meet, Meet::Warmth | Meet::Ground);
    let Some(night) = &problem.night else {
        return match problem.terms.meet.iter().position(asks_night) {
            Some(at) => {
                let expected = "names of jobs: without sleep there is no night to be warm in";
                Err(error(format!("meet[{at}]"), expected, problem.terms.meet[at].key()))
            }
            None => Ok(()),
        };
    };
    let (coldest, hottest) = limits::TENTHS_OF_DEGREE;
    let widest = hottest - coldest;
    let degrees = |path: String, found: i64, from: i64, to: i64| {
        let is_within = (from..=to).contains(&found);
        let expected = format!("tenths of a degree from {from} to {to}");
        if is_within { Ok(()) } else { Err(error(path, &expected, &found.to_string())) }
    };
    degrees("sleep.low_tenth_c".to_owned(), night.low, coldest, hottest)?;
    degrees("sleep.offset_tenth_c".to_owned(), night.offset, -widest, widest)?;
    within("sleep.ground_tenth_r", [night.ground], limits::JOB_AMOUNT)?;
    let of_lines =
        problem.lines.iter().enumerate().map(|(at, line)| (format!("lines[{at}]"), night.lines.get(&line.id)));
    let of_swaps = problem.swaps.iter().enumerate().flat_map(|(at, swap)| {
        let sides = 0..swap.add.len();
        sides.map(move |side| (format!("swaps[{at}].add[{side}]"), night.additions.get(&(swap.id.clone(), side))))
    });
    for (path, warmth) in of_lines.chain(of_swaps).filter_map(|(path, warmth)| Some((path, warmth?))) {
        degrees(format!("{path}.warms_tenth_c"), warmth.adds, 0, widest)?;
        let rated = warmth.rating.map_or(0, |rating| rating.at.tenths());
        degrees(format!("{path}.rating.tenth_c"), rated, coldest, hottest)?;
    }
    let is_pad = |provides: &Jobs| provides.keys().any(|job| job.as_str() == GROUND);
    let is_warm = |warmth: Option<&Warmth>| warmth.is_some_and(|warmth| *warmth != Warmth::default());
    let lines = problem.lines.iter().filter(|line| is_pad(&line.provides) || is_warm(night.lines.get(&line.id)));
    let added = problem.swaps.iter().flat_map(|swap| {
        let sides = swap.add.iter().enumerate();
        sides.filter(|(at, one)| is_pad(&one.provides) || is_warm(night.additions.get(&(swap.id.clone(), *at))))
    });
    let found = lines.count() + added.count();
    if found > limits::NIGHT_THINGS {
        let expected =
            format!("at most {} things that are rated, warm a bed or lie under the back", limits::NIGHT_THINGS);
        return Err(error("sleep".to_owned(), &expected, &found.to_string()));
    }
    Ok(())
}

fn check_kits(problem: &Problem, lines: &HashMap<&LineId, &Line>) -> Result<(), ProblemError> {
    at_most("kits", problem.kits.len(), limits::LINES)?;
    for (at, kit) in problem.kits.iter().enumerate() {
        let path = format_args!("kits[{at}]");
        within(format_args!("{path}.mg"), [kit.weighed.mg()], limits::MASS_MG)?;
        at_most(format_args!("{path}.parts"), kit.parts.len(), limits::PARTS)?;
        for (part, (line, qty)) in kit.parts.iter().enumerate() {
            let twice = kit.parts.iter().take(part).any(|(earlier, _)| earlier == line);
            if twice || !lines.contains_key(line) {
                let expected = "the id of one of the lines, each once";
                return Err(error(format!("{path}.parts[{part}].line"), expected, &line.0));
            }
            count(format_args!("{path}.parts[{part}].qty"), *qty)?;
        }
    }
    let kept = LinkedKits::new(&problem.kits).kept();
    if let Some(at) = (0..problem.kits.len()).find(|at| !kept.contains(at)) {
        let expected = format!("at most {} kits that share lines", limits::LINKED_KITS);
        return Err(error(format!("kits[{at}].parts"), &expected, &problem.kits[at].name));
    }
    Ok(())
}

fn check_swap(
    at: usize,
    swap: &Swap,
    lines: &HashMap<&LineId, &Line>,
    swaps: &HashMap<&SwapId, usize>,
) -> Result<(), ProblemError> {
    let path = format_args!("swaps[{at}]");
    at_most(format_args!("{path}.remove"), swap.remove.len(), limits::SIDE)?;
    at_most(format_args!("{path}.add"), swap.add.len(), limits::SIDE)?;
    for (side, removal) in swap.remove.iter().enumerate() {
        if !lines.contains_key(&removal.line) {
            return Err(error(format!("{path}.remove[{side}].line"), "the id of one of the lines", &removal.line.0));
        }
        count(format_args!("{path}.remove[{side}].qty"), removal.qty)?;
        counted(format_args!("{path}.remove[{side}].from"), removal.from)?;
    }
    for (side, addition) in swap.add.iter().enumerate() {
        let path = format_args!("{path}.add[{side}]");
        count(format_args!("{path}.qty"), addition.qty)?;
        check_weight(path, addition.weight)?;
        counted(format_args!("{path}.as"), addition.place)?;
        let high = addition.price.map(|price| price.high().minor());
        within(format_args!("{path}.price_minor"), high, limits::MONEY_MINOR)?;
        check_jobs(path, &addition.provides, &addition.needs)?;
    }
    within(format_args!("{path}.delivery_minor"), [swap.delivery.minor()], limits::MONEY_MINOR)?;
    within(format_args!("{path}.resale_minor"), [swap.resale.minor()], limits::MONEY_MINOR)?;
    within(format_args!("{path}.tenth_hours"), [swap.tenth_hours], limits::TENTH_HOURS)?;
    for (field, links) in [("requires", &swap.requires), ("excludes", &swap.excludes)] {
        at_most(format_args!("{path}.{field}"), links.len(), limits::LINKS)?;
        for (link, id) in links.iter().enumerate() {
            if *id == swap.id || !swaps.contains_key(id) {
                return Err(error(format!("{path}.{field}[{link}]"), "the id of another swap", &id.0));
            }
        }
    }
    Ok(())
}

const PLACES: [(&str, Place); 5] = [
    ("carried", Place::Carried),
    ("worn", Place::Worn),
    ("used_up", Place::UsedUp),
    ("apart", Place::Apart),
    ("left", Place::Left),
];

/// What a swap takes off comes along, and so does what it puts on.
fn counted(path: impl Display, place: Place) -> Result<(), ProblemError> {
    if Place::COUNTED.contains(&place) {
        return Ok(());
    }
    let found = PLACES.iter().find(|known| known.1 == place).map_or("", |known| known.0);
    Err(error(path.to_string(), "carried, worn or used_up", found))
}

fn check_weight(path: impl Display + Copy, weight: Option<Known>) -> Result<(), ProblemError> {
    let Some(weight) = weight else { return Ok(()) };
    within(format_args!("{path}.unit_mg"), [weight.unit.mg()], limits::MASS_MG)?;
    // What is calculated can be a little over what can be typed.
    within(format_args!("{path}.expected_mg"), [weight.expected.mg()], limits::MASS_MG * 2)?;
    within(format_args!("{path}.high_mg"), [weight.high().mg()], limits::MASS_MG * 2)
}

fn check_jobs(path: impl Display + Copy, provides: &Jobs, needs: &Jobs) -> Result<(), ProblemError> {
    for (field, jobs) in [("provides", provides), ("needs", needs)] {
        let path = format_args!("{path}.{field}");
        at_most(path, jobs.len(), limits::JOBS)?;
        within(path, jobs.values().copied(), limits::JOB_AMOUNT)?;
    }
    Ok(())
}

pub(super) fn within(path: impl Display, values: impl IntoIterator<Item = i64>, most: i64) -> Result<(), ProblemError> {
    match values.into_iter().find(|value| !(0..=most).contains(value)) {
        Some(found) => Err(error(path.to_string(), &format!("a whole number from 0 to {most}"), &found.to_string())),
        None => Ok(()),
    }
}

fn count(path: impl Display, qty: u32) -> Result<(), ProblemError> {
    if (1..=limits::COUNT).contains(&qty) {
        return Ok(());
    }
    Err(error(path.to_string(), &format!("a count from 1 to {}", limits::COUNT), &qty.to_string()))
}

pub(super) fn at_most(path: impl Display, found: usize, most: usize) -> Result<(), ProblemError> {
    if found <= most {
        return Ok(());
    }
    Err(error(path.to_string(), &format!("at most {most} entries"), &found.to_string()))
}

pub(super) fn error(path: String, expected: &str, found: &str) -> ProblemError {
    ProblemError { path, expected: expected.to_owned(), found: format!("\"{found}\"") }
}
