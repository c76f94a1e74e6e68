//! A file imported into an account: every value checked as the endpoints check it, every key resolved.

use super::Restored;
use super::file::*;
use crate::fields::{
    check_facts, check_identity, in_count, in_jobs, in_kept_at, in_nights, in_note, in_offer, in_seen, in_thing_note,
    in_trip, in_ways,
};
use crate::together;
use crate::weigh::{in_scale, in_step};
use crate::{InField, ServiceError, Write, kits as kit_rules, lines as line_rules};
use chrono::{Datelike, NaiveDateTime, Timelike};
use kevyt_core::caution::KnownCaution;
use kevyt_core::gear::{Band, Claim, Gear, Name, Stated, Tags, Weighing, Weight};
use kevyt_core::limits;
use kevyt_core::list::Counts;
use kevyt_core::plan::Terms;
use kevyt_core::quantity::{Mass, MassUnit, Money, PriceRange};
use kevyt_core::swap::Candidate;
use kevyt_store::id::{CandidateId, GearId, KitId, LineId, ListId, WalkerId, WeighingId};
use kevyt_store::lines::{self, Carried};
use kevyt_store::lists::{self, PackList};
use kevyt_store::walkers::{self, Walker};
use kevyt_store::weighings::{self, Weighed, WeighingRecord};
use kevyt_store::{candidates, gear, kits};
use std::collections::HashMap;

/// What a file's keys have become.
#[derive(Default)]
pub struct Import {
    pub(super) gear: HashMap<String, GearId>,
    things: HashMap<GearId, Gear>,
    pub(super) candidates: HashMap<String, CandidateId>,
}

/// A list of the file that is there now, but for what is on it.
#[derive(Clone, Copy)]
pub(super) struct ListAt<'f> {
    /// Where it stands in the file.
    pub path: &'f str,
    pub id: ListId,
    pub entry: &'f ListEntry,
}

impl Import {
    /// Writes everything that a file holds into an account that holds nothing.
    pub fn run(mut self, w: &mut Write<'_>, file: &AccountFile) -> Result<Restored, ServiceError> {
        let (mut new, mut records) = (Vec::new(), Vec::new());
        at_most("gear", file.gear.len(), limits::THINGS)?;
        for (at, entry) in file.gear.iter().enumerate() {
            let path = format!("gear[{at}]");
            let id = GearId::fresh();
            if self.gear.insert(entry.key.clone(), id).is_some() {
                return Err(key(&path, &entry.key, "stands twice"));
            }
            let thing = thing_of(&path, entry)?;
            self.things.insert(id, thing.clone());
            new.push((id, thing));
            records.extend(records_of(&path, Weighed::Gear(id), &entry.weighings)?);
        }
        let mut new_kits = Vec::new();
        at_most("kits", file.kits.len(), limits::KITS)?;
        for (at, entry) in file.kits.iter().enumerate() {
            let path = format!("kits[{at}]");
            let id = KitId::fresh();
            let parts = entry
                .parts
                .iter()
                .map(|part| Ok(kit_rules::PartDraft { gear: self.thing(&path, &part.gear)?, count: part.count }));
            let parts = parts.collect::<Result<Vec<_>, ServiceError>>()?;
            let draft = kit_rules::KitDraft { name: entry.name.clone(), parts };
            new_kits.push((id, kit_rules::checked(&draft, &self.things).map_err(|error| error.under(&path))?));
            records.extend(records_of(&path, Weighed::Kit(id), &entry.weighings)?);
        }
        // Weighings are not followed: they come and go with what they are of.
        w.touch(new.iter().map(|(id, _)| *id))?;
        w.touch(new_kits.iter().map(|(id, _)| *id))?;
        gear::insert(w.c, w.caller.access, &new)?;
        kits::insert(w.c, w.caller.access, &new_kits)?;
        weighings::insert(w.c, w.caller.access, &records)?;
        self.import_candidates(w, file)?;
        at_most("lists", file.lists.len(), limits::LISTS)?;
        let lists =
            file.lists.iter().enumerate().map(|(at, entry)| self.import_list(w, &format!("lists[{at}]"), entry));
        let lists: Vec<ListId> = lists.collect::<Result<_, _>>()?;
        self.import_trips(w, file, &lists)?;
        let swaps = file.lists.iter().map(|list| list.swaps.len()).sum();
        Ok(Restored { gear: new.len(), kits: new_kits.len(), lists: file.lists.len(), swaps })
    }

    pub(super) fn thing(&self, path: &str, named: &str) -> Result<GearId, ServiceError> {
        self.gear.get(named).copied().ok_or_else(|| key(path, named, "names no gear of the file"))
    }

    fn import_candidates(&mut self, w: &mut Write<'_>, file: &AccountFile) -> Result<(), ServiceError> {
        let mut new = Vec::new();
        for (at, entry) in file.candidates.iter().enumerate() {
            let path = format!("candidates[{at}]");
            let id = CandidateId::fresh();
            if self.candidates.insert(entry.key.clone(), id).is_some() {
                return Err(key(&path, &entry.key, "stands twice"));
            }
            let candidate = Candidate {
                name: Name::new(&entry.name).in_field(&path)?,
                weight: entry.weight.as_ref().map(|weight| weight_of(&path, weight)).transpose()?,
                price: entry.price.as_ref().map(|price| price_of(&path, price)).transpose()?,
                seen: in_seen(&path, entry.seen.as_ref())?,
                offer: in_offer(&path, entry.offer.as_deref())?,
                provides: in_jobs(&path, &entry.provides)?,
                needs: in_jobs(&path, &entry.needs)?,
                facts: check_facts(&path, entry.facts)?,
                tags: Tags::parse(&entry.tags.join(" ")).map_err(|why| ServiceError::invalid(&path, "tags", why))?,
                identity: check_identity(&path, &entry.identity)?,
            };
            new.push((id, candidate));
        }
        Ok(candidates::insert(w.c, w.caller.access, &new)?)
    }

    fn import_list(&self, w: &mut Write<'_>, path: &str, entry: &ListEntry) -> Result<ListId, ServiceError> {
        let id = ListId::fresh();
        let target = entry.target.as_ref().map(|target| {
            let held = mass(path, target.mg)?;
            Ok::<_, ServiceError>((held, typed(path, &target.typed, held, [MassUnit::Kg, MassUnit::Lb])?))
        });
        let list = PackList {
            name: Name::new(&entry.name).in_field(path)?,
            note: in_note(path, &entry.note)?,
            target: target.transpose()?,
            budget: entry.budget_minor.map(|minor| money(path, minor)).transpose()?,
            hour_rate: money(path, entry.hour_rate_minor)?,
            requires: in_jobs(path, &entry.requires)?,
            trip: entry.trip.clone().map(|trip| in_trip(&format!("{path}.trip"), trip)).transpose()?,
            way: entry.way.clone(),
            ways: in_ways(path, &entry.ways)?,
            terms: in_terms(path, entry.terms.clone())?,
            silenced: in_silenced(path, &entry.silenced)?,
            known: in_known(path, &entry.known)?,
            year_nights: entry.year_nights.map(|nights| in_nights(path, nights)).transpose()?,
            archived: entry.archived,
        };
        w.touch([id])?;
        lists::insert(w.c, w.caller.access, id, &list)?;
        let list = ListAt { path, id, entry };
        let walkers = import_walkers(w, list)?;
        let lines = self.import_lines(w, list, &walkers)?;
        self.import_swaps(w, list, &lines)?;
        self.import_packing(w, list, &lines)?;
        Ok(id)
    }

    fn import_lines(
        &self,
        w: &mut Write<'_>,
        ListAt { path, id: list, entry }: ListAt<'_>,
        walkers: &[WalkerId],
    ) -> Result<HashMap<GearId, LineId>, ServiceError> {
        at_most(&format!("{path}.lines"), entry.lines.len(), limits::LINES)?;
        let (mut line_of, mut new) = (HashMap::new(), Vec::new());
        for (at, line) in entry.lines.iter().enumerate() {
            let path = format!("{path}.lines[{at}]");
            let id = self.thing(&path, &line.gear)?;
            let LineEntry { carried, worn, used_up, apart, left, .. } = *line;
            let counts = Counts { carried, worn, used_up, apart, left };
            let by = line.walker.map(|at| {
                walkers.get(at).copied().ok_or_else(|| key(&path, &at.to_string(), "names no walker of the list"))
            });
            let carried = Carried { shared: line.shared, by: by.transpose()? };
            if let Some(thing) = self.things.get(&id).filter(|_| !line.off) {
                line_rules::check_line("", &counts, thing).map_err(|error| error.under(&path))?;
            }
            let line_id = LineId::fresh();
            if line_of.insert(id, line_id).is_some() {
                return Err(key(&path, &line.gear, "is on the list twice"));
            }
            new.push((line_id, id, counts, carried, !line.off));
        }
        lines::insert(w.c, list, &new)?;
        Ok(line_of)
    }
}

pub(super) fn at_most(path: &str, found: usize, most: usize) -> Result<(), ServiceError> {
    if found <= most {
        return Ok(());
    }
    let detail = format!("At {path}: {found} are too many. At most {most} are taken.");
    Err(ServiceError::invalid(path, "too_many", detail))
}

pub(super) fn key(path: &str, key: &str, why: &str) -> ServiceError {
    ServiceError::invalid(path, "key", format!("At {path}: the key \"{key}\" {why}."))
}

pub(super) fn out_of_range(path: &str, value: impl std::fmt::Display) -> ServiceError {
    ServiceError::invalid(path, "out_of_range", format!("At {path}: {value} is outside what can be taken."))
}

pub(super) fn mass(path: &str, mg: i64) -> Result<Mass, ServiceError> {
    if (0..=limits::MASS_MG).contains(&mg) { Ok(Mass::from_mg(mg)) } else { Err(out_of_range(path, mg)) }
}

/// The most of a sum of what is typed, in milligrams or minor units: far from what could overflow.
const SUM: i64 = i64::MAX / 1_000_000;

/// A sum of masses or of money.
pub(super) fn sum(path: &str, figure: i64) -> Result<i64, ServiceError> {
    if (0..=SUM).contains(&figure) { Ok(figure) } else { Err(out_of_range(path, figure)) }
}

/// Keys of proposals: two names and a few words.
fn in_known(path: &str, known: &[KnownCaution]) -> Result<Vec<KnownCaution>, ServiceError> {
    let path = format!("{path}.known");
    at_most(&path, known.len(), limits::KNOWN_CAUTIONS)?;
    let is_long = |text: &str| text.chars().count() > limits::NAME;
    match known.iter().find(|one| is_long(&one.key) || one.main.as_deref().is_some_and(is_long)) {
        Some(one) => Err(key(&path, &one.key.chars().take(40).collect::<String>(), "is too long")),
        None => Ok(known.to_vec()),
    }
}

fn in_silenced(path: &str, silenced: &[String]) -> Result<Vec<String>, ServiceError> {
    let path = format!("{path}.silenced");
    at_most(&path, silenced.len(), limits::SILENCED)?;
    match silenced.iter().find(|one| one.chars().count() > limits::NAME * 2 + 40) {
        Some(long) => Err(key(&path, &long.chars().take(40).collect::<String>(), "is too long for a proposal")),
        None => Ok(silenced.to_vec()),
    }
}

/// How a plan is asked for.
fn in_terms(path: &str, terms: Terms) -> Result<Terms, ServiceError> {
    if let Some(purse) = terms.purse {
        money(&format!("{path}.terms.purse.now_minor"), purse.now.minor())?;
        money(&format!("{path}.terms.purse.month_minor"), purse.month.minor())?;
        let most = limits::MONEY_MINOR.saturating_mul(i64::try_from(limits::SWAPS).unwrap_or(i64::MAX));
        if let Some(then) = purse.spent_then.map(Money::minor).filter(|then| !(-most..=most).contains(then)) {
            return Err(out_of_range(&format!("{path}.terms.purse.spent_then_minor"), then));
        }
        if purse.resale_after > limits::MONTHS {
            return Err(out_of_range(&format!("{path}.terms.purse.resale_after_months"), purse.resale_after));
        }
    }
    at_most(&format!("{path}.terms.meet"), terms.meet.len(), limits::JOBS)?;
    money(&format!("{path}.terms.selling.postage_minor"), terms.selling.postage.minor())?;
    if terms.selling.fee_tenths > limits::FEE_TENTHS {
        return Err(out_of_range(&format!("{path}.terms.selling.fee_tenths"), terms.selling.fee_tenths));
    }
    Ok(terms)
}

pub(super) fn money(path: &str, minor: i64) -> Result<Money, ServiceError> {
    if (0..=limits::MONEY_MINOR).contains(&minor) {
        Ok(Money::from_minor(minor))
    } else {
        Err(out_of_range(path, minor))
    }
}

/// A figure as it was typed. Where it is bare, as in files of before units were kept with it, the unit is the one in which it has the mass.
pub(super) fn typed(path: &str, text: &str, held: Mass, units: [MassUnit; 2]) -> Result<String, ServiceError> {
    let meant = Mass::typed_as(text, held, units);
    if meant.chars().count() <= limits::TYPED {
        return Ok(meant);
    }
    Err(ServiceError::invalid(path, "too_long", format!("At {path}: \"{text}\" is too long for a typed figure.")))
}

pub(super) const GRAMS_OR_OUNCES: [MassUnit; 2] = [MassUnit::G, MassUnit::Oz];

pub(super) fn time(path: &str, at: NaiveDateTime) -> Result<NaiveDateTime, ServiceError> {
    let (first, last) = limits::YEARS;
    // A leap second is counted as more than a second's nanoseconds; no database column holds one.
    if (first..=last).contains(&at.year()) && at.nanosecond() < 1_000_000_000 {
        Ok(at)
    } else {
        Err(out_of_range(path, at))
    }
}

fn weight_of(path: &str, entry: &WeightEntry) -> Result<Weight, ServiceError> {
    let even = entry.half_width_mg.map(|mg| Ok::<_, ServiceError>(Band::even(mass(path, mg)?)));
    let uneven = entry.doubt.as_ref().map(|doubt| {
        Ok::<_, ServiceError>(Band { low: Mass::ZERO - mass(path, doubt.below_mg)?, high: mass(path, doubt.above_mg)? })
    });
    let unit = mass(path, entry.mg)?;
    Ok(Weight {
        unit,
        typed: typed(path, &entry.typed, unit, GRAMS_OR_OUNCES)?,
        source: entry.source,
        band: uneven.or(even).transpose()?,
    })
}

fn price_of(path: &str, entry: &PriceEntry) -> Result<PriceRange, ServiceError> {
    let (low, high) = (money(path, entry.low_minor)?, money(path, entry.high_minor)?);
    PriceRange::new(low, high).ok_or_else(|| out_of_range(path, entry.low_minor))
}

/// Who walks on a list; the first is whose it is now. Accounts of others are not in a file: they join anew.
fn import_walkers(
    w: &mut Write<'_>,
    ListAt { path, id: list, entry }: ListAt<'_>,
) -> Result<Vec<WalkerId>, ServiceError> {
    at_most(&format!("{path}.walkers"), entry.walkers.len(), limits::WALKERS)?;
    let (_, to) = walkers::open(w.c, w.caller.access, list)?;
    let mut ids = Vec::new();
    for (at, walker) in entry.walkers.iter().enumerate() {
        let path = format!("{path}.walkers[{at}]");
        let id = WalkerId::fresh();
        let walker = Walker {
            name: together::in_name(&walker.name).map_err(|error| error.under(&path))?,
            body: walker.body_mg.map(|mg| together::in_body_mg(&path, Mass::from_mg(mg))).transpose()?,
            account: (at == 0).then(|| to.owner()),
            shows_prices: false,
        };
        walkers::insert(w.c, to, id, &walker)?;
        ids.push(id);
    }
    Ok(ids)
}

fn thing_of(path: &str, entry: &GearEntry) -> Result<Gear, ServiceError> {
    let claimed = entry.claimed.as_ref().map(|claim| {
        let unit = mass(path, claim.mg)?;
        Ok::<_, ServiceError>(Claim { unit, typed: typed(path, &claim.typed, unit, GRAMS_OR_OUNCES)? })
    });
    let stated = entry.stated.as_ref().map(|stated| {
        let weight = stated.weight.as_ref().map(|weight| weight_of(path, weight)).transpose()?;
        Ok::<_, ServiceError>(Stated { weight, at: time(path, stated.at)?.and_utc().timestamp_micros() })
    });
    if entry.nights > limits::NIGHTS {
        return Err(out_of_range(path, entry.nights));
    }
    Ok(Gear {
        name: Name::new(&entry.name).in_field(path)?,
        system: entry.system,
        count: in_count(path, entry.count, 1)?,
        weight: entry.weight.as_ref().map(|weight| weight_of(path, weight)).transpose()?,
        stated: stated.transpose()?,
        claimed: claimed.transpose()?,
        paid: entry.paid.as_ref().map(|price| price_of(path, price)).transpose()?,
        acquired: entry.acquired,
        resale: entry.resale_minor.map(|minor| money(path, minor)).transpose()?,
        resale_at: entry.resale_at.map(|at| time(path, at)).transpose()?.map(|at| at.and_utc().timestamp_micros()),
        status: entry.status,
        kept_at: in_kept_at(&entry.kept_at).map_err(|error| error.under(path))?,
        note: in_thing_note("note", &entry.note).map_err(|error| error.under(path))?,
        tags: Tags::parse(&entry.tags.join(" ")).map_err(|why| ServiceError::invalid(path, "tags", why))?,
        nights: entry.nights,
        provides: in_jobs(path, &entry.provides)?,
        needs: in_jobs(path, &entry.needs)?,
        facts: check_facts(path, entry.facts)?,
        identity: check_identity(path, &entry.identity)?,
    })
}

/// Weighings as a file has them, newest first, made from the oldest on, so that those of one time stay in their order.
fn records_of(path: &str, of: Weighed, entries: &[WeighingEntry]) -> Result<Vec<WeighingRecord>, ServiceError> {
    let record = |(at, entry): (usize, &WeighingEntry)| {
        let path = format!("{path}.weighings[{at}]");
        let weighing = Weighing {
            total: mass(&path, entry.total_mg)?,
            pieces: in_count(&path, entry.pieces, 1)?,
            step: in_step(&path, Mass::from_mg(entry.step_mg))?,
        };
        in_scale(&path, &entry.scale)?;
        let shown = typed(&path, &entry.typed, weighing.total, GRAMS_OR_OUNCES)?;
        let (id, scale, at) = (WeighingId::fresh(), entry.scale.clone(), time(&path, entry.at)?);
        Ok(WeighingRecord { id, of, weighing, typed: shown, scale, at })
    };
    entries.iter().enumerate().rev().map(record).collect()
}
