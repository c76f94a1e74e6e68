//! The whole account as one file, `kevyt-account/1`, and back. `docs/account.schema.json` is made from the types here.

use super::history::{Changed, Recorder};
use super::{Caller, InField, ServiceError, Services, gear as things};
use crate::store::history::Object;
use crate::store::id::{CandidateId, GearId, KitId, LineId, ListId, SwapId, WeighingId};
use crate::store::kits::{self, Kit};
use crate::store::lists::{self, Counts, PackList};
use crate::store::swaps::{self, SwapRecord};
use crate::store::weighings::{self, Weighed, WeighingRecord};
use crate::store::{Stored, gear};
use chrono::NaiveDateTime;
use diesel::MysqlConnection;
use kevyt_core::gear::{Acquired, Claim, Gear, Jobs, Name, Status, System, Tags, Weighing, Weight, WeightSource};
use kevyt_core::limits;
use kevyt_core::list::Place;
use kevyt_core::quantity::{Mass, Money, PriceRange};
use kevyt_core::swap::{Candidate, SwapKind, SwapState};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, HashMap};

/// The value of `format`.
pub const FORMAT: &str = "kevyt-account/1";

/// Everything of an account but its name and password. Masses in milligrams, money in minor units of `currency`, times in
/// UTC. Keys tie parts of the file together and mean nothing outside it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct AccountFile {
    /// `kevyt-account/1`.
    pub format: String,
    /// The ISO 4217 code of all its money.
    pub currency: String,
    /// All gear.
    pub gear: Vec<GearEntry>,
    /// Things weighed together.
    pub kits: Vec<KitEntry>,
    /// What could be got.
    pub candidates: Vec<CandidateEntry>,
    /// Pack lists with their swaps.
    pub lists: Vec<ListEntry>,
}

/// A thing.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct GearEntry {
    /// Its key in this file.
    pub key: String,
    /// What it is.
    pub name: String,
    /// The key of its system.
    #[schemars(with = "String")]
    pub system: System,
    /// Pieces owned.
    pub count: u32,
    /// What one piece weighs, if known.
    pub weight: Option<WeightEntry>,
    /// The maker's figure for one piece.
    pub claimed: Option<FigureEntry>,
    /// What one piece cost.
    pub paid: Option<PriceEntry>,
    /// new, used, sale, gift or made.
    #[schemars(with = "String")]
    pub acquired: Acquired,
    /// What one piece would bring.
    pub resale_minor: Option<i64>,
    /// owned, lent, for_sale, sold, worn_out or wished.
    #[schemars(with = "String")]
    pub status: Status,
    /// Where it is kept.
    pub kept_at: String,
    /// Words that it is found by.
    pub tags: Vec<String>,
    /// Nights of use.
    pub nights: u32,
    /// Jobs that one piece does, and how much.
    #[schemars(with = "BTreeMap<String, i64>")]
    pub provides: Jobs,
    /// Jobs that one piece needs, and how much.
    #[schemars(with = "BTreeMap<String, i64>")]
    pub needs: Jobs,
    /// Its weighings, newest first.
    pub weighings: Vec<WeighingEntry>,
}

/// What one piece weighs.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WeightEntry {
    /// As held.
    pub mg: i64,
    /// As typed.
    pub typed: String,
    /// weighed, maker, estimate or derived.
    #[schemars(with = "String")]
    pub source: WeightSource,
    /// Half the width of its doubt, where it was weighed or derived.
    pub half_width_mg: Option<i64>,
}

/// A mass.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FigureEntry {
    /// As held.
    pub mg: i64,
    /// As typed.
    pub typed: String,
}

/// A price or range; both ends are the same for a price.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PriceEntry {
    /// The lowest.
    pub low_minor: i64,
    /// The highest.
    pub high_minor: i64,
}

/// A weighing.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WeighingEntry {
    /// All pieces together.
    pub total_mg: i64,
    /// Pieces on the scale.
    pub pieces: u32,
    /// The scale's step.
    pub step_mg: i64,
    /// As typed or shown.
    pub typed: String,
    /// Which scale.
    pub scale: String,
    /// When, in UTC: `2026-09-01T17:20:00`.
    #[schemars(with = "String")]
    pub at: NaiveDateTime,
}

/// A kit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct KitEntry {
    /// Its name.
    pub name: String,
    /// Keys of its things and pieces of each.
    pub parts: Vec<PartEntry>,
    /// Its weighings, newest first.
    pub weighings: Vec<WeighingEntry>,
}

/// A part of a kit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PartEntry {
    /// The key of a thing.
    pub gear: String,
    /// Pieces.
    pub count: u32,
}

/// Something that could be got.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct CandidateEntry {
    /// Its key in this file.
    pub key: String,
    /// What it is.
    pub name: String,
    /// What one piece weighs, if known.
    pub weight: Option<WeightEntry>,
    /// What one piece costs, if known.
    pub price: Option<PriceEntry>,
    /// Jobs that one piece does.
    #[schemars(with = "BTreeMap<String, i64>")]
    pub provides: Jobs,
    /// Jobs that one piece needs.
    #[schemars(with = "BTreeMap<String, i64>")]
    pub needs: Jobs,
}

/// A pack list.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ListEntry {
    /// Its name.
    pub name: String,
    /// A line about the trip.
    pub note: String,
    /// The base weight to reach.
    pub target: Option<FigureEntry>,
    /// The most money to spend.
    pub budget_minor: Option<i64>,
    /// What an hour of making is worth.
    pub hour_rate_minor: i64,
    /// Jobs that the trip requires.
    #[schemars(with = "BTreeMap<String, i64>")]
    pub requires: Jobs,
    /// What is on it.
    pub lines: Vec<LineEntry>,
    /// Its swaps.
    pub swaps: Vec<SwapEntry>,
}

/// A line of a pack list.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct LineEntry {
    /// The key of a thing.
    pub gear: String,
    /// Pieces carried.
    pub carried: u32,
    /// Pieces worn.
    pub worn: u32,
    /// Pieces used up.
    pub used_up: u32,
}

/// A swap.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct SwapEntry {
    /// Its key in this file.
    pub key: String,
    /// Its name.
    pub name: String,
    /// replace, leave_out, trim, make, combine, share, borrow or add.
    #[schemars(with = "String")]
    pub kind: SwapKind,
    /// open, pinned or ruled_out.
    #[schemars(with = "String")]
    pub state: SwapState,
    /// What comes off: keys of things on the list.
    pub remove: Vec<SideEntry>,
    /// What goes on: keys of candidates.
    pub add: Vec<SideEntry>,
    /// Delivery.
    pub delivery_minor: i64,
    /// What the removed gear brings.
    pub resale_minor: i64,
    /// Tenths of an hour of making.
    pub tenth_hours: i64,
    /// Keys of swaps of the same list that must be made with it.
    pub requires: Vec<String>,
    /// Keys of swaps of the same list that can't be made with it.
    pub excludes: Vec<String>,
}

/// An entry on one side of a swap.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct SideEntry {
    /// The key of a thing or a candidate.
    pub what: String,
    /// Pieces.
    pub qty: u32,
    /// carried, worn or used_up.
    #[schemars(with = "String")]
    pub place: Place,
}

/// What a restore brought.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Restored {
    /// Things.
    pub gear: usize,
    /// Kits.
    pub kits: usize,
    /// Pack lists.
    pub lists: usize,
    /// Swaps.
    pub swaps: usize,
}

/// The JSON Schema of [`AccountFile`].
pub fn schema() -> serde_json::Value {
    schemars::schema_for!(AccountFile).to_value()
}

impl Services {
    /// The account as a file.
    pub fn backup(&self, caller: Caller) -> Result<AccountFile, ServiceError> {
        self.transaction(|c| read_account(c, caller))
    }

    /// Puts what a file holds in the place of all gear, kits and lists, in one transaction, undone as one change.
    pub fn restore(&self, caller: Caller, text: &str) -> Result<Changed<Restored>, ServiceError> {
        let mut json = serde_json::Deserializer::from_str(text);
        let file: AccountFile = serde_path_to_error::deserialize(&mut json).map_err(|error| {
            let (path, why) = (error.path().to_string(), error.inner().to_string());
            ServiceError::invalid(path.clone(), "unreadable", format!("At {path}: {why}. A {FORMAT} file is expected."))
        })?;
        if file.format != FORMAT {
            let detail = format!("\"{}\" is not a format known here. A {FORMAT} file is expected.", file.format);
            return Err(ServiceError::invalid("format", "unknown_format", detail));
        }
        let own = caller.preferences.currency.code();
        if file.currency != own {
            let detail = format!(
                "The file counts in {}, this account in {own}. Set the account to {} first.",
                file.currency, file.currency
            );
            return Err(ServiceError::invalid("currency", "other_currency", detail));
        }
        self.transaction(|c| {
            let mut recorder = Recorder::new(caller.account);
            clear(c, caller, &mut recorder)?;
            let restored = Laid::default().lay(c, caller, &mut recorder, &file)?;
            let said = format!("A backup restored: {} things, {} lists.", restored.gear, restored.lists);
            recorder.finish(c, &said, restored)
        })
    }
}

/// Takes all gear, kits and lists out of sight.
fn clear(c: &mut MysqlConnection, caller: Caller, recorder: &mut Recorder) -> Result<(), ServiceError> {
    let things: Vec<GearId> = gear::all(c, caller.account)?.into_iter().map(|thing| thing.id).collect();
    recorder.touch(c, things.iter().copied())?;
    gear::remove_several(c, caller.account, &things)?;
    for kit in kits::all(c, caller.account, None)? {
        recorder.touch(c, [kit.id])?;
        kits::remove(c, caller.account, kit.id, kit.version)?;
    }
    for list in lists::all(c, caller.account)? {
        recorder.touch(c, [list.id])?;
        lists::remove(c, caller.account, list.id, list.version)?;
    }
    Ok(())
}

fn read_account(c: &mut MysqlConnection, caller: Caller) -> Result<AccountFile, ServiceError> {
    let stored = gear::all(c, caller.account)?;
    let kits = kits::all(c, caller.account, None)?;
    let (ids, kit_ids): (Vec<GearId>, Vec<KitId>) =
        (stored.iter().map(|thing| thing.id).collect(), kits.iter().map(|kit| kit.id).collect());
    let mut of_gear: HashMap<GearId, Vec<WeighingEntry>> = HashMap::new();
    let mut of_kit: HashMap<KitId, Vec<WeighingEntry>> = HashMap::new();
    for record in weighings::of(c, caller.account, &ids, &kit_ids)? {
        let entries = match record.of {
            Weighed::Gear(id) => of_gear.entry(id).or_default(),
            Weighed::Kit(id) => of_kit.entry(id).or_default(),
        };
        entries.push(weighing_entry(record));
    }
    let mut file = AccountFile {
        format: FORMAT.to_owned(),
        currency: caller.preferences.currency.code().to_owned(),
        gear: Vec::new(),
        kits: Vec::new(),
        candidates: Vec::new(),
        lists: Vec::new(),
    };
    for list in lists::all(c, caller.account)? {
        let lines = lists::lines(c, caller.account, list.id)?;
        let swaps = swaps::of_list(c, caller.account, list.id)?;
        file.lists.push(list_entry(list.value, &lines, swaps));
    }
    let mut wanted: Vec<CandidateId> = Vec::new();
    for side in file.lists.iter().flat_map(|list| &list.swaps).flat_map(|swap| &swap.add) {
        wanted.extend(uuid::Uuid::parse_str(&side.what).ok().map(CandidateId));
    }
    let mut candidates: Vec<_> = swaps::candidates_by_id(c, caller.account, &wanted)?.into_values().collect();
    candidates.sort_by_key(|candidate| candidate.id);
    file.candidates = candidates.into_iter().map(candidate_entry).collect();
    file.kits = kits
        .into_iter()
        .map(|kit| KitEntry {
            name: kit.value.name.as_str().to_owned(),
            parts: kit
                .value
                .parts
                .iter()
                .map(|(id, count)| PartEntry { gear: id.to_string(), count: *count })
                .collect(),
            weighings: of_kit.remove(&kit.id).unwrap_or_default(),
        })
        .collect();
    file.gear = stored
        .into_iter()
        .map(|thing| {
            let weighings = of_gear.remove(&thing.id).unwrap_or_default();
            gear_entry(thing, weighings)
        })
        .collect();
    Ok(file)
}

fn weight_entry(weight: Weight) -> WeightEntry {
    let half_width_mg = weight.half_width.map(Mass::mg);
    WeightEntry { mg: weight.unit.mg(), typed: weight.typed, source: weight.source, half_width_mg }
}

fn price_entry(price: PriceRange) -> PriceEntry {
    PriceEntry { low_minor: price.low().minor(), high_minor: price.high().minor() }
}

fn weighing_entry(record: WeighingRecord) -> WeighingEntry {
    WeighingEntry {
        total_mg: record.weighing.total.mg(),
        pieces: record.weighing.pieces,
        step_mg: record.weighing.step.mg(),
        typed: record.typed,
        scale: record.scale,
        at: record.at,
    }
}

fn gear_entry(thing: Stored<GearId, Gear>, weighings: Vec<WeighingEntry>) -> GearEntry {
    let gear = thing.value;
    GearEntry {
        key: thing.id.to_string(),
        name: gear.name.as_str().to_owned(),
        system: gear.system,
        count: gear.count,
        weight: gear.weight.map(weight_entry),
        claimed: gear.claimed.map(|claim| FigureEntry { mg: claim.unit.mg(), typed: claim.typed }),
        paid: gear.paid.map(price_entry),
        acquired: gear.acquired,
        resale_minor: gear.resale.map(Money::minor),
        status: gear.status,
        kept_at: gear.kept_at,
        tags: gear.tags.words().to_vec(),
        nights: gear.nights,
        provides: gear.provides,
        needs: gear.needs,
        weighings,
    }
}

fn candidate_entry(stored: Stored<CandidateId, Candidate>) -> CandidateEntry {
    let candidate = stored.value;
    CandidateEntry {
        key: stored.id.to_string(),
        name: candidate.name.as_str().to_owned(),
        weight: candidate.weight.map(weight_entry),
        price: candidate.price.map(price_entry),
        provides: candidate.provides,
        needs: candidate.needs,
    }
}

fn list_entry(
    list: PackList,
    lines: &[Stored<LineId, lists::ListLine>],
    swaps: Vec<Stored<SwapId, SwapRecord>>,
) -> ListEntry {
    let gear_of: HashMap<LineId, GearId> = lines.iter().map(|line| (line.id, line.value.gear.id)).collect();
    let side = |what: String, qty: u32, place: Place| SideEntry { what, qty, place };
    let keys = |ids: &[SwapId]| ids.iter().map(ToString::to_string).collect();
    // A swap whose line is hidden with its gear is hidden too, and so left out.
    let shown = swaps.into_iter().filter(|swap| swap.value.remove.iter().all(|(line, ..)| gear_of.contains_key(line)));
    ListEntry {
        name: list.name.as_str().to_owned(),
        note: list.note,
        target: list.target.map(|(mass, typed)| FigureEntry { mg: mass.mg(), typed }),
        budget_minor: list.budget.map(Money::minor),
        hour_rate_minor: list.hour_rate.minor(),
        requires: list.requires,
        lines: lines
            .iter()
            .map(|line| LineEntry {
                gear: line.value.gear.id.to_string(),
                carried: line.value.counts.carried,
                worn: line.value.counts.worn,
                used_up: line.value.counts.used_up,
            })
            .collect(),
        swaps: shown
            .map(|Stored { id, value, .. }| SwapEntry {
                key: id.to_string(),
                name: value.name.as_str().to_owned(),
                kind: value.kind,
                state: value.state,
                remove: value
                    .remove
                    .iter()
                    .filter_map(|(line, qty, place)| Some(side(gear_of.get(line)?.to_string(), *qty, *place)))
                    .collect(),
                add: value.add.iter().map(|(id, qty, place)| side(id.to_string(), *qty, *place)).collect(),
                delivery_minor: value.delivery.minor(),
                resale_minor: value.resale.minor(),
                tenth_hours: value.tenth_hours,
                requires: keys(&value.requires),
                excludes: keys(&value.excludes),
            })
            .collect(),
    }
}

/// What a file's keys have become.
#[derive(Default)]
pub(super) struct Laid {
    gear: HashMap<String, (GearId, u32)>,
    candidates: HashMap<String, CandidateId>,
}

impl Laid {
    /// Writes everything that a file holds.
    pub(super) fn lay(
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
            kits.push((id, Kit { name: Name::new(&entry.name).in_field(&path)?, parts }));
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
            swaps::insert_candidate(c, caller.account, id, &candidate)?;
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
