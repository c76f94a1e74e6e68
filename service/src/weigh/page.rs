//! What the Weigh step shows: the queue, how far the total can be trusted, what was taken.

use crate::weights::{self, KitView, makers};
use crate::{Caller, ServiceError, Services};
use chrono::NaiveDateTime;
use diesel::MysqlConnection;
use kevyt_core::gear::{
    Band, Gear, Makers, Pieces, Trust, Weighing, Weight, trust, weigh_queue, weighed_after, whole, worth_weighing,
};
use kevyt_core::quantity::Mass;
use kevyt_store::id::{GearId, ListId};
use kevyt_store::kits::Kit;
use kevyt_store::weighings::{self, Weighed, WeighingRecord};
use kevyt_store::{Stored, gear, lines, lists};
use std::collections::HashMap;

/// The most things of the queue whose weighing is foretold.
const FORETOLD: usize = 6;

/// What the Weigh step shows, but for the live reading.
pub struct WeighPage {
    /// Things to weigh, the widest doubt first, each with its pieces that count and its band.
    pub queue: Vec<Queued>,
    /// How far the total can be trusted now.
    pub now: Trust,
    /// How many weighings are foretold, and how far it could be trusted after them.
    pub after: (usize, Trust),
    /// The account's own record of makers' figures.
    pub makers: Makers,
    /// What was weighed since a time, newest first, with the name and the maker's figure of each.
    pub taken: Vec<Taken>,
    /// All kits.
    pub kits: Vec<KitView>,
}

/// A thing in the queue.
pub struct Queued {
    /// The thing.
    pub thing: Stored<GearId, Gear>,
    /// Pieces of it that count.
    pub pieces: u32,
    /// Those of them that count by its own weight. The others are in a kit that counts as it was weighed.
    pub alone: u32,
    /// The band of those pieces together.
    pub band: Band,
    /// When it was last weighed.
    pub weighed_at: Option<NaiveDateTime>,
}

/// A weighing with what it was of.
pub struct Taken {
    /// The weighing.
    pub record: WeighingRecord,
    /// The name of the thing or kit.
    pub name: String,
    /// The maker's figure for one piece.
    pub claimed: Option<Mass>,
}

impl Services {
    /// The queue for a list (its carried pieces) or for all gear at hand, and what was taken since a time.
    pub fn weigh_page(
        &self,
        caller: Caller,
        list: Option<ListId>,
        since: NaiveDateTime,
    ) -> Result<WeighPage, ServiceError> {
        self.read(|c| weigh_page(c, caller, list, since))
    }
}

fn weigh_page(
    c: &mut MysqlConnection,
    caller: Caller,
    list: Option<ListId>,
    since: NaiveDateTime,
) -> Result<WeighPage, ServiceError> {
    let things: Vec<(Stored<GearId, Gear>, u32)> = match list {
        Some(id) => {
            lists::get(c, caller.access, id)?;
            let lines = lines::of_list(c, caller.access, id)?.into_iter();
            lines.map(|line| (line.value.gear, line.value.counts.carried)).filter(|(_, n)| *n > 0).collect()
        }
        None => {
            let all = gear::all(c, caller.access)?.into_iter();
            all.filter(|thing| thing.value.status.is_at_hand())
                .map(|thing| {
                    let n = thing.value.count;
                    (thing, n)
                })
                .collect()
        }
    };
    let makers = makers(c, caller)?;
    let kits = weights::load(c, caller, None)?;
    let (alone, together) = by_own_weight_or_in_kits(&things, weights::counting(kits.clone()));
    let of_things = things.iter().zip(&alone);
    let of_things = of_things.map(|((thing, _), n)| Pieces { count: *n, weight: thing.value.weight.as_ref() });
    // Kits stand behind the things: they are part of the total, not of the queue.
    let of_kits = together.iter().map(|weight| Pieces { count: 1, weight: Some(weight) });
    let pieces: Vec<Pieces<'_>> = of_things.chain(of_kits).collect();
    let order = weigh_queue(&pieces, &makers);
    let mut open = worth_weighing(&pieces, &makers, &order);
    open.truncate(FORETOLD);
    let (now, after) = (trust(pieces.iter().copied(), &makers), weighed_after(&pieces, &makers, &open));
    let last = weighings::last_times(c, caller.access)?;
    let queue = order
        .into_iter()
        .filter_map(|at| things.get(at).zip(alone.get(at)))
        .map(|((thing, pieces), alone)| Queued {
            pieces: *pieces,
            alone: *alone,
            band: thing.value.weight.as_ref().map(|weight| makers.band(weight).times(*alone)).unwrap_or_default(),
            weighed_at: last.get(&thing.id).copied(),
            thing: thing.clone(),
        })
        .collect();
    let taken = weighings::since(c, caller.access, since, 200)?;
    let taken = named(c, caller, taken, &kits)?;
    Ok(WeighPage { queue, now, after: (open.len(), after), makers, taken, kits })
}

/// Pieces of each thing that count by their own weight, and the weight of each kit that is whole among them and so counts as
/// it was weighed.
fn by_own_weight_or_in_kits(
    things: &[(Stored<GearId, Gear>, u32)],
    kits: Vec<(Kit, Weighing)>,
) -> (Vec<u32>, Vec<Weight>) {
    let mut alone: HashMap<&GearId, u32> = things.iter().map(|(thing, pieces)| (&thing.id, *pieces)).collect();
    let at = whole(alone.clone(), kits.iter().map(|(kit, _)| kit.parts.as_slice()));
    let counting: Vec<&(Kit, Weighing)> = at.into_iter().filter_map(|at| kits.get(at)).collect();
    for (part, count) in counting.iter().flat_map(|(kit, _)| &kit.parts) {
        alone.entry(part).and_modify(|pieces| *pieces -= count);
    }
    let weights = counting.iter().map(|(_, weighing)| weighing.weight("")).collect();
    (things.iter().filter_map(|(thing, _)| alone.get(&thing.id).copied()).collect(), weights)
}

/// Weighings with the names of what was weighed; those of removed things are left out.
fn named(
    c: &mut MysqlConnection,
    caller: Caller,
    records: Vec<WeighingRecord>,
    kits: &[KitView],
) -> Result<Vec<Taken>, ServiceError> {
    let of_gear = |record: &WeighingRecord| match record.of {
        Weighed::Gear(id) => Some(id),
        Weighed::Kit(_) => None,
    };
    let ids: Vec<GearId> = records.iter().filter_map(of_gear).collect();
    let things = gear::several(c, caller.access, &ids)?;
    let taken = records.into_iter().filter_map(|record| {
        let (name, claimed) = match record.of {
            Weighed::Gear(id) => {
                let thing = &things.iter().find(|thing| thing.id == id)?.value;
                (thing.name.as_str().to_owned(), thing.claimed.as_ref().map(|claim| claim.unit))
            }
            Weighed::Kit(id) => {
                let view = kits.iter().find(|view| view.kit.id == id)?;
                (view.kit.value.name.as_str().to_owned(), None)
            }
        };
        Some(Taken { record, name, claimed })
    });
    Ok(taken.collect())
}
