//! A list as it is packed by whoever asks: zones, what is in, what is left to do, and a scale's reading against it.

use super::fields::Patch;
use super::sheet::Laid;
use super::{Caller, InField, ServiceError, Services};
use crate::store::id::{LineId, ListId};
use crate::store::lists::StoredList;
use crate::store::{packing, walkers};
use kevyt_core::gear::DEFAULT_STEP;
use kevyt_core::list::Thing;
use kevyt_core::pack::{
    Fill, InPack, Reconciled, Room, ToDo, Zone, fill, missing_for_safety, proposed, reconcile, to_do,
};
use kevyt_core::quantity::Mass;
use kevyt_core::trip::Supplies;

/// A list as it is packed. Things are named by their position in [`Packing::things`].
pub struct Packing {
    /// The list.
    pub list: StoredList,
    /// What the caller carries and wears, each with its line.
    pub things: Vec<(LineId, Thing)>,
    /// Where each goes, and whether somebody said so; none for the pack itself and what stays home.
    pub zones: Vec<Option<(Zone, bool)>>,
    /// Whether each is in.
    pub is_in: Vec<bool>,
    /// What the packs hold, as far as it is known, in millilitres.
    pub room: Room,
    /// Every zone: what it holds, and how full it is.
    pub fills: Vec<(Zone, Option<i64>, Fill)>,
    /// What is left to do.
    pub to_do: Vec<ToDo>,
    /// What safety or medicine needs and is not in.
    pub missing: Vec<usize>,
    /// A reading against the list, if there is one.
    pub reconciled: Option<Reconciled>,
}

/// A reading of the packed pack, as typed.
#[derive(Debug, Clone, Default)]
pub struct Reading {
    /// What the scale shows; empty for none.
    pub shows: String,
    /// What it shows of the walker alone, if they stood on it with the pack; empty for nothing.
    pub of_me: String,
}

impl Services {
    /// A list as the caller packs it.
    pub fn packing(&self, caller: Caller, id: ListId, reading: &Reading) -> Result<Packing, ServiceError> {
        let typed = |field: &str, text: &str| match text.trim() {
            "" => Ok(None),
            text => Mass::parse(text, caller.preferences.mass.table_unit()).in_field(field).map(Some),
        };
        let shows = typed("reading", &reading.shows)?;
        let of_me = typed("of_me", &reading.of_me)?.unwrap_or_default();
        if shows.is_some_and(|shows| shows < of_me) {
            let detail = "The pack and you weigh less than you alone. Type both as the same scale shows them.";
            return Err(ServiceError::invalid("of_me", "out_of_range", detail));
        }
        let (list, laid, said) = self.read(|c| {
            let (list, to) = walkers::open(c, caller.access, id)?;
            Ok((list, Laid::out(c, caller, to)?, packing::of_list(c, to)?))
        })?;
        let mine = laid.lines.iter().zip(&laid.things).filter(|(_, thing)| thing.carrier.walker() == laid.me);
        let things: Vec<(LineId, Thing)> = mine.map(|(line, thing)| (line.line.id, thing.clone())).collect();
        let packed: Vec<packing::Packed> =
            things.iter().map(|(line, _)| said.get(line).copied().unwrap_or_default()).collect();
        let zones: Vec<Option<(Zone, bool)>> = things
            .iter()
            .zip(&packed)
            .map(|((_, thing), packed)| {
                let own = proposed(thing)?;
                Some(packed.zone.map_or((own, false), |zone| (zone, true)))
            })
            .collect();
        let is_in: Vec<bool> = packed.iter().map(|packed| packed.is_in).collect();
        let all: Vec<Thing> = things.iter().map(|(_, thing)| thing.clone()).collect();
        let room = Room::of(&all);
        let fills = Zone::ALL.into_iter().map(|zone| {
            let at: Vec<usize> = (0..all.len()).filter(|&at| zones[at].is_some_and(|(of, _)| of == zone)).collect();
            let of_zone: Vec<&Thing> = at.iter().map(|&at| &all[at]).collect();
            let holds = zone.litres_by_default(room.0).filter(|_| room.0 > 0);
            let fill = fill(&of_zone, holds);
            (zone, holds, Fill { over: fill.over.iter().map(|&over| at[over]).collect(), ..fill })
        });
        let loaded = list.value.trip.as_ref().map_or(Mass::ZERO, |trip| {
            let food = Supplies::of(trip).food_by_carry.first().copied().unwrap_or_default();
            food + Mass::from_mg(trip.start_ml.saturating_mul(1_000))
        });
        // What is on the walker is on no scale with the pack; the pack itself is, whatever is ticked. With nothing ticked it is all in.
        let in_pack = (0..all.len()).filter(|&at| zones[at].is_none_or(|(zone, _)| zone != Zone::OnMe));
        let at: Vec<usize> = in_pack.collect();
        let is_all = !is_in.contains(&true);
        let counts = |at: usize| is_all || is_in[at] || zones[at].is_none();
        let weighed: Vec<InPack<'_>> = at.iter().map(|&at| InPack { thing: &all[at], is_in: counts(at) }).collect();
        let reconciled = shows.map(|shows| {
            let mut found = reconcile(shows - of_me, DEFAULT_STEP, &weighed, loaded);
            found.causes.iter_mut().filter_map(|cause| cause.of.as_mut()).for_each(|of| *of = at[*of]);
            found
        });
        let is_settled = |at: usize| is_in[at] || zones[at].is_none();
        Ok(Packing {
            to_do: to_do(&all, list.value.trip.as_ref()),
            missing: missing_for_safety(&all, &(0..all.len()).map(is_settled).collect::<Vec<_>>()),
            fills: fills.collect(),
            list,
            things,
            zones,
            is_in,
            room,
            reconciled,
        })
    }

    /// Says of a line whether it is in, or where it goes, or both.
    pub fn pack(
        &self,
        caller: Caller,
        list: ListId,
        line: LineId,
        is_in: Option<bool>,
        zone: &Patch<Zone>,
    ) -> Result<(), ServiceError> {
        let zone = match zone {
            Patch::Keep => None,
            Patch::Clear => Some(None),
            Patch::Set(zone) => Some(Some(*zone)),
        };
        let c = &mut *self.connection()?;
        let (_, to) = walkers::open(c, caller.access, list)?;
        Ok(packing::put(c, to, line, is_in, zone)?)
    }

    /// Takes the ticks of what the caller carries away; others go on with theirs.
    pub fn unpack(&self, caller: Caller, list: ListId) -> Result<(), ServiceError> {
        let c = &mut *self.connection()?;
        let (_, to) = walkers::open(c, caller.access, list)?;
        let laid = Laid::out(c, caller, to)?;
        let mine = laid.lines.iter().zip(&laid.things).filter(|(_, thing)| thing.carrier.walker() == laid.me);
        let lines: Vec<LineId> = mine.map(|(line, _)| line.line.id).collect();
        Ok(packing::unpack(c, to, &lines)?)
    }
}
