//! Kits: things weighed together.

use super::gear::in_count;
use super::history::{Changed, Recorder};
use super::{Caller, InField, ServiceError, Services};
use crate::store::id::{GearId, KitId};
use crate::store::kits::{self, Kit};
use crate::store::weighings::{self, Weighed, WeighingRecord};
use crate::store::{StoreError, Stored, gear};
use diesel::MysqlConnection;
use kevyt_core::gear::{Gear, KitFigures, Name, Part, Weighing, Weight, WeightSource, kit_figures};
use kevyt_core::limits;
use std::collections::{HashMap, HashSet};

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

/// A kit as it is asked for.
#[derive(Debug, Clone)]
pub struct KitDraft {
    /// Its name.
    pub name: String,
    /// Its things and how many pieces of each.
    pub parts: Vec<(GearId, u32)>,
}

impl Services {
    /// All kits with their figures.
    pub fn kits(&self, caller: Caller) -> Result<Vec<KitView>, ServiceError> {
        Ok(load(&mut *self.connection()?, caller, None)?)
    }

    /// Makes a kit.
    pub fn add_kit(&self, caller: Caller, draft: &KitDraft) -> Result<Changed<KitView>, ServiceError> {
        let id = KitId::fresh();
        self.transaction(|c| {
            let kit = checked(c, caller, draft)?;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            kits::insert(c, caller.account, id, &kit)?;
            let view = one(c, caller, id)?;
            recorder.finish(c, &format!("{} made a kit of {} things.", kit.name.as_str(), kit.parts.len()), view)
        })
    }

    /// Rewrites a kit that was read at `version`.
    pub fn change_kit(
        &self,
        caller: Caller,
        id: KitId,
        version: i32,
        draft: &KitDraft,
    ) -> Result<Changed<KitView>, ServiceError> {
        self.transaction(|c| {
            let kit = checked(c, caller, draft)?;
            let before = one(c, caller, id)?;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            let sorted = |parts: &[(GearId, u32)]| {
                let mut parts = parts.to_vec();
                parts.sort_unstable();
                parts
            };
            if before.kit.value.gone > 0 || sorted(&before.kit.value.parts) != sorted(&kit.parts) {
                // What was weighed was another set of things.
                for record in weighings::of(c, caller.account, &[], &[id])? {
                    recorder.touch(c, [record.id])?;
                    weighings::remove(c, caller.account, record.id)?;
                }
            }
            kits::update(c, caller.account, id, version, &kit)?;
            let mut parts: Vec<GearId> = before.kit.value.parts.iter().map(|part| part.0).collect();
            parts.extend(kit.parts.iter().map(|part| part.0));
            rederive(c, caller, &mut recorder, &parts)?;
            let view = one(c, caller, id)?;
            recorder.finish(c, &format!("{} changed.", kit.name.as_str()), view)
        })
    }

    /// Takes a kit apart; its things stay.
    pub fn remove_kit(&self, caller: Caller, id: KitId, version: i32) -> Result<Changed<()>, ServiceError> {
        self.transaction(|c| {
            let kit = one(c, caller, id)?.kit.value;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            kits::remove(c, caller.account, id, version)?;
            let parts: Vec<GearId> = kit.parts.iter().map(|part| part.0).collect();
            rederive(c, caller, &mut recorder, &parts)?;
            recorder.finish(c, &format!("The kit {} taken apart.", kit.name.as_str()), ())
        })
    }
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
    let kits = kits::all(c, caller.account, ids)?;
    let ids: Vec<KitId> = kits.iter().map(|kit| kit.id).collect();
    let parts: HashSet<GearId> = kits.iter().flat_map(|kit| kit.value.parts.iter().map(|part| part.0)).collect();
    let parts: Vec<GearId> = parts.into_iter().collect();
    let things: HashMap<GearId, Stored<GearId, Gear>> =
        gear::several(c, caller.account, &parts)?.into_iter().map(|thing| (thing.id, thing)).collect();
    let (mut of_kit, mut of_gear) = (HashMap::new(), HashMap::new());
    for record in weighings::of(c, caller.account, &parts, &ids)? {
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

/// Works out again what weighed kits tell of the one part that has no figure of its own, after some things or their kits
/// have changed. A derived figure whose kit no longer gives one goes.
pub(super) fn rederive(
    c: &mut MysqlConnection,
    caller: Caller,
    recorder: &mut Recorder,
    things: &[GearId],
) -> Result<(), ServiceError> {
    if things.is_empty() {
        return Ok(());
    }
    let ids = kits::containing(c, caller.account, things)?;
    let views = load(c, caller, Some(&ids))?;
    let mut derived: HashMap<GearId, Weight> = HashMap::new();
    let mut parts: HashMap<GearId, Stored<GearId, Gear>> = HashMap::new();
    for view in &views {
        parts.extend(view.things.iter().map(|thing| (thing.id, thing.clone())));
        let Some((at, unit)) = view.figures.derived else { continue };
        let Some((id, count)) = view.kit.value.parts.get(at).copied() else { continue };
        // What is left over is as doubtful as the kit and the other parts together.
        let others = view.things.iter().zip(&view.kit.value.parts).filter(|(thing, _)| thing.id != id);
        let doubt = others
            .filter_map(|(thing, part)| Some(thing.value.weight.as_ref()?.half_width?.times(part.1)))
            .chain(view.own.as_ref().map(|own| own.weighing.half_width()))
            .sum::<kevyt_core::quantity::Mass>();
        let half_width = Weighing { total: doubt, pieces: count, step: doubt }.unit();
        let typed = unit.in_grams();
        derived.insert(id, Weight { unit, typed, source: WeightSource::Derived, half_width: Some(half_width) });
    }
    parts.extend(gear::several(c, caller.account, things)?.into_iter().map(|thing| (thing.id, thing)));
    for (id, mut thing) in parts {
        let is_derived = |weight: &Weight| weight.source == WeightSource::Derived;
        let now = thing.value.weight.as_ref();
        let next = derived.remove(&id);
        if now.is_some_and(|weight| !is_derived(weight)) || next.as_ref() == now {
            continue;
        }
        recorder.touch(c, [id])?;
        thing.value.weight = next;
        gear::update(c, caller.account, id, thing.version, &thing.value)?;
    }
    Ok(())
}

fn checked(c: &mut MysqlConnection, caller: Caller, draft: &KitDraft) -> Result<Kit, ServiceError> {
    let name = Name::new(&draft.name).in_field("name")?;
    if !(2..=limits::PARTS).contains(&draft.parts.len()) {
        let detail =
            format!("A kit of {} things can't be made. Choose from 2 to {}.", draft.parts.len(), limits::PARTS);
        return Err(ServiceError::invalid("parts", "out_of_range", detail));
    }
    let ids: Vec<GearId> = draft.parts.iter().map(|part| part.0).collect();
    let there: HashMap<GearId, Gear> =
        gear::several(c, caller.account, &ids)?.into_iter().map(|thing| (thing.id, thing.value)).collect();
    if there.len() != ids.len() {
        let detail = "A thing of the kit is gone, or stands in it twice. Choose the things again.";
        return Err(ServiceError::invalid("parts", "gone", detail));
    }
    for (id, count) in &draft.parts {
        in_count("parts", *count, 1)?;
        if let Some(thing) = there.get(id).filter(|thing| *count > thing.count) {
            let (name, owned) = (thing.name.as_str(), thing.count);
            let detail = format!("{count} of {name} are more than the {owned} owned. Type at most {owned}.");
            return Err(ServiceError::invalid("parts", "more_than_owned", detail));
        }
    }
    Ok(Kit { name, parts: draft.parts.clone(), gone: 0 })
}
