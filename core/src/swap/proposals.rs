//! Proposals of Kevyt's own: what a list could do without, or with something lighter that is at home. Nothing that safety or medicine needs is
//! ever proposed.

use crate::gear::{
    EMERGENCY, Facts, Gear, Guard, Identity, Job, Jobs, Kind, MEDICAL, Need, Tags, is_guarded, known_job,
};
use crate::list::{GAS_CAN, LineId, Place, Thing, WholeKit, balance};
use crate::quantity::Mass;
use crate::steps::Steps;
use std::collections::{BTreeSet, HashMap};

/// Why something is proposed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Why {
    /// It was carried on so many trips and never used.
    NeverUsed(usize),
    /// One piece can stay home: these things of its kind do its jobs (positions; its own other pieces among them).
    DoneByOthers(Vec<usize>),
    /// Something lighter does the same, and is at home (position on the shelf).
    LighterAtHome(usize),
    /// A can with less gas is enough for the trip, and is at home (position on the shelf).
    SmallerCanAtHome(usize),
    /// The kit that it is part of weighed so much more than its parts: bags, straps, strings.
    KitOverParts(Mass),
}

/// A proposal about one piece of a thing; about all pieces that are carried of what was never used.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Proposal {
    /// The thing's position.
    pub thing: usize,
    /// Why.
    pub why: Why,
    /// What it saves of base weight.
    pub saving: Mass,
}

/// Things held against one another, in all: some tenths of a second.
pub const PROPOSAL_STEPS: u64 = 5_000_000;
/// The least that is worth proposing.
const LEAST: Mass = Mass::from_mg(5_000);

/// What trips have taught of a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Learnt {
    /// On how many trips it was carried, if it was never used; see [`crate::walked::Habit::never_used`].
    pub never_used: Option<usize>,
    /// Whether it was wished for when it stayed home: it is not proposed for leaving out again.
    pub is_missed: bool,
}

/// A list as it is looked at for proposals.
#[derive(Debug, Clone, Copy)]
pub struct Looked<'a> {
    /// What serves the walker.
    pub things: &'a [Thing],
    /// Positions of what is theirs alone.
    pub own: &'a [usize],
    /// What trips have taught of each of the things.
    pub learnt: &'a [Learnt],
    /// What is at home.
    pub shelf: &'a [Thing],
    /// What the trip requires.
    pub required: &'a Jobs,
    /// How much gas it takes.
    pub gas: Mass,
    /// Kits that are whole on the list.
    pub kits: &'a [WholeKit<'a>],
}

/// What is proposed for a list, most grams first. The heaviest things are looked at first: where the steps run out, the lightest are left.
pub fn proposals(looked: &Looked<'_>, steps: &mut Steps<'_>) -> Vec<Proposal> {
    let Looked { things, own, learnt, shelf, required, gas, kits } = *looked;
    let balance = balance(things, required);
    let lacking = |job: &str| balance.get(job).copied().unwrap_or_default();
    let contents = |thing: &Thing| thing.facts.contents.unwrap_or_default();
    let held: Mass = things.iter().map(|thing| contents(thing).times(thing.line.counts.packed())).sum();
    let spared: Vec<bool> = things.iter().map(|thing| spared(&thing.line.name, &thing.identity)).collect();
    let mut found = Vec::new();
    let mut carried: Vec<usize> =
        own.iter().copied().filter(|&at| things[at].line.counts.carried > 0 && is_free(&things[at])).collect();
    carried.sort_by_key(|&at| std::cmp::Reverse(things[at].line.unit()));
    for at in carried {
        if steps.take(things.len() + shelf.len()).is_err() {
            break;
        }
        let thing = &things[at];
        let Some(unit) = thing.line.unit().filter(|unit| *unit >= LEAST) else { continue };
        let provides = &thing.line.provides;
        let Learnt { never_used, is_missed } = learnt.get(at).copied().unwrap_or_default();
        let carried = thing.line.counts.carried;
        let leaves = |(job, amount): (&Job, &i64)| lacking(job.as_str()) + amount * i64::from(carried) <= 0;
        // Only what is known to be dispensable, not what isn't known to be needed.
        let kind = thing.identity.kind;
        // What such things usually do counts too, though somebody has said that this one doesn't: a bottle is water carried.
        let is_short =
            |kind: &Kind| kind.provides.keys().any(|job| lacking(job.as_str()) > 0 && !provides.contains_key(job));
        let may_go = spared[at] && !kind.is_some_and(is_short) && provides.iter().all(leaves);
        if let Some(trips) = never_used.filter(|_| may_go) {
            let saving = unit.times(carried);
            found.push(Proposal { thing: at, why: Why::NeverUsed(trips), saving });
            continue;
        }
        // One too many of its own kind; a tent pole is no walking pole.
        let others: BTreeSet<usize> = (0..things.len())
            .filter(|&other| {
                let pieces = things[other].line.counts.at_work() - i64::from(other == at);
                let does = || provides.keys().any(|job| things[other].provides(job.as_str()) > 0);
                pieces > 0 && spared[at] && kind.is_some() && does() && things[other].identity.kind == kind
            })
            .collect();
        let is_done = |job: &str| others.iter().any(|other| things[*other].provides(job) > 0);
        let spare = provides.iter().all(|(job, amount)| lacking(job.as_str()) + amount <= 0 && is_done(job.as_str()));
        if !provides.is_empty() && spare && !is_missed {
            found.push(Proposal { thing: at, why: Why::DoneByOthers(others.into_iter().collect()), saving: unit });
            continue;
        }
        let lightest = |fits: &dyn Fn(&Thing) -> bool| {
            let lighter = shelf.iter().enumerate().filter_map(|(at, other)| Some((other.line.unit()?, at, other)));
            let lighter = lighter.filter(|(mass, _, other)| *mass + LEAST <= unit && is_free(other) && fits(other));
            lighter.min_by_key(|(mass, at, _)| (*mass, *at)).map(|(mass, at, _)| (mass, at))
        };
        // Of its sort: a tent pole at home is no walking pole, and a bag no container.
        let is_like = |other: &Thing| {
            let marks = &other.line.tags;
            let kinds = (thing.identity.kind, other.identity.kind);
            let is_same = !matches!(kinds, (Some(one), Some(other)) if one != other);
            is_same && thing.system == other.system && thing.line.tags.marks().all(|mark| marks.has(mark.key))
        };
        let does_as_much = |other: &Thing| {
            let needed = |job: &str, of: &Thing| of.line.needs.get(job).copied().unwrap_or_default();
            let change =
                |job: &str| thing.provides(job) - other.provides(job) + needed(job, other) - needed(job, thing);
            let jobs = provides.keys().chain(other.line.needs.keys());
            is_like(other)
                && provides.keys().all(|job| other.provides(job.as_str()) > 0)
                && jobs
                    .into_iter()
                    .all(|job| lacking(job.as_str()) + change(job.as_str()) <= lacking(job.as_str()).max(0))
        };
        if !provides.is_empty()
            && let Some((mass, other)) = lightest(&does_as_much)
        {
            found.push(Proposal { thing: at, why: Why::LighterAtHome(other), saving: unit - mass });
        }
        let is_enough = |other: &Thing| other.has(GAS_CAN) && held - contents(thing) + contents(other) >= gas;
        if thing.has(GAS_CAN)
            && gas > Mass::ZERO
            && held >= gas
            && let Some((mass, other)) = lightest(&is_enough)
        {
            found.push(Proposal { thing: at, why: Why::SmallerCanAtHome(other), saving: unit - mass });
        }
    }
    let owned: HashMap<&LineId, usize> = own.iter().map(|&at| (&things[at].line.id, at)).collect();
    for kit in kits.iter().filter(|kit| kit.place == Place::Carried && kit.correction >= LEAST) {
        let parts: Option<Vec<usize>> = kit.kit.parts.iter().map(|(line, _)| owned.get(line).copied()).collect();
        let Some(parts) = parts.filter(|parts| parts.iter().all(|&at| is_free(&things[at]))) else { continue };
        let heaviest =
            parts.into_iter().filter(|&at| things[at].line.unit().is_some()).max_by_key(|&at| things[at].unit());
        found.extend(heaviest.map(|thing| Proposal {
            thing,
            why: Why::KitOverParts(kit.correction),
            saving: kit.correction,
        }));
    }
    found.sort_by_key(|proposal| (std::cmp::Reverse(proposal.saving), proposal.thing));
    once_a_job(found, things)
}

/// Jobs that nothing is proposed for beside those of safety: warmth by day, what mends the rest, and what a pack takes, which hangs on all that
/// is in it.
const NOT_PROPOSED: [&str; 6] = ["warm_layer", "warm_hat", "gloves", "repair", "room", "load"];

/// Whether it may be proposed to leave a thing out: it is known to be dispensable, and nothing about it is a matter of safety or medicine, or of
/// warmth.
pub fn may_be_left_out(gear: &Gear) -> bool {
    spared(gear.name.as_str(), &gear.identity) && is_no_matter_of_safety(&gear.provides, &gear.tags, &gear.facts)
}

/// Whether a thing is known to be dispensable: its kind may be spared, or its owner calls what has no kind a want, and no word of its name says
/// otherwise.
fn spared(name: &str, identity: &Identity) -> bool {
    let is_dispensable = match identity.kind {
        Some(kind) if !kind.is_none() => kind.guard != Guard::Never && identity.need() != Need::Need,
        _ => identity.need == Some(Need::Want),
    };
    is_dispensable && !identity.keep && !is_guarded(name)
}

/// Whether nothing about a thing is a matter of safety or medicine, or of warmth.
fn is_no_matter_of_safety(provides: &Jobs, tags: &Tags, facts: &Facts) -> bool {
    let is_kept = |job: &Job| known_job(job).is_some_and(|known| known.safety) || NOT_PROPOSED.contains(&job.as_str());
    !provides.keys().any(is_kept)
        && !tags.has(MEDICAL)
        && !tags.has(EMERGENCY)
        && facts.rating.is_none()
        && facts.warms.is_none()
}

fn is_free(thing: &Thing) -> bool {
    !thing.identity.keep && is_no_matter_of_safety(&thing.line.provides, &thing.line.tags, &thing.facts)
}

/// Of things that do each other's jobs the heaviest alone: with it gone, the other is needed.
fn once_a_job(found: Vec<Proposal>, things: &[Thing]) -> Vec<Proposal> {
    let goes = |proposal: &Proposal| matches!(proposal.why, Why::DoneByOthers(_) | Why::NeverUsed(_));
    let mut kept: Vec<Proposal> = Vec::new();
    for proposal in found {
        let does = |at: usize| things[at].line.provides.keys();
        let is_same =
            |other: &Proposal| goes(other) && does(other.thing).any(|job| does(proposal.thing).any(|own| own == job));
        if !goes(&proposal) || !kept.iter().any(is_same) {
            kept.push(proposal);
        }
    }
    kept
}
