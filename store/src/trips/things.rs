//! Things of trips as they were then, and what was said of them after, in the database.

use crate::access::Access;
use crate::convert::{from_json, from_word, jobs, jobs_text, json_text, name, word};
use crate::id::{AccountId, GearId, TripId, TripThingId};
use crate::schema::{trip, trip_thing};
use crate::state::{Audited, rows_of_account, rows_put_back};
use crate::stored::StoredAsJson;
use crate::upsert::{ROWS, upsert};
use crate::{StoreError, Stored};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::gear::{Facts, Gear, Jobs, Name, System, Tags, WeightSource};
use kevyt_core::list::Counts;
use kevyt_core::quantity::Mass;
use kevyt_core::walked::{Taken, Verdict};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A thing on a trip, as it was then.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TripThing {
    /// The trip.
    pub trip: TripId,
    /// The gear that it is; `None` for what is not owned.
    pub gear: Option<GearId>,
    /// What it is.
    pub name: Name,
    /// Its system.
    pub system: System,
    /// Its pieces by place; none of what was only wished for.
    pub counts: Counts,
    /// What one piece weighed, and where the figure came from.
    pub unit: Option<(Mass, WeightSource)>,
    /// Its tags.
    pub tags: Tags,
    /// What one piece did.
    pub provides: Jobs,
    /// What a trip asked of it.
    pub facts: Facts,
    /// Whether it was ticked as in the pack.
    pub is_in: bool,
    /// What is said of it since.
    pub verdict: Verdict,
    /// The same in words.
    pub note: String,
    /// Nights of the trip that its gear was given.
    pub nights: u32,
}

impl TripThing {
    /// A thing as it is now, with pieces where they are; `gear` is what it is known by, if it is the account's own.
    pub fn of(trip: TripId, gear: Option<GearId>, thing: &Gear, counts: Counts) -> TripThing {
        TripThing {
            gear,
            system: thing.system,
            counts,
            unit: thing.weight.as_ref().map(|weight| (weight.unit, weight.source)),
            tags: thing.tags.clone(),
            provides: thing.provides.clone(),
            facts: thing.facts,
            ..TripThing::named(trip, thing.name.clone())
        }
    }

    /// Something that is not owned, and did not come along.
    pub fn named(trip: TripId, name: Name) -> TripThing {
        TripThing {
            trip,
            gear: None,
            name,
            system: System::Other,
            counts: Counts::default(),
            unit: None,
            tags: Tags::default(),
            provides: Jobs::new(),
            facts: Facts::default(),
            is_in: false,
            verdict: Verdict::default(),
            note: String::new(),
            nights: 0,
        }
    }

    /// Pieces that came along.
    pub fn along(&self) -> i64 {
        self.counts.at_work() + i64::from(self.counts.apart)
    }

    /// As core looks at it.
    pub fn taken(&self) -> Taken<GearId> {
        Taken {
            gear: self.gear,
            pieces: self.along(),
            is_bed: Taken::<GearId>::is_bed(&self.tags, &self.provides, &self.facts),
            facts: self.facts,
            verdict: self.verdict.clone(),
        }
    }
}

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = trip_thing, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(crate) struct TripThingRow {
    id: TripThingId,
    account_id: AccountId,
    trip_id: TripId,
    gear_id: Option<GearId>,
    name: String,
    system: String,
    carried: u32,
    worn: u32,
    used_up: u32,
    apart: u32,
    left_home: u32,
    unit_mg: Option<i64>,
    source: Option<String>,
    tags: String,
    provides: String,
    facts: String,
    is_in: bool,
    used: Option<bool>,
    marks: String,
    note: String,
    nights: u32,
    version: i32,
}

impl TripThingRow {
    fn new(access: Access, id: TripThingId, version: i32, thing: &TripThing) -> TripThingRow {
        let Counts { carried, worn, used_up, apart, left } = thing.counts;
        TripThingRow {
            id,
            account_id: access.account(),
            trip_id: thing.trip,
            gear_id: thing.gear,
            name: thing.name.as_str().to_owned(),
            system: word(thing.system),
            carried,
            worn,
            used_up,
            apart,
            left_home: left,
            unit_mg: thing.unit.map(|(mass, _)| mass.mg()),
            source: thing.unit.map(|(_, source)| word(source)),
            tags: thing.tags.to_string(),
            provides: jobs_text(&thing.provides),
            facts: thing.facts.text(),
            is_in: thing.is_in,
            used: thing.verdict.used,
            marks: json_text(&thing.verdict.marks),
            note: thing.note.clone(),
            nights: thing.nights,
            version,
        }
    }

    fn read(self) -> Result<Stored<TripThingId, TripThing>, StoreError> {
        let TripThingRow { carried, worn, used_up, apart, left_home: left, .. } = self;
        let source = self.source.map(|source| from_word("trip_thing.source", &source)).transpose()?;
        let value = TripThing {
            trip: self.trip_id,
            gear: self.gear_id,
            name: name("trip_thing.name", &self.name)?,
            system: from_word("trip_thing.system", &self.system)?,
            counts: Counts { carried, worn, used_up, apart, left },
            unit: self.unit_mg.map(Mass::from_mg).zip(source),
            tags: Tags::parse(&self.tags).map_err(|_| StoreError::Corrupt("trip_thing.tags"))?,
            provides: jobs("trip_thing.provides", &self.provides)?,
            facts: Facts::read("trip_thing.facts", &self.facts)?,
            is_in: self.is_in,
            verdict: Verdict { used: self.used, marks: from_json("trip_thing.marks", &self.marks)? },
            note: self.note,
            nights: self.nights,
        };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

/// The things of a trip, in the order in which they were kept.
pub fn of_trip(
    c: &mut MysqlConnection,
    access: Access,
    trip: TripId,
) -> Result<Vec<Stored<TripThingId, TripThing>>, StoreError> {
    let rows: Vec<TripThingRow> = trip_thing::table
        .filter(trip_thing::trip_id.eq(trip))
        .filter(trip_thing::account_id.eq(access.account()))
        .filter(trip_thing::removed_at.is_null())
        .order(trip_thing::id)
        .select(TripThingRow::as_select())
        .load(c)?;
    rows.into_iter().map(TripThingRow::read).collect()
}

/// The things of all trips of an account.
pub fn of_account(c: &mut MysqlConnection, access: Access) -> Result<Vec<Stored<TripThingId, TripThing>>, StoreError> {
    let there =
        trip::table.filter(trip::account_id.eq(access.account())).filter(trip::removed_at.is_null()).select(trip::id);
    let rows: Vec<TripThingRow> = trip_thing::table
        .filter(trip_thing::account_id.eq(access.account()))
        .filter(trip_thing::removed_at.is_null())
        .filter(trip_thing::trip_id.eq_any(there))
        .order(trip_thing::id)
        .select(TripThingRow::as_select())
        .load(c)?;
    rows.into_iter().map(TripThingRow::read).collect()
}

/// One thing of a trip.
pub fn one(
    c: &mut MysqlConnection,
    access: Access,
    trip: TripId,
    id: TripThingId,
) -> Result<Stored<TripThingId, TripThing>, StoreError> {
    let row: TripThingRow = trip_thing::table
        .filter(trip_thing::id.eq(id))
        .filter(trip_thing::trip_id.eq(trip))
        .filter(trip_thing::account_id.eq(access.account()))
        .filter(trip_thing::removed_at.is_null())
        .select(TripThingRow::as_select())
        .first(c)?;
    row.read()
}

/// Adds things.
pub fn insert_things(
    c: &mut MysqlConnection,
    access: Access,
    things: &[(TripThingId, TripThing)],
) -> Result<(), StoreError> {
    for things in things.chunks(ROWS) {
        let rows: Vec<TripThingRow> =
            things.iter().map(|(id, thing)| TripThingRow::new(access, *id, 1, thing)).collect();
        diesel::insert_into(trip_thing::table).values(rows).execute(c)?;
    }
    Ok(())
}

/// Writes things of a trip.
pub fn update_things(
    c: &mut MysqlConnection,
    access: Access,
    things: &[Stored<TripThingId, TripThing>],
) -> Result<(), StoreError> {
    for things in things.chunks(ROWS) {
        let rows = things.iter().map(|thing| {
            let row = TripThingRow::new(access, thing.id, thing.version + 1, &thing.value);
            (row, trip_thing::removed_at.eq(None::<NaiveDateTime>))
        });
        upsert(trip_thing::table, rows.collect()).execute(c)?;
    }
    Ok(())
}

/// Takes a thing of a trip out of sight.
pub fn remove_thing(c: &mut MysqlConnection, access: Access, id: TripThingId) -> Result<(), StoreError> {
    let mine = trip_thing::table.filter(trip_thing::id.eq(id)).filter(trip_thing::account_id.eq(access.account()));
    diesel::update(mine.filter(trip_thing::removed_at.is_null()))
        .set((trip_thing::removed_at.eq(Utc::now().naive_utc()), trip_thing::version.eq(trip_thing::version + 1)))
        .execute(c)?;
    Ok(())
}

impl Audited for TripThingRow {
    rows_of_account!(TripThingRow, trip_thing, TripThingId);

    rows_put_back!(TripThingRow, trip_thing, TripThingId);
}
