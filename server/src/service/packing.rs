//! A list as it is packed by whoever asks: zones, what is in, what is left to do, and a scale's reading against it.

use super::fields::Patch;
use super::sheet::Laid;
use super::{Caller, InField, ServiceError, Services};
use crate::store::id::{LineId, ListId};
use crate::store::lists::StoredList;
use crate::store::{packing, walkers};
use kevyt_core::gear::DEFAULT_STEP;
use kevyt_core::pack::{Packed, Reconciled, ToDo, Zone, to_do};
use kevyt_core::quantity::Mass;

/// A list as it is packed.
pub struct Packing {
    /// The list.
    pub list: StoredList,
    /// The lines of what the caller carries and wears, in the order of the things.
    pub lines: Vec<LineId>,
    /// The things, and what was said of each.
    pub packed: Packed,
    /// What is left to do.
    pub to_do: Vec<ToDo>,
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
        let lines = mine(&laid);
        let said = lines.iter().map(|line| said.get(line).copied().unwrap_or_default());
        let packed = Packed::new(laid.mine().into_iter().zip(said));
        let trip = list.value.trip.as_ref();
        let reconciled = shows.map(|shows| packed.reconcile(shows - of_me, DEFAULT_STEP, &laid.kits, trip));
        Ok(Packing { to_do: to_do(packed.things(), trip), list, lines, packed, reconciled })
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
        Ok(packing::unpack(c, to, &mine(&laid))?)
    }
}

/// The lines of what the caller carries, in the order of [`Laid::mine`].
fn mine(laid: &Laid) -> Vec<LineId> {
    let all = laid.lines.iter().zip(&laid.things);
    all.filter(|(_, thing)| thing.carrier.walker() == laid.me).map(|(line, _)| line.line.id).collect()
}
