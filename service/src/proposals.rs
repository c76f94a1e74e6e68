//! What Kevyt proposes for a list: proposal, taken up as a swap, or silenced for good. What is proposed, and why, is core's.

use super::sheet::ListSnapshot;
use super::swaps::{AdditionDraft, FullSwap, SwapDraft, full_swaps, marks_of};
use super::trips::habits_of;
use super::write::Write;
use super::{Caller, ServiceError, Services};
use crate::swaps::{RemovalDraft, assumed_of};
use diesel::MysqlConnection;
use kevyt_core::gear::{Gear, WeightSource};
use kevyt_core::limits;
use kevyt_core::list::{Carrier, Counts, LineId as CoreLineId, Place, Thing, whole_kits};
use kevyt_core::quantity::Mass;
use kevyt_core::steps::Steps;
use kevyt_core::swap::{Learnt, Looked, PROPOSAL_STEPS, Proposal, SwapKind, SwapState, Why, proposals};
use kevyt_core::trip::{Supplies, kept};
use kevyt_store::event::Event;
use kevyt_store::id::{LineId, ListId};
use kevyt_store::lists::PackList;
use kevyt_store::{Stored, lists, walkers};
use serde::Serialize;
use std::collections::{HashMap, HashSet};
use utoipa::ToSchema;

/// A proposal as it is proposal.
#[derive(Debug, Clone)]
pub struct ProposalView {
    /// What it is known by: it stays silenced by this.
    pub key: String,
    /// The thing that it is about.
    pub thing: String,
    /// What to do with it, and the reason.
    pub why: ProposalWhy,
    /// What it saves of base weight.
    pub saving: Mass,
    /// The swap that it would be.
    pub draft: SwapDraft,
}

/// What is proposed of a thing, and why.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
#[serde(tag = "code", rename_all = "snake_case")]
pub enum ProposalWhy {
    /// To leave it out: it was carried on so many trips and never used.
    NeverUsed {
        /// Trips.
        trips: usize,
    },
    /// To leave it out: all that it does is done by others.
    DoneByOthers {
        /// The others.
        by: Vec<String>,
        /// Whether pieces of its own stay and do it too: then one of them is left out.
        by_own_pieces: bool,
    },
    /// To take something lighter instead that is owned and does the same for the trip.
    LighterAtHome {
        /// What is owned.
        other: String,
    },
    /// To take a smaller can that is owned: it holds enough gas for the trip.
    SmallerCanAtHome {
        /// What is owned.
        other: String,
    },
    /// To trim what goes with it: weighed together, its kit is heavier than its parts.
    KitOverParts {},
}

impl Services {
    /// What is proposed for a list, most grams first.
    pub fn proposals(&self, caller: Caller, list: ListId) -> Result<Vec<ProposalView>, ServiceError> {
        self.read(|c| {
            let list = lists::get(c, caller.access, list)?;
            views(c, caller, &list)
        })
    }
}

impl Write<'_> {
    /// Makes a swap of what is proposed.
    pub fn take_proposal(&mut self, list: ListId, key: &str) -> Result<FullSwap, ServiceError> {
        let stored = lists::get(self.c, self.caller.access, list)?;
        let proposal = views(self.c, self.caller, &stored)?.into_iter().find(|one| one.key == key);
        let Some(proposal) = proposal else {
            let detail = "This is no longer proposed: the list has changed. Load the page again.";
            return Err(ServiceError::invalid("key", "not_proposed", detail));
        };
        self.add_swap(list, &proposal.draft)
    }

    /// Silences a proposal for good.
    pub fn silence_proposal(&mut self, list: ListId, key: &str) -> Result<(), ServiceError> {
        let stored = lists::get(self.c, self.caller.access, list)?;
        let mut value = stored.value.clone();
        if value.silenced.iter().any(|silenced| silenced == key) {
            return Ok(());
        }
        let proposal = views(self.c, self.caller, &stored)?.into_iter().find(|one| one.key == key);
        let Some(proposal) = proposal.filter(|_| value.silenced.len() < limits::SILENCED) else {
            let detail = "This is no longer proposed: the list has changed. Load the page again.";
            return Err(ServiceError::invalid("key", "not_proposed", detail));
        };
        value.silenced.push(proposal.key);
        self.touch([list])?;
        lists::update(self.c, self.caller.access, list, stored.version, &value)?;
        let name = value.name.as_str().to_owned();
        self.log(Event::ProposalDismissed { thing: proposal.thing, list: name });
        Ok(())
    }
}

/// What is proposed for a list, most grams first.
fn views(
    c: &mut MysqlConnection,
    caller: Caller,
    list: &Stored<ListId, PackList>,
) -> Result<Vec<ProposalView>, ServiceError> {
    let (_, to) = walkers::open(c, caller.access, list.id)?;
    let snapshot = ListSnapshot::load(c, caller, to)?;
    // What a swap takes off already needs no proposal.
    let swaps = full_swaps(c, caller, list.id)?;
    let taken: HashSet<CoreLineId> = swaps
        .iter()
        .filter(|swap| swap.swap.value.done.is_none())
        .filter(|swap| swap.candidates.iter().all(|candidate| is_free_of_charge(&candidate.value.price)))
        .flat_map(|swap| swap.swap.value.remove.iter().map(|(line, ..)| CoreLineId(line.to_string())))
        .collect();
    let owned = snapshot.at_home(c, caller)?;
    let one = Counts::in_place(Place::Carried, 1);
    let nowhere = || CoreLineId(String::new());
    let shelf =
        owned.iter().map(|gear| Thing::owned(nowhere(), &gear.value, one, Carrier::Own(snapshot.me), &snapshot.makers));
    let shelf: Vec<Thing> = shelf.collect();
    let (at, things) = snapshot.serving();
    let is_open = |thing: &Thing| thing.carrier == Carrier::Own(snapshot.me) && !taken.contains(&thing.line.id);
    let own: Vec<usize> = (0..things.len()).filter(|at| is_open(&things[*at])).collect();
    let (requires, trip) = (kept(list.value.trip.as_ref(), &list.value.requires), list.value.trip.as_ref());
    let gas = trip.as_ref().map_or(Mass::ZERO, |trip| Supplies::of(trip).gas);
    let by_id: HashMap<_, _> = things.iter().map(|thing| (&thing.line.id, &thing.line)).collect();
    let kits = whole_kits(&by_id, &snapshot.kits);
    let habits = habits_of(c, caller)?;
    let learnt = at.iter().map(|at| {
        let habit = habits.get(&snapshot.lines[*at].line.value.gear.id);
        habit.map_or_else(Learnt::default, |(habit, is_silenced)| Learnt {
            never_used: habit.never_used().filter(|_| !is_silenced),
            is_missed: !habit.missed_on().is_empty(),
        })
    });
    let learnt: Vec<Learnt> = learnt.collect();
    let looked =
        Looked { things: &things, own: &own, learnt: &learnt, shelf: &shelf, required: &requires, gas, kits: &kits };
    let found = proposals(&looked, &mut Steps::up_to(PROPOSAL_STEPS));
    let open = found.iter().filter_map(|proposal| {
        let line = &snapshot.lines[at[proposal.thing]].line;
        tell(proposal, &things, line.id, &line.value.gear.value, &owned)
    });
    Ok(open.filter(|proposal| !list.value.silenced.contains(&proposal.key)).collect())
}

fn is_free_of_charge(price: &Option<kevyt_core::quantity::PriceRange>) -> bool {
    price.is_some_and(|price| price.high().minor() == 0)
}

fn tell(
    proposal: &Proposal,
    things: &[Thing],
    line: LineId,
    gone: &Gear,
    owned: &[Stored<kevyt_store::id::GearId, Gear>],
) -> Option<ProposalView> {
    let name = gone.name.as_str();
    let qty = if matches!(proposal.why, Why::NeverUsed(_)) { things[proposal.thing].line.counts.carried } else { 1 };
    let remove = vec![RemovalDraft { line, qty, from: Place::Carried }];
    let draft = |kind: SwapKind, name: Option<String>, add: Vec<AdditionDraft>| SwapDraft {
        name,
        kind,
        state: SwapState::Open,
        remove: remove.clone(),
        add,
        delivery: String::new(),
        resale: String::new(),
        sells_needed: false,
        hours: String::new(),
        requires: Vec::new(),
        excludes: Vec::new(),
    };
    let saving = proposal.saving;
    Some(match &proposal.why {
        Why::NeverUsed(trips) => ProposalView {
            key: format!("leave {name}"),
            thing: name.to_owned(),
            why: ProposalWhy::NeverUsed { trips: *trips },
            draft: draft(SwapKind::LeaveOut, None, Vec::new()),
            saving,
        },
        Why::DoneByOthers(by) => {
            let others = by.iter().filter(|at| **at != proposal.thing).map(|at| things[*at].line.name.clone());
            let why = ProposalWhy::DoneByOthers { by: others.collect(), by_own_pieces: by.contains(&proposal.thing) };
            ProposalView {
                key: format!("leave {name}"),
                thing: name.to_owned(),
                why,
                draft: draft(SwapKind::LeaveOut, None, Vec::new()),
                saving,
            }
        }
        Why::LighterAtHome(at) | Why::SmallerCanAtHome(at) => {
            let other = &owned.get(*at)?.value;
            let of = other.name.as_str().to_owned();
            let why = match &proposal.why {
                Why::SmallerCanAtHome(_) => ProposalWhy::SmallerCanAtHome { other: of },
                _ => ProposalWhy::LighterAtHome { other: of },
            };
            ProposalView {
                key: format!("bring {} for {name}", other.name.as_str()),
                thing: name.to_owned(),
                why,
                draft: draft(SwapKind::Replace, None, vec![from_home(other)?]),
                saving,
            }
        }
        Why::KitOverParts(_) => ProposalView {
            key: format!("trim the kit of {name}"),
            thing: name.to_owned(),
            why: ProposalWhy::KitOverParts {},
            draft: draft(SwapKind::Trim, Some(format!("{name} without its bag")), vec![from_home(gone)?]),
            saving,
        },
    })
}

/// A thing that is owned as what goes on: at no price.
fn from_home(gear: &Gear) -> Option<AdditionDraft> {
    let weight = gear.weight.as_ref()?;
    // What was weighed stays a figure that is known; a candidate is nothing that the walker's scale has seen.
    let source = if weight.source == WeightSource::Derived { WeightSource::Estimate } else { weight.source };
    Some(AdditionDraft {
        candidate: None,
        name: gear.name.as_str().to_owned(),
        weight: weight.typed.clone(),
        source: Some(source),
        price: "0".to_owned(),
        seen: None,
        offer: None,
        provides: gear.provides.clone(),
        needs: gear.needs.clone(),
        facts: None,
        kind: gear.identity.kind.map(|kind| kind.key.to_owned()),
        assumed: assumed_of(&gear.identity),
        marks: Some(marks_of(gear)),
        qty: 1,
        place: Place::Carried,
    })
}
