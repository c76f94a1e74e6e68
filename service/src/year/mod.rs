//! One budget for the lists of the coming twelve months: which purchases serve them all.

mod holdings;
mod problem;

use super::plans::{MOST_OPEN, SEARCH_TIMEOUT};
use super::points::every_so_many;
use super::sheet::ListSnapshot;
use super::swaps::{FullSwap, full_swaps_among};
use super::weights;
use super::{Caller, ServiceError, Services};
use chrono::{DateTime, Months, NaiveDate, Utc};
use diesel::MysqlConnection;
use holdings::Shelf;
pub use holdings::{SwapInstead, YearHolding};
use kevyt_core::gear::Counting;
use kevyt_core::limits;
use kevyt_core::plan::lists::{ListsOrder, ListsPlan, solve_lists};
use kevyt_core::plan::{Limits, Meet, Point};
use kevyt_core::quantity::{Mass, Money};
use kevyt_store::account::digest;
use kevyt_store::id::{ListId, SwapId};
use kevyt_store::lists::{self, StoredList};
use kevyt_store::{gear, lines, swaps, trips, walkers};
use problem::YearBuilder;
use std::collections::HashMap;
use std::time::Instant;

/// The coming twelve months.
pub struct Year {
    /// What was said of it all, whoever wrote it: another number when something was written since.
    pub revision: i64,
    /// The lists that are carried in them.
    pub lists: Vec<YearList>,
    /// The other lists: nobody said nights for them, and no trip to come has them.
    pub others: Vec<YearNights>,
    /// What could be changed; other things here name swaps by their place.
    pub swaps: Vec<YearSwap>,
    /// The frontier in gram-nights, cheapest first, each point's swaps in buying order.
    pub points: Vec<(Point, Vec<usize>)>,
    /// Whether it was searched to its end.
    pub proved: bool,
    /// The plan, its swaps in buying order. Where no list has a target it is asked for the fewest gram-nights.
    pub plan: ListsPlan,
    /// What all lists weigh as they stand, times nights.
    pub gram_nights: Mass,
    /// The most money to spend, as it was said; `None` for no limit.
    pub budget: Option<Money>,
    /// What was spent since.
    pub spent: Money,
    /// Which figure of each weight counts: the most careful one of those that the lists count by.
    pub counting: Counting,
    /// What keeping things costs that are worth something, dearest first.
    pub holdings: Vec<YearHolding>,
}

/// A list and its nights.
pub struct YearNights {
    /// The list.
    pub list: StoredList,
    /// Nights in the coming twelve months: as they were said, or those of the trips to come.
    pub nights: u32,
    /// Those of the trips to come.
    pub of_trips: u32,
    /// The first day of the first of them.
    pub first_on: Option<NaiveDate>,
}

/// A list of the year.
pub struct YearList {
    /// The list and its nights.
    pub of: YearNights,
    /// Its base weight as it stands.
    pub base: Mass,
    /// And as planned.
    pub planned: Mass,
    /// How many carried things have no weight.
    pub unknown: usize,
    /// The chance that the planned base weight is at or under the target.
    pub chance: Option<f64>,
}

/// A swap over the year.
pub struct YearSwap {
    /// The swap as its own list has it.
    pub swap: FullSwap,
    /// The same as other lists have it.
    pub same: Vec<SwapId>,
    /// Whether it acts on each of the year's lists.
    pub acts: Vec<bool>,
    /// What it takes off the base weight of each of them by itself; `None` while a weight is unknown.
    pub savings: Vec<Option<Mass>>,
    /// What it saves over all nights, by itself, and what it costs; `None` while a figure is missing.
    pub worth: Option<(Mass, Money)>,
    /// Its place in the ranking, from 1.
    pub place: Option<usize>,
    /// What falls shorter of what is asked on which list with it alone.
    pub loses: Vec<(usize, Meet)>,
}

impl Services {
    /// What tells whether anything was written since that the year's plan hangs on, or a day has gone by.
    pub fn year_revision(&self, caller: Caller) -> Result<i64, ServiceError> {
        self.read(|c| revision(c, caller))
    }

    /// Plans the lists of the coming twelve months together, until it is told to stop.
    pub fn year(&self, caller: Caller, should_stop: &dyn Fn() -> bool) -> Result<Year, ServiceError> {
        let (caller, revision, all, snapshots, kits, spent, owned) = self.read(|c| {
            let caller = caller.renewed(c)?;
            let revision = revision(c, caller)?;
            let all = with_nights(c, caller)?;
            let of_year: Vec<ListId> = all.iter().filter(|of| of.nights > 0).map(|of| of.list.id).collect();
            check_size(c, caller, &of_year)?;
            let together = of_year.iter().copied().collect();
            let mut snapshots = Vec::new();
            for &list in &of_year {
                let (_, to) = walkers::open(c, caller.access, list)?;
                let swaps = full_swaps_among(c, caller, list, &together)?;
                let can_be_made = |swap: &FullSwap| swap.unavailable.is_none() && swap.swap.value.done.is_none();
                snapshots.push((
                    ListSnapshot::load(c, caller, to)?,
                    swaps.into_iter().filter(can_be_made).collect::<Vec<_>>(),
                ));
            }
            let since = caller.settings.year_budget.and_then(|budget| DateTime::from_timestamp(budget.said_at, 0));
            let spent = match since {
                Some(since) => swaps::spent_since(c, caller.access, since.naive_utc())?,
                None => Money::ZERO,
            };
            let kits = weights::counting(weights::load(c, caller, None)?);
            Ok((caller, revision, all, snapshots, kits, spent, gear::with_worth(c, caller.access)?))
        })?;
        let (of_year, others): (Vec<_>, Vec<_>) = all.into_iter().partition(|of| of.nights > 0);
        let budget = caller.settings.year_budget.map(|budget| Money::from_minor(budget.minor));
        let left = budget.map_or(Money::from_minor(limits::MONEY_MINOR), |budget| (budget - spent).max(Money::ZERO));
        let mut builder = YearBuilder::new(caller, left, kits);
        let mut shelf = Shelf::new(caller, owned, today());
        for (at, (of, (snapshot, swaps))) in of_year.iter().zip(snapshots).enumerate() {
            shelf.carry(at, of.nights, &snapshot.lines);
            builder.add_list(&of.list.value, of.nights, snapshot, swaps);
        }
        let (problem, swaps) = builder.problem();
        let counting = problem.whole.terms.counting;
        let expanded = problem.expand().map_err(|error| not_planned(&error))?;
        let ready = expanded.ready().map_err(|error| not_planned(&error))?;
        let until = Instant::now() + SEARCH_TIMEOUT;
        let limits = Limits { most_open: MOST_OPEN, ..Limits::default() };
        let answer = solve_lists(&ready, &limits, &|| should_stop() || Instant::now() > until)
            .map_err(|fault| ServiceError::Internal(fault.to_string()))?;
        let order = ListsOrder::new(&ready);
        let set = answer.plan.swaps.clone().unwrap_or_default();
        let now = ready.bases_after(&[]);
        let lists = of_year.into_iter().enumerate().map(|(at, of)| YearList {
            base: now[at],
            planned: answer.plan.bases[at],
            unknown: ready.unknown(at),
            chance: ready.chance(at, &set).filter(|_| of.list.value.base_target().is_some()),
            of,
        });
        let lists: Vec<YearList> = lists.collect();
        let nights = |list: &YearList| list.base.mg() * i64::from(list.of.nights);
        let gram_nights = Mass::from_mg(lists.iter().map(nights).sum());
        let places: HashMap<usize, usize> =
            ready.ranking().iter().filter_map(|row| Some((row.swap, row.place?.place))).collect();
        let loses = ready.loses();
        let swaps = swaps.into_iter().zip(loses).enumerate().map(|(at, ((swap, same), loses))| YearSwap {
            swap,
            same,
            acts: (0..lists.len()).map(|list| ready.acts(at, list)).collect(),
            savings: ready.savings(at),
            worth: ready.worth(at),
            place: places.get(&at).copied(),
            loses,
        });
        let points = answer.frontier.points();
        let in_plan = |at: usize| (points[at].net, points[at].base) == (answer.plan.net, answer.plan.gram_nights);
        let shown = every_so_many(points.len(), in_plan);
        let points = shown.map(|at| (points[at], order.of(&answer.frontier.swaps(at)))).collect();
        let swaps: Vec<YearSwap> = swaps.collect();
        Ok(Year {
            revision,
            holdings: shelf.holdings(&swaps, |swap| ready.sells(swap)),
            swaps,
            points,
            proved: answer.frontier.is_proved(),
            plan: ListsPlan { swaps: answer.plan.swaps.as_deref().map(|set| order.of(set)), ..answer.plan },
            lists,
            others,
            gram_nights,
            budget,
            spent,
            counting,
        })
    }
}

fn not_planned(why: &dyn std::fmt::Display) -> ServiceError {
    let detail = format!("The lists of this year can't be planned together. {why}");
    ServiceError::invalid("year", "not_planned", detail)
}

/// Refuses more than is planned together, before any of it is read.
fn check_size(c: &mut MysqlConnection, caller: Caller, lists: &[ListId]) -> Result<(), ServiceError> {
    let (most, most_lines) = (limits::YEAR_LISTS, limits::YEAR_LINES);
    if lists.len() > most {
        return Err(not_planned(&format!("{} have nights, and {most} are the most.", lists.len())));
    }
    let mut there = 0;
    for list in lists {
        there += lines::count(c, caller.access, *list)?;
    }
    if there > most_lines {
        return Err(not_planned(&format!("They have {there} things in all, and {most_lines} are the most.")));
    }
    Ok(())
}

/// Today, by the server's clock.
fn today() -> NaiveDate {
    Utc::now().date_naive()
}

fn revision(c: &mut MysqlConnection, caller: Caller) -> Result<i64, ServiceError> {
    let all = walkers::revisions_of_all(c, caller.access)?.into_iter();
    let all: Vec<String> = all.map(|(account, revision)| format!("{account} {revision}")).collect();
    let [a, b, c, d, e, f, ..] = digest(format!("{} {}", all.join(", "), today()));
    // 48 bits: exact in every client.
    Ok(i64::from_be_bytes([0, 0, a, b, c, d, e, f]))
}

/// The caller's lists with their nights in the coming twelve months: those with the earliest trip first, then as they were made.
pub(super) fn with_nights(c: &mut MysqlConnection, caller: Caller) -> Result<Vec<YearNights>, ServiceError> {
    let today = today();
    let end = today.checked_add_months(Months::new(12)).unwrap_or(NaiveDate::MAX);
    let mut of_trips: HashMap<ListId, (u32, NaiveDate)> = HashMap::new();
    for trip in trips::all(c, caller.access)?.into_iter().map(|trip| trip.value) {
        let is_to_come = trip.kept_at.is_none() && (today..end).contains(&trip.starts_on);
        if let Some(list) = trip.list.filter(|_| is_to_come) {
            let (nights, first) = of_trips.entry(list).or_insert((0, trip.starts_on));
            *nights = nights.saturating_add(trip.nights).min(limits::TRIP_NIGHTS);
            *first = trip.starts_on.min(*first);
        }
    }
    let own = lists::all(c, caller.access)?.into_iter().filter(|list| !list.value.archived);
    let mut all: Vec<YearNights> = own
        .map(|list| {
            let (of_trips, first_on) = of_trips.get(&list.id).map_or((0, None), |(nights, on)| (*nights, Some(*on)));
            YearNights { nights: list.value.year_nights.unwrap_or(of_trips), of_trips, first_on, list }
        })
        .collect();
    all.sort_by_key(|of| (of.first_on.is_none(), of.first_on));
    Ok(all)
}
