//! The trip of a list, calculated by core: what it takes, the pack day by day, what it requires, cautions.

use super::snapshot::ListSnapshot;
use crate::Caller;
use kevyt_core::caution::{
    Behind, Caution, CautionWithRemedies, KnownCaution, Situation, cautions, reminders, with_remedies,
};
use kevyt_core::gear::{Acquired, Facts, Gear, Job, Jobs};
use kevyt_core::list::{Carrier, Counts, LineId, Place, Thing};
use kevyt_core::quantity::Mass;
use kevyt_core::steps::Steps;
use kevyt_core::swap::Candidate;
use kevyt_core::together::lacks;
use kevyt_core::trip::{
    ByThePiece, COVER_STEPS, Covers, Days, Held, Holder, Requirement, Supplies, Trip, by_the_piece, covers, required,
    requirements,
};
use kevyt_store::Stored;
use kevyt_store::id::GearId;
use kevyt_store::lists::PackList;

/// Something at hand, or that could be got: what may quiet a caution, or hold what the trip takes.
#[derive(Debug, Clone)]
pub struct OnShelf {
    /// What it is.
    pub name: String,
    /// The gear, if it is owned; else it is a candidate.
    pub gear: Option<GearId>,
    /// What one piece weighs.
    pub unit: Option<Mass>,
}

/// The trip of a list, calculated.
#[derive(Debug, Clone)]
pub struct TripSheet {
    /// What it takes.
    pub supplies: Supplies,
    /// Millilitres drunk in an hour of walking.
    pub ml_per_hour: i64,
    /// What the list holds of that.
    pub held: Held,
    /// Things used by the piece.
    pub counted: Vec<ByThePiece>,
    /// Names of what could hold gas or power, by position.
    pub holders: Vec<String>,
    /// The lightest cans that hold the gas; positions of holders.
    pub gas: Covers,
    /// The lightest banks that hold the power; positions of holders.
    pub power: Covers,
    /// The pack day by day.
    pub days: Days,
    /// The comfort of what is slept in, in tenths of a degree, with the sleeper's offset.
    pub comfort: Option<i64>,
    /// What the packs carry comfortably, if any says so.
    pub comfortable: Option<Mass>,
    /// The share of body weight above which a load is told; `None` where nobody says what they weigh.
    pub body_limit: Option<Mass>,
    /// What it requires and why.
    pub requirements: Vec<Requirement>,
    /// What is lacking of each job.
    pub shortfalls: Jobs,
    /// What is at home or could be got, by position.
    pub shelf: Vec<OnShelf>,
    /// Cautions, the gravest first. Positions of things are those of the list's lines, those of remedies the shelf's.
    pub cautions: Vec<CautionWithRemedies>,
    /// Beside each whether it was acknowledged, and is no worse than then.
    pub known: Vec<bool>,
}

/// What stands beside a list: gear at hand that is not on it, and what its swaps could put on.
#[derive(Default)]
pub(super) struct Beside {
    pub owned: Vec<Stored<GearId, Gear>>,
    pub wished: Vec<Candidate>,
}

/// Works the trip of a list out, if somebody said what it is; `lacking` is what each walker would lack alone.
pub(super) fn work_out(
    snapshot: &ListSnapshot,
    list: &PackList,
    caller: Caller,
    beside: &Beside,
    lacking: &[Vec<Job>],
) -> Option<TripSheet> {
    let trip = list.trip.as_ref()?;
    let trip = Trip { requires: required(Some(trip), &list.requires), ..trip.clone() };
    let (at, things) = snapshot.serving();
    let mine = snapshot.mine();
    let situation = Situation::new(&things, &mine, &trip, caller.settings.sleeper());
    let behind = behind(snapshot, &at);
    let (shelf, on_shelf) = shelf(snapshot, beside);
    let mut found = with_remedies(&situation, &on_shelf, &behind, lacking);
    found.iter_mut().flat_map(|one| &mut one.caution.of).for_each(|position| *position = at[*position]);
    let is_known = |now: &KnownCaution| list.known.iter().any(|known| known.covers(now));
    let known = found.iter().map(|one| is_known(&acknowledged(snapshot, &one.caution))).collect();
    let (holders, by_gas, by_power) = holders(snapshot, beside);
    let supplies = situation.supplies().clone();
    Some(TripSheet {
        ml_per_hour: trip.ml_per_hour(),
        held: situation.held(),
        counted: by_the_piece(&trip, &things),
        holders,
        gas: lightest(&by_gas, supplies.gas.mg()),
        power: lightest(&by_power, supplies.power_mwh),
        days: situation.days().clone(),
        comfort: situation.comfort(),
        comfortable: situation.comfortable(),
        body_limit: situation.body_limit(),
        requirements: requirements(&trip, &list.requires),
        shortfalls: situation.shortfalls(),
        shelf,
        cautions: found,
        known,
        supplies,
    })
}

/// What is known of things beside their lines.
fn behind(snapshot: &ListSnapshot, at: &[usize]) -> Vec<Behind> {
    let gear = at.iter().map(|at| &snapshot.lines[*at].line.value.gear.value);
    gear.map(|gear| Behind { is_made: gear.acquired == Acquired::Made, nights: gear.nights }).collect()
}

/// A caution as it is acknowledged; its positions are those of the list's lines.
fn acknowledged(snapshot: &ListSnapshot, caution: &Caution) -> KnownCaution {
    let main = caution.of.first().and_then(|at| snapshot.lines.get(*at));
    caution.acknowledged(main.map(|line| line.line.value.gear.value.name.as_str()))
}

/// Every caution of a list as it would be acknowledged now; none without a trip.
pub(crate) fn raised(snapshot: &ListSnapshot, list: &PackList, caller: Caller) -> Vec<KnownCaution> {
    let Some(trip) = &list.trip else { return Vec::new() };
    let trip = Trip { requires: required(Some(trip), &list.requires), ..trip.clone() };
    let (at, things) = snapshot.serving();
    let mine = snapshot.mine();
    let situation = Situation::new(&things, &mine, &trip, caller.settings.sleeper());
    let lacking: Vec<Vec<Job>> = (0..snapshot.walkers.len()).map(|walker| lacks(&snapshot.things, walker)).collect();
    let all = cautions(&situation).into_iter().chain(reminders(&situation, &behind(snapshot, &at), &lacking));
    let placed = all.map(|mut caution| {
        caution.of.iter_mut().for_each(|position| *position = at[*position]);
        acknowledged(snapshot, &caution)
    });
    placed.collect()
}

fn lightest(holders: &[Holder], need: i64) -> Covers {
    covers(holders, need, &mut Steps::up_to(COVER_STEPS))
}

/// What is at home or could be got, one piece of each, as if it were brought along.
fn shelf(snapshot: &ListSnapshot, beside: &Beside) -> (Vec<OnShelf>, Vec<Thing>) {
    // What is on the list and stays home, all of it, is at home too.
    let stays = snapshot.lines.iter().zip(&snapshot.things).filter(|(line, thing)| {
        let counts = line.line.value.counts;
        thing.carrier.walker() == snapshot.me && counts.left > 0 && counts.left == counts.pieces()
    });
    let stays = stays.map(|(line, _)| &line.line.value.gear);
    let one = Counts::in_place(Place::Carried, 1);
    let owned = stays.chain(&beside.owned).map(|stored| {
        let gear = &stored.value;
        let id = LineId(String::new());
        (Some(stored.id), Thing::owned(id, gear, one, Carrier::Own(snapshot.me), &snapshot.makers))
    });
    let wished = beside.wished.iter().map(|candidate| (None, candidate.brought_by(snapshot.me, &snapshot.makers)));
    let shown = |(gear, thing): (Option<GearId>, Thing)| {
        (OnShelf { name: thing.line.name.clone(), gear, unit: thing.line.unit() }, thing)
    };
    owned.chain(wished).map(shown).unzip()
}

/// What of the caller's list and of what stands beside it could hold gas or power: names, and as what core tries for each.
fn holders(snapshot: &ListSnapshot, beside: &Beside) -> (Vec<String>, Vec<Holder>, Vec<Holder>) {
    let on = snapshot.lines.iter().zip(&snapshot.things).filter(|(_, thing)| thing.carrier.walker() == snapshot.me);
    let owned = on.map(|(line, _)| &line.line.value.gear).chain(&beside.owned).map(|stored| {
        let gear = &stored.value;
        (&gear.name, &gear.weight, gear.count, gear.facts, &gear.provides, true)
    });
    let wished = beside.wished.iter().map(|one| (&one.name, &one.weight, 1, one.facts, &one.provides, false));
    let gas_in = |facts: Facts| facts.contents.map_or(0, Mass::mg);
    let power_in = |jobs: &Jobs| jobs.get("power").copied().unwrap_or_default();
    let (mut names, mut by_gas, mut by_power) = (Vec::new(), Vec::new(), Vec::new());
    for (name, weight, count, facts, provides, is_owned) in owned.chain(wished) {
        let mass = weight.as_ref().map(|weight| weight.unit);
        let holder = |amount| Holder { amount, mass, count, is_owned };
        names.push(name.as_str().to_owned());
        by_gas.push(holder(gas_in(facts)));
        by_power.push(holder(power_in(provides)));
    }
    (names, by_gas, by_power)
}
