//! A file laid into an account: every value checked, every key resolved.

use super::Restored;
use super::file::*;
use crate::service::history::Recorder;
use crate::service::{Caller, InField, ServiceError, gear as things};
use crate::store::history::Object;
use crate::store::id::{CandidateId, GearId, KitId, LineId, ListId, SwapId, WeighingId};
use crate::store::kits::{self, Kit};
use crate::store::lists::{self, Counts, PackList};
use crate::store::swaps::{self, SwapRecord};
use crate::store::weighings::{self, Weighed, WeighingRecord};
use crate::store::{candidates, gear};
use diesel::MysqlConnection;
use kevyt_core::gear::{Claim, Gear, Name, Tags, Weighing, Weight};
use kevyt_core::limits;
use kevyt_core::quantity::{Mass, Money, PriceRange};
use kevyt_core::swap::Candidate;
use std::collections::HashMap;

/// What a file's keys have become.
#[derive(Default)]
pub struct Laid {
    gear: HashMap<String, (GearId, u32)>,
    candidates: HashMap<String, CandidateId>,
}

impl Laid {
    /// Writes everything that a file holds.
    pub fn lay(
        mut self,
        c: &mut MysqlConnection,
        caller: Caller,
        recorder: &mut Recorder,
        file: &AccountFile,
    ) -> Result<Restored, ServiceError> {
        let (mut new, mut records) = (Vec::new(), Vec::new());
        for (at, entry) in file.gear.iter().enumerate() {
            let path = format!("gear[{at}]");
            let id = GearId::fresh();
            if self.gear.insert(entry.key.clone(), (id, entry.count)).is_some() {
                return Err(key(&path, &entry.key, "stands twice"));
            }
            new.push((id, thing_of(&path, entry)?));
            records.extend(records_of(&path, Weighed::Gear(id), &entry.weighings)?);
        }
        let mut kits = Vec::new();
        for (at, entry) in file.kits.iter().enumerate() {
            let path = format!("kits[{at}]");
            let id = KitId::fresh();
            let parts = entry
                .parts
                .iter()
                .map(|part| Ok((self.thing(&path, &part.gear)?.0, things::in_count(&path, part.count, 1)?)));
            let parts = parts.collect::<Result<Vec<_>, ServiceError>>()?;
            kits.push((id, Kit { name: Name::new(&entry.name).in_field(&path)?, parts, gone: 0 }));
            records.extend(records_of(&path, Weighed::Kit(id), &entry.weighings)?);
        }
        let touched = new.iter().map(|(id, _)| Object::from(*id)).chain(kits.iter().map(|(id, _)| Object::from(*id)));
        recorder.touch(c, touched.chain(records.iter().map(|record| Object::from(record.id))))?;
        gear::insert(c, caller.account, &new)?;
        for (id, kit) in &kits {
            kits::insert(c, caller.account, *id, kit)?;
        }
        weighings::insert(c, caller.account, &records)?;
        for (at, entry) in file.candidates.iter().enumerate() {
            let path = format!("candidates[{at}]");
            let id = CandidateId::fresh();
            let candidate = Candidate {
                name: Name::new(&entry.name).in_field(&path)?,
                weight: entry.weight.as_ref().map(|weight| weight_of(&path, weight)).transpose()?,
                price: entry.price.as_ref().map(|price| price_of(&path, price)).transpose()?,
                provides: things::in_jobs(&path, &entry.provides)?,
                needs: things::in_jobs(&path, &entry.needs)?,
            };
            candidates::insert(c, caller.account, id, &candidate)?;
            self.candidates.insert(entry.key.clone(), id);
        }
        let mut swap_count = 0;
        for (at, entry) in file.lists.iter().enumerate() {
            self.list(c, caller, recorder, &format!("lists[{at}]"), entry)?;
            swap_count += entry.swaps.len();
        }
        Ok(Restored { gear: new.len(), kits: kits.len(), lists: file.lists.len(), swaps: swap_count })
    }

    fn thing(&self, path: &str, named: &str) -> Result<(GearId, u32), ServiceError> {
        self.gear.get(named).copied().ok_or_else(|| key(path, named, "names no gear of the file"))
    }

    fn list(
        &self,
        c: &mut MysqlConnection,
        caller: Caller,
        recorder: &mut Recorder,
        path: &str,
        entry: &ListEntry,
    ) -> Result<(), ServiceError> {
        let id = ListId::fresh();
        let list = PackList {
            name: Name::new(&entry.name).in_field(path)?,
            note: entry.note.chars().take(200).collect(),
            target: entry
                .target
                .as_ref()
                .map(|target| Ok::<_, ServiceError>((mass(path, target.mg)?, typed(path, &target.typed)?)))
                .transpose()?,
            budget: entry.budget_minor.map(|minor| money(path, minor)).transpose()?,
            hour_rate: money(path, entry.hour_rate_minor)?,
            requires: things::in_jobs(path, &entry.requires)?,
        };
        recorder.touch(c, [id])?;
        lists::insert(c, caller.account, id, &list)?;
        for line in &entry.lines {
            let (gear, owned) = self.thing(path, &line.gear)?;
            let counts = Counts { carried: line.carried, worn: line.worn, used_up: line.used_up };
            let pieces = [counts.carried, counts.worn, counts.used_up].into_iter().fold(0_u32, u32::saturating_add);
            if pieces > owned {
                let detail = format!("At {path}: {pieces} pieces of {} are more than the {owned} owned.", line.gear);
                return Err(ServiceError::invalid(path, "more_than_owned", detail));
            }
            lists::put_line(c, id, gear, counts, None, LineId::fresh())?;
        }
        let lines: HashMap<GearId, LineId> =
            lists::lines(c, caller.account, id)?.iter().map(|line| (line.value.gear.id, line.id)).collect();
        let ids: HashMap<&str, SwapId> = entry.swaps.iter().map(|swap| (swap.key.as_str(), SwapId::fresh())).collect();
        let mut records = Vec::new();
        for (at, swap) in entry.swaps.iter().enumerate() {
            let path = format!("{path}.swaps[{at}]");
            let linked = |keys: &[String]| {
                let of = |named: &String| {
                    ids.get(named.as_str()).copied().ok_or_else(|| key(&path, named, "names no swap of the list"))
                };
                keys.iter().map(of).collect::<Result<Vec<_>, _>>()
            };
            let removed = swap.remove.iter().map(|side| {
                let (gear, _) = self.thing(&path, &side.what)?;
                let line = lines.get(&gear).ok_or_else(|| key(&path, &side.what, "is not on the list"))?;
                Ok((*line, things::in_count(&path, side.qty, 1)?, side.place))
            });
            let added = swap.add.iter().map(|side| {
                let candidate = self.candidates.get(&side.what);
                let candidate = candidate.ok_or_else(|| key(&path, &side.what, "names no candidate of the file"))?;
                Ok((*candidate, things::in_count(&path, side.qty, 1)?, side.place))
            });
            if !(0..=limits::TENTH_HOURS).contains(&swap.tenth_hours) {
                return Err(out_of_range(&path, swap.tenth_hours));
            }
            let record = SwapRecord {
                list: id,
                name: Name::new(&swap.name).in_field(&path)?,
                kind: swap.kind,
                state: swap.state,
                delivery: money(&path, swap.delivery_minor)?,
                resale: money(&path, swap.resale_minor)?,
                tenth_hours: swap.tenth_hours,
                remove: removed.collect::<Result<_, ServiceError>>()?,
                add: added.collect::<Result<_, ServiceError>>()?,
                requires: linked(&swap.requires)?,
                excludes: linked(&swap.excludes)?,
            };
            records.push((ids[swap.key.as_str()], record));
        }
        // Links name other swaps, so that all have to be there first.
        for (id, record) in &records {
            let unlinked = SwapRecord { requires: Vec::new(), excludes: Vec::new(), ..record.clone() };
            swaps::insert(c, caller.account, *id, &unlinked)?;
        }
        for (id, record) in
            records.iter().filter(|(_, record)| !record.requires.is_empty() || !record.excludes.is_empty())
        {
            swaps::update(c, caller.account, *id, 1, record)?;
        }
        Ok(())
    }
}

fn key(path: &str, key: &str, why: &str) -> ServiceError {
    ServiceError::invalid(path, "key", format!("At {path}: the key \"{key}\" {why}."))
}

fn out_of_range(path: &str, value: i64) -> ServiceError {
    ServiceError::invalid(path, "out_of_range", format!("At {path}: {value} is outside what can be taken."))
}

fn mass(path: &str, mg: i64) -> Result<Mass, ServiceError> {
    if (0..=limits::MASS_MG).contains(&mg) { Ok(Mass::from_mg(mg)) } else { Err(out_of_range(path, mg)) }
}

fn money(path: &str, minor: i64) -> Result<Money, ServiceError> {
    if (0..=limits::MONEY_MINOR).contains(&minor) {
        Ok(Money::from_minor(minor))
    } else {
        Err(out_of_range(path, minor))
    }
}

fn typed(path: &str, text: &str) -> Result<String, ServiceError> {
    if text.chars().count() <= 60 {
        return Ok(text.to_owned());
    }
    Err(ServiceError::invalid(path, "too_long", format!("At {path}: \"{text}\" is too long for a typed figure.")))
}

fn weight_of(path: &str, entry: &WeightEntry) -> Result<Weight, ServiceError> {
    let half_width = entry.half_width_mg.map(|mg| mass(path, mg)).transpose()?;
    Ok(Weight { unit: mass(path, entry.mg)?, typed: typed(path, &entry.typed)?, source: entry.source, half_width })
}

fn price_of(path: &str, entry: &PriceEntry) -> Result<PriceRange, ServiceError> {
    let (low, high) = (money(path, entry.low_minor)?, money(path, entry.high_minor)?);
    PriceRange::new(low, high).ok_or_else(|| out_of_range(path, entry.low_minor))
}

fn thing_of(path: &str, entry: &GearEntry) -> Result<Gear, ServiceError> {
    let claimed = entry
        .claimed
        .as_ref()
        .map(|claim| Ok::<_, ServiceError>(Claim { unit: mass(path, claim.mg)?, typed: typed(path, &claim.typed)? }));
    if entry.nights > limits::NIGHTS || entry.kept_at.chars().count() > limits::KEPT_AT {
        return Err(out_of_range(path, entry.nights.into()));
    }
    Ok(Gear {
        name: Name::new(&entry.name).in_field(path)?,
        system: entry.system,
        count: things::in_count(path, entry.count, 1)?,
        weight: entry.weight.as_ref().map(|weight| weight_of(path, weight)).transpose()?,
        claimed: claimed.transpose()?,
        paid: entry.paid.as_ref().map(|price| price_of(path, price)).transpose()?,
        acquired: entry.acquired,
        resale: entry.resale_minor.map(|minor| money(path, minor)).transpose()?,
        status: entry.status,
        kept_at: entry.kept_at.clone(),
        tags: Tags::parse(&entry.tags.join(" ")).map_err(|why| ServiceError::invalid(path, "tags", why))?,
        nights: entry.nights,
        provides: things::in_jobs(path, &entry.provides)?,
        needs: things::in_jobs(path, &entry.needs)?,
    })
}

fn records_of(path: &str, of: Weighed, entries: &[WeighingEntry]) -> Result<Vec<WeighingRecord>, ServiceError> {
    let record = |entry: &WeighingEntry| {
        let weighing = Weighing {
            total: mass(path, entry.total_mg)?,
            pieces: things::in_count(path, entry.pieces, 1)?,
            step: mass(path, entry.step_mg)?,
        };
        let (typed, scale) = (typed(path, &entry.typed)?, typed(path, &entry.scale)?);
        Ok(WeighingRecord { id: WeighingId::fresh(), of, weighing, typed, scale, at: entry.at })
    };
    entries.iter().map(record).collect()
}
