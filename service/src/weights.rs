//! What a thing weighs: as it was weighed last, as was said since, or as a weighed kit tells of it.

use super::write::Write;
use super::{Caller, ServiceError};
use chrono::{NaiveDateTime, Utc};
use diesel::MysqlConnection;
use kevyt_core::gear::{
    Band, Claim, Gear, KitFigures, Makers, Part, Stated, Weighing, Weight, WeightSource, derived_band, kit_figures,
};
use kevyt_core::list::{LineId as CoreLineId, WeighedKit, without_overlinked};
use kevyt_store::id::{GearId, KitId, WeighingId};
use kevyt_store::kits::{self, Kit};
use kevyt_store::weighings::{self, Weighed, WeighingRecord};
use kevyt_store::{StoreError, Stored, gear};
use std::collections::{HashMap, HashSet};

/// What a figure that was typed is said to come from.
pub(super) const TYPED: &str = "typed";

/// A kit with its things and figures.
#[derive(Debug, Clone)]
pub struct KitView {
    /// The kit.
    pub kit: Stored<KitId, Kit>,
    /// Its things, in the order of its parts.
    pub things: Vec<Stored<GearId, Gear>>,
    /// Its own newest weighing.
    pub own: Option<WeighingRecord>,
    /// Its weighing against its parts.
    pub figures: KitFigures,
}

/// Kits whose own weighing counts rather than their parts', the newest first: with name, weighing and parts.
pub(super) fn counting(mut kits: Vec<KitView>) -> Vec<(Kit, Weighing)> {
    kits.retain(|view| view.figures.own_counts);
    kits.sort_by_key(|view| std::cmp::Reverse(view.own.as_ref().map(|own| own.at)));
    kits.into_iter().filter_map(|view| Some((view.kit.value, view.own?.weighing))).collect()
}

/// One kit with its figures.
pub(super) fn one(c: &mut MysqlConnection, caller: Caller, id: KitId) -> Result<KitView, ServiceError> {
    load(c, caller, Some(&[id]))?.pop().ok_or(StoreError::NotFound.into())
}

/// Kits with their figures: a handful of queries however many there are.
pub(super) fn load(c: &mut MysqlConnection, caller: Caller, ids: Option<&[KitId]>) -> Result<Vec<KitView>, StoreError> {
    let kits = kits::all(c, caller.access, ids)?;
    let ids: Vec<KitId> = kits.iter().map(|kit| kit.id).collect();
    let parts: HashSet<GearId> = kits.iter().flat_map(|kit| kit.value.parts.iter().map(|part| part.0)).collect();
    let parts: Vec<GearId> = parts.into_iter().collect();
    let things: HashMap<GearId, Stored<GearId, Gear>> =
        gear::several(c, caller.access, &parts)?.into_iter().map(|thing| (thing.id, thing)).collect();
    let (mut of_kit, mut of_gear) = (HashMap::new(), HashMap::new());
    for record in weighings::of(c, caller.access, &parts, &ids)? {
        // Newest first: the first of each stays.
        match record.of {
            Weighed::Kit(id) => drop(of_kit.entry(id).or_insert(record)),
            Weighed::Gear(id) => drop(of_gear.entry(id).or_insert(record)),
        }
    }
    let views = kits.into_iter().map(|mut kit| {
        kit.value.parts.retain(|part| things.contains_key(&part.0));
        let parts: Vec<Part> = kit
            .value
            .parts
            .iter()
            .map(|(id, count)| Part {
                count: *count,
                weight: things.get(id).and_then(|thing| thing.value.weight.as_ref()).map(|w| (w.unit, w.source)),
                weighed_at: of_gear.get(id).map(|record| record.at.and_utc().timestamp_micros()),
            })
            .collect();
        let own = of_kit.remove(&kit.id).filter(|_| kit.value.gone == 0);
        let weighed = own.as_ref().map(|record| (record.weighing.total, record.at.and_utc().timestamp_micros()));
        let figures = kit_figures(weighed, &parts);
        let things = kit.value.parts.iter().filter_map(|part| things.get(&part.0).cloned()).collect();
        KitView { kit, things, own, figures }
    });
    Ok(views.collect())
}

/// The account's own record of makers' figures.
pub(super) fn makers(c: &mut MysqlConnection, caller: Caller) -> Result<Makers, ServiceError> {
    Ok(Makers::from_pairs(gear::claimed_and_weighed(c, caller.access)?, caller.settings.keeps_far_pairs))
}

/// A weighing of now.
pub(super) fn record(of: Weighed, weighing: Weighing, typed: String, scale: String) -> WeighingRecord {
    WeighingRecord { id: WeighingId::fresh(), of, weighing, typed, scale, at: Utc::now().naive_utc() }
}

/// A time on the clock that weighings and what is said of weights share.
pub(super) fn moment(at: NaiveDateTime) -> i64 {
    at.and_utc().timestamp_micros()
}

/// Writes what hangs on a new weight of a thing. A maker's figure is kept as the claim; one that is said to be weighed is a weighing of
/// one piece on a scale of which nothing is known, and returned; any other is what was stated last.
pub(super) fn resolve(id: GearId, before: Option<&Weight>, after: &mut Gear) -> Option<WeighingRecord> {
    if after.weight.as_ref() == before {
        return None;
    }
    if let Some(weight) = after.weight.as_mut().filter(|weight| weight.source == WeightSource::Weighed) {
        let step = weight.band.map_or(kevyt_core::gear::DEFAULT_STEP, |band| band.high);
        let weighing = Weighing { total: weight.unit, pieces: 1, step };
        weight.band = Some(Band::even(weighing.half_width()));
        return Some(record(Weighed::Gear(id), weighing, weight.typed.clone(), TYPED.to_owned()));
    }
    if let Some(weight) = after.weight.as_ref().filter(|weight| weight.source == WeightSource::Maker) {
        after.claimed = Some(Claim { unit: weight.unit, typed: weight.typed.clone() });
    }
    let stated = after.weight.clone().filter(|weight| weight.source != WeightSource::Derived);
    after.stated = Some(Stated { weight: stated, at: moment(Utc::now().naive_utc()) });
    None
}

impl Write<'_> {
    /// Gives things the figures of their newest weighings, or of what was said since, after some of their weighings have changed.
    pub(super) fn reweigh(&mut self, things: &[GearId]) -> Result<(), ServiceError> {
        let access = self.caller.access;
        self.touch(things.iter().copied())?;
        let mut newest: HashMap<GearId, (Weight, i64)> = HashMap::new();
        for record in weighings::of(self.c, access, things, &[])? {
            if let Weighed::Gear(id) = record.of {
                // Newest first: the first of each stays.
                newest.entry(id).or_insert_with(|| (record.weighing.weight(&record.typed), moment(record.at)));
            }
        }
        let mut stored = gear::several(self.c, access, things)?;
        for Stored { id, value: thing, .. } in &mut stored {
            if let Some(weight) = thing.weight.as_ref().filter(|weight| weight.source == WeightSource::Maker) {
                // Beside a weighing, a maker's figure is what it is compared with.
                thing.claimed.get_or_insert_with(|| Claim { unit: weight.unit, typed: weight.typed.clone() });
            }
            thing.weight = thing.weight_beside(newest.remove(id));
        }
        let rows: Vec<_> = stored.iter().map(|thing| (thing.id, thing.version, &thing.value)).collect();
        gear::update(self.c, access, &rows)?;
        rederive(self, things)
    }
}

/// Works out again what weighed kits tell of the one part that has no figure of its own, after some things or their kits
/// have changed. A derived figure that no kit gives any longer goes. Everything derived is looked at: its doubt hangs on the
/// account's record of makers' figures, which any weighing may change.
pub(super) fn rederive(w: &mut Write<'_>, things: &[GearId]) -> Result<(), ServiceError> {
    let access = w.caller.access;
    let mut open: HashSet<GearId> = things.iter().copied().collect();
    open.extend(gear::derived(w.c, access)?);
    if open.is_empty() {
        return Ok(());
    }
    // A change of one part may tell of any other part of the same kit, and that one may be in other kits too.
    let touched = kits::containing(w.c, access, &Vec::from_iter(open.iter().copied()))?;
    open.extend(kits::parts_of(w.c, access, &touched)?);
    let open = Vec::from_iter(open);
    let ids = kits::containing(w.c, access, &open)?;
    let mut views = load(w.c, w.caller, Some(&ids))?;
    // Where two kits tell of the same part, the one that was weighed last does.
    views.sort_by_key(|view| (std::cmp::Reverse(view.own.as_ref().map(|own| own.at)), view.kit.id));
    let makers = if views.iter().any(|view| view.figures.derived.is_some()) {
        makers(w.c, w.caller)?
    } else {
        Makers::default()
    };
    let mut derived: HashMap<GearId, Weight> = HashMap::new();
    for view in &views {
        if let Some((id, weight)) = told_by(view, &makers) {
            derived.entry(id).or_insert(weight);
        }
    }
    let is_derived = |weight: &Weight| weight.source == WeightSource::Derived;
    let mut changed = gear::several(w.c, access, &open)?;
    changed.retain(|thing| {
        let now = thing.value.weight.as_ref();
        now.is_none_or(is_derived) && derived.get(&thing.id) != now
    });
    w.touch(changed.iter().map(|thing| thing.id))?;
    for thing in &mut changed {
        thing.value.weight = derived.remove(&thing.id);
    }
    let rows: Vec<_> = changed.iter().map(|thing| (thing.id, thing.version, &thing.value)).collect();
    Ok(gear::update(w.c, access, &rows)?)
}

/// What a kit tells of one of its things.
fn told_by(view: &KitView, makers: &Makers) -> Option<(GearId, Weight)> {
    let (at, unit) = view.figures.derived?;
    let (id, count) = view.kit.value.parts.get(at).copied()?;
    let kit = view.own.as_ref()?.weighing.half_width();
    let others = view.things.iter().zip(&view.kit.value.parts).filter(|(thing, _)| thing.id != id);
    let others = others.filter_map(|(thing, part)| Some(makers.band(thing.value.weight.as_ref()?).times(part.1)));
    let band = derived_band(Band::even(kit), others, count);
    Some((id, Weight { unit, typed: unit.in_grams(), source: WeightSource::Derived, band: Some(band) }))
}

/// Of the kits whose own weighing counts, the newest first, those that have all their parts among lines, by their gear.
pub(super) fn weighed_kits(
    counting: &[(Kit, Weighing)],
    line_of: impl Fn(&GearId) -> Option<CoreLineId>,
) -> Vec<WeighedKit> {
    let kits = counting.iter().filter_map(|(kit, weighing)| {
        let part = |(id, count): &(GearId, u32)| Some((line_of(id)?, *count));
        let parts = kit.parts.iter().map(part).collect::<Option<_>>()?;
        Some(WeighedKit { name: kit.name.as_str().to_owned(), weighed: weighing.total, parts })
    });
    without_overlinked(kits.collect())
}
