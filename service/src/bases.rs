//! The base weight of lists over time: noted with each change that makes it another, and told with what swaps have done.

use super::fields::{in_day, in_note};
use super::sheet::base_of;
use super::swaps::full_swaps;
use super::write::Write;
use super::{Caller, ServiceError, Services};
use chrono::{NaiveDate, NaiveTime, Utc};
use diesel::MysqlConnection;
use kevyt_core::list::Place;
use kevyt_core::quantity::{Mass, MassUnit, Money};
use kevyt_core::walked::{Cause, Progress, PutOnWeight, Shed, progress};
use kevyt_store::bases::{self, BasePoint};
use kevyt_store::event::{Entry, Event};
use kevyt_store::history::{Item, Object};
use kevyt_store::id::{EarlierId, GearId, KitId, LineId, ListId, SwapId, WalkerId, WeighingId};
use kevyt_store::weighings::{self, Weighed};
use kevyt_store::{StoreError, gear, kits, lines, lists};
use std::collections::{BTreeSet, HashMap};

/// The most points of a list that are told: its newest.
const MOST: i64 = 1_000;

/// How the base weight of a list came to be what it is.
pub struct BaseHistory {
    /// Each base weight that it had, oldest first; the last is the present one.
    pub points: Vec<BasePoint>,
    /// What the swaps that are done have done together.
    pub progress: Progress,
}

impl Services {
    /// How the base weight of a list of the caller's came to be what it is.
    pub fn base_history(&self, caller: Caller, list: ListId) -> Result<BaseHistory, ServiceError> {
        self.read(|c| {
            let (base, unknown) = base_of(c, caller, list)?;
            let mut points = bases::of_list(c, caller.access, list, MOST)?;
            if points.last().is_none_or(|last| (last.base, last.unknown) != (base, unknown)) {
                // What others on the list changed, and what was there before any point was noted, is only seen now.
                let at = Utc::now().naive_utc();
                points.push(BasePoint { at, base, unknown, cause: Cause::Changed, entry: None, what: String::new() });
            }
            Ok(BaseHistory { points, progress: done(c, caller, list)? })
        })
    }
}

/// What the swaps of a list that are done have done together.
fn done(c: &mut MysqlConnection, caller: Caller, list: ListId) -> Result<Progress, ServiceError> {
    let mut swaps = full_swaps(c, caller, list)?;
    swaps.retain(|swap| swap.swap.value.done.is_some());
    let came = |swap: &super::swaps::FullSwap| swap.swap.value.done.clone().map(|done| done.came).unwrap_or_default();
    let ids: Vec<GearId> = swaps.iter().flat_map(came).map(|came| came.gear).collect();
    let weighs: HashMap<GearId, Option<Mass>> = gear::several(c, caller.access, &ids)?
        .into_iter()
        .map(|gear| (gear.id, gear.value.weight.map(|weight| weight.unit)))
        .collect();
    let sheds = swaps.iter().filter_map(|swap| {
        let done = swap.swap.value.done.as_ref()?;
        let stated = swap.candidates.iter().map(|candidate| candidate.value.weight.as_ref().map(|weight| weight.unit));
        let carried = done.came.iter().zip(stated).filter(|(came, _)| came.place == Place::Carried);
        let came = carried.map(|(came, stated)| {
            let now = weighs.get(&came.gear).copied().flatten();
            PutOnWeight { pieces: came.qty, stated, now }
        });
        Some(Shed {
            before: Mass::from_mg(done.base_before_mg),
            after: Mass::from_mg(done.base_after_mg),
            came: came.collect(),
            net: Money::from_minor(done.paid_minor - done.got_minor),
        })
    });
    Ok(progress(sheds))
}

/// The most base weights of earlier days of a list.
const MOST_EARLIER: usize = 500;

impl Write<'_> {
    /// Says what a list weighed on days before: a line each, `2021-07-01, 9.4 kg, Coast path`, in the place of what was said before.
    pub fn say_earlier(&mut self, list: ListId, text: &str) -> Result<(), ServiceError> {
        let Caller { access, preferences, .. } = self.caller;
        let points = read_earlier(text, preferences.mass.total_unit(), Utc::now().date_naive())?;
        let stored = lists::get(self.c, access, list)?;
        self.touch([EarlierId(list.0)])?;
        self.log(Event::EarlierBasesChanged { list: stored.value.name.as_str().to_owned() });
        bases::remove_earlier(self.c, access, list)?;
        let points: Vec<(ListId, BasePoint)> = points.into_iter().map(|point| (list, point)).collect();
        Ok(bases::insert(self.c, access, &points)?)
    }
}

/// Base weights of earlier days, a line each: the day, the mass, and what there is to say, parted by tabs, semicolons or commas. A first line
/// of headings is passed over.
fn read_earlier(text: &str, unit: MassUnit, today: NaiveDate) -> Result<Vec<BasePoint>, ServiceError> {
    let lines = text.lines().enumerate().filter(|(_, line)| !line.trim().is_empty());
    let has_figures = |line: &str| line.contains(|letter: char| letter.is_ascii_digit());
    let lines: Vec<(usize, &str)> = lines.skip_while(|(at, line)| *at == 0 && !has_figures(line)).collect();
    if lines.len() > MOST_EARLIER {
        let detail = format!("{} lines are too many. Give at most {MOST_EARLIER}.", lines.len());
        return Err(ServiceError::invalid("text", "too_many", detail));
    }
    lines.into_iter().map(|(at, line)| read_earlier_line(at + 1, line, unit, today)).collect()
}

fn read_earlier_line(at: usize, line: &str, unit: MassUnit, today: NaiveDate) -> Result<BasePoint, ServiceError> {
    let refuse = |code: &'static str, why: &str| {
        let detail =
            format!("Line {at}: {why} Type a day, a base weight, and what there is to say: 2021-07-01, 9.4 kg, Coast.");
        ServiceError::invalid("text", code, detail)
    };
    let parting = ['\t', ';', ','].into_iter().find(|sign| line.contains(*sign)).unwrap_or(',');
    let mut parts = line.splitn(3, parting).map(|part| part.trim().trim_matches('"'));
    let (day, mass) = (parts.next().unwrap_or_default(), parts.next().unwrap_or_default());
    let on = in_day("text", day).map_err(|_| refuse("not_a_day", &format!("\"{day}\" is not read as a day.")))?;
    if on >= today {
        return Err(refuse("not_earlier", &format!("{on} is not before today.")));
    }
    let base = Mass::parse(mass, unit).map_err(|refused| refuse("not_a_mass", &format!("{refused}")))?;
    let rest = parts.next().unwrap_or_default();
    if parting == ',' && rest.starts_with(|letter: char| letter.is_ascii_digit()) {
        return Err(refuse("two_readings", &format!("is it {mass} or {mass},{rest}? Part with semicolons.")));
    }
    let what = in_note("text", rest)?;
    let at = on.and_time(NaiveTime::from_hms_opt(12, 0, 0).unwrap_or_default());
    Ok(BasePoint { at, base, unknown: 0, cause: Cause::Earlier, entry: None, what })
}

impl Write<'_> {
    /// Notes the base weight of each list that these items make another.
    pub(super) fn note_bases(&mut self, items: &[Item], entry: &Entry) -> Result<(), ServiceError> {
        let lists = self.lists_of(items)?;
        let cause = cause(items);
        let (caller, at) = (self.caller, Utc::now().naive_utc());
        let mut points = Vec::new();
        for list in lists {
            let (base, unknown) = match base_of(self.c, caller, list) {
                Err(ServiceError::Store(StoreError::NotFound)) => continue,
                found => found?,
            };
            let last = bases::of_list(self.c, caller.access, list, 1)?.pop();
            if last.is_none_or(|last| (last.base, last.unknown) != (base, unknown)) {
                let (entry, what) = (Some(entry.clone()), String::new());
                points.push((list, BasePoint { at, base, unknown, cause, entry, what }));
            }
        }
        Ok(bases::insert(self.c, caller.access, &points)?)
    }

    /// Lists of which something that counts is another than it was.
    fn lists_of(&mut self, items: &[Item]) -> Result<BTreeSet<ListId>, ServiceError> {
        let access = self.caller.access;
        let mut lists = BTreeSet::new();
        let (mut things, mut of_kits, mut weighed): (Vec<GearId>, Vec<KitId>, Vec<WeighingId>) = Default::default();
        for item in items {
            let object = item.object;
            if is::<LineId>(object) || is::<WalkerId>(object) {
                let counts = ["carried", "shared", "walker_id", "used_up", "worn", "account_id"];
                lists.extend(item.id_in("list_id").filter(|_| item.changes(&counts)).map(ListId));
            } else if is::<GearId>(object) && item.changes(&["unit_mg"]) {
                things.extend(Object::only::<GearId>([object]));
            }
            of_kits.extend(Object::only::<KitId>([object]));
            weighed.extend(Object::only::<WeighingId>([object]));
        }
        if !weighed.is_empty() {
            let of = weighings::weighed(self.c, access, &weighed)?.into_iter();
            of_kits.extend(of.filter_map(|of| if let Weighed::Kit(kit) = of { Some(kit) } else { None }));
        }
        if !of_kits.is_empty() {
            things.extend(kits::parts_of(self.c, access, &of_kits)?);
        }
        if !things.is_empty() {
            // A list that comes together with its gear, out of a file, brings its own past.
            let came = |list: &ListId| items.iter().any(|item| item.object == (*list).into() && item.comes());
            lists.extend(lines::lists_with(self.c, access, &things)?.into_iter().filter(|list| !came(list)));
        }
        Ok(lists)
    }
}

fn is<T: TryFrom<Object>>(object: Object) -> bool {
    T::try_from(object).is_ok()
}

/// What these items are of a base weight: the first that fits.
fn cause(items: &[Item]) -> Cause {
    let any = |fits: &dyn Fn(&Item) -> bool| items.iter().any(fits);
    let moved = || items.iter().filter(|item| is::<LineId>(item.object));
    let moves = || moved().map(Item::line_counts).map(|(before, after)| Cause::of_move(before, after));
    match () {
        () if any(&|item| is::<SwapId>(item.object) && item.changes(&["done"])) => Cause::Swap,
        () if any(&|item| is::<ListId>(item.object) && item.changes(&["way"])) && moved().next().is_some() => {
            Cause::Counted
        }
        () if moved().next().is_some() => moves().min().unwrap_or(Cause::Changed),
        () if any(&|item| is::<WeighingId>(item.object)) => Cause::Weighed,
        () => Cause::Changed,
    }
}
