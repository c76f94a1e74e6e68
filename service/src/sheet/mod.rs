//! A list as people look at it: what it adds up to, every way of counting, the trip day by day, cautions with what would quiet them,
//! and who carries what. All of it is core's; here it is only brought together.

mod snapshot;
mod splits;
mod trip;

pub use snapshot::SheetLine;
use snapshot::place_of;
pub(super) use snapshot::{ListSnapshot, asked, base_of, carrier};
pub use splits::Splits;
pub(crate) use trip::raised;
pub use trip::{OnShelf, TripSheet};

use super::{Caller, ServiceError, Services};
use diesel::MysqlConnection;
use kevyt_core::exchange::TripList;
use kevyt_core::gear::{Job, Pieces, Trust, trust};
use kevyt_core::list::{Thing, Totals, Way, added_up, class, counted_by, heavy_few};
use kevyt_core::quantity::{Mass, PriceRange};
use kevyt_core::together::{Split, lacks, to_split};
use kevyt_core::trip::{Load, Loaded, loaded};
use kevyt_store::access::{Role, ToList};
use kevyt_store::account::{Digest, Preferences, Settings};
use kevyt_store::id::{LinkId, ListId, SessionId};
use kevyt_store::links::{self, Link};
use kevyt_store::lists::StoredList;
use kevyt_store::walkers::{self, StoredWalker};
use kevyt_store::{accounts, candidates};
use trip::{Beside, work_out};

/// What one walker carries, and would lack alone.
#[derive(Debug, Clone)]
pub struct WalkerSheet {
    /// The walker.
    pub walker: StoredWalker,
    /// What they carry and wear, added up.
    pub totals: Totals,
    /// What they would lack alone.
    pub lacks: Vec<Job>,
    /// Their pack as it is loaded at the start; positions are those of the list's lines.
    pub loaded: Loaded,
}

/// A list as people look at it.
#[derive(Debug, Clone)]
pub struct Sheet {
    /// The list.
    pub list: StoredList,
    /// What the caller is to it.
    pub role: Role,
    /// Whose it is.
    pub owner: String,
    /// Its lines.
    pub lines: Vec<SheetLine>,
    /// The same as core has them.
    pub things: Vec<Thing>,
    /// The caller's place among the walkers.
    pub me: usize,
    /// How the caller counts the heavy few, and classes.
    pub settings: Settings,
    /// What the caller carries and wears, added up.
    pub totals: Totals,
    /// How far the base may be off, likely and at worst.
    pub trust: Trust,
    /// Kits that count in it as they were weighed: name, weighing, and that less what its parts add up to.
    pub kits: Vec<(String, Mass, Mass)>,
    /// The same by every way of counting.
    pub ways: Vec<(String, Totals)>,
    /// What the heavy few weigh.
    pub heavy_few: Mass,
    /// The class of its base weight, 0 the lightest.
    pub class: usize,
    /// The caller's pack as it is loaded at the start; positions are those of the lines.
    pub loaded: Loaded,
    /// The trip; `None` until somebody says what it is.
    pub trip: Option<TripSheet>,
    /// Who walks; none where nobody else does.
    pub walkers: Vec<WalkerSheet>,
    /// Positions of the shared lines and the most even split of them.
    pub split: Option<(Vec<usize>, Split)>,
    /// Links that open it; the owner's to see.
    pub links: Vec<(LinkId, Link)>,
}

/// A list with all that its sheet is calculated from.
pub struct SheetRead {
    caller: Caller,
    list: StoredList,
    role: Role,
    owner: String,
    snapshot: ListSnapshot,
    beside: Beside,
    links: Vec<(LinkId, Link)>,
}

/// A list to take elsewhere.
pub struct ListFile {
    /// What it is called.
    pub name: String,
    /// What its walkers are called.
    pub walkers: Vec<String>,
    /// What one piece of each thing cost, if that is known and shown.
    pub prices: Vec<Option<PriceRange>>,
    /// The list.
    pub list: TripList,
}

impl Services {
    /// A list of the caller's, or one that they have joined. To be calculated where no connection is held.
    pub fn sheet(&self, caller: Caller, id: ListId) -> Result<SheetRead, ServiceError> {
        self.read(|c| {
            let (list, to) = walkers::open(c, caller.access, id)?;
            load(c, caller, list, to)
        })
    }

    /// Works a sheet out.
    pub fn worked_out(&self, read: SheetRead) -> Sheet {
        work_sheet_out(read, &self.splits)
    }

    /// A list as a link opens it, in the units of whose it is. Nothing of the owner but the list is looked at: neither shelf nor body
    /// weight.
    pub fn shared_sheet(&self, digest: &Digest) -> Result<(SheetRead, Link, Preferences), ServiceError> {
        self.read(|c| {
            let (_, link, list, to) = links::open(c, digest)?;
            let owner = accounts::get(c, to.as_owner())?.value;
            let settings = Settings { body_mg: None, ..owner.settings };
            let (access, session) = (to.as_owner(), SessionId(uuid::Uuid::nil()));
            let reader = Caller { access, session, preferences: owner.preferences, settings, request: None };
            Ok((load(c, reader, list, to)?, link, owner.preferences))
        })
    }

    /// A list as the open formats have it, with its name, what its walkers are called, and what its things cost as far as the caller sees it.
    pub fn list_file(&self, caller: Caller, id: ListId) -> Result<ListFile, ServiceError> {
        self.read(|c| {
            let (list, to) = walkers::open(c, caller.access, id)?;
            let snapshot = ListSnapshot::load(c, caller, to)?;
            let price = |line: &SheetLine| line.line.value.gear.value.paid.filter(|_| line.shows_price);
            Ok(ListFile {
                name: list.value.name.as_str().to_owned(),
                walkers: snapshot.walkers.iter().map(|walker| walker.value.name.clone()).collect(),
                prices: snapshot.lines.iter().map(price).collect(),
                list: snapshot.file(caller, &list.value),
            })
        })
    }
}

fn load(c: &mut MysqlConnection, caller: Caller, list: StoredList, to: ToList) -> Result<SheetRead, ServiceError> {
    let snapshot = ListSnapshot::load(c, caller, to)?;
    // What a reader's link opens is the list, not what stands beside it.
    let is_reader = to.role() == Role::Reader;
    let beside =
        if is_reader || list.value.trip.is_none() { Beside::default() } else { beside(c, caller, to, &snapshot)? };
    let links = if to.role() == Role::Owner { links::of_list(c, to)? } else { Vec::new() };
    // By the name that others see; who signs in by which name is nothing to a reader.
    let owner = match place_of(&snapshot.walkers, to.owner()) {
        Some(at) => snapshot.walkers[at].value.name.clone(),
        None if is_reader => String::new(),
        None => walkers::account_name(c, to.owner())?,
    };
    Ok(SheetRead { caller, list, role: to.role(), owner, snapshot, beside, links })
}

fn work_sheet_out(read: SheetRead, splits: &Splits) -> Sheet {
    let SheetRead { caller, mut list, role, owner, mut snapshot, beside, links } = read;
    if role != Role::Owner {
        // What the owner knows nobody else has been told.
        list.value.known.clear();
    }
    let settings = caller.settings;
    let (shared, masses, own) = to_split(&snapshot.things, snapshot.walkers.len());
    let split = splits.even(own, snapshot.bodies(), masses).map(|split| (shared, split));
    if role == Role::Reader {
        snapshot.walkers.iter_mut().for_each(|walker| walker.value.body = None);
    }
    let mine = snapshot.mine();
    let (totals, whole) = added_up(mine.iter().map(|thing| &thing.line), &snapshot.kits);
    let kits = whole.iter().map(|whole| (whole.kit.name.clone(), whole.kit.weighed, whole.correction)).collect();
    let ways = Way::built_in().into_iter().chain(list.value.ways.iter().cloned());
    let ways = ways.map(|way| (way.key.clone(), counted_by(&mine, &snapshot.kits, &way))).collect();
    let lacking: Vec<Vec<Job>> = (0..snapshot.walkers.len()).map(|at| lacks(&snapshot.things, at)).collect();
    let trip = work_out(&snapshot, &list.value, caller, &beside, &lacking);
    let loaded_of = |walker: usize| {
        let all = snapshot.things.iter().enumerate().filter(move |(_, thing)| thing.carrier.walker() == walker);
        loaded(all, &snapshot.kits, Load::beside(snapshot.of(walker), list.value.trip.as_ref()))
    };
    let walkers = snapshot.walkers.iter().zip(lacking).enumerate().map(|(at, (walker, lacks))| {
        let (totals, _) = added_up(snapshot.of(at).map(|thing| &thing.line), &snapshot.kits);
        WalkerSheet { walker: walker.clone(), totals, lacks, loaded: loaded_of(at) }
    });
    let walkers = walkers.collect();
    let is_mine = |thing: &Thing| thing.carrier.walker() == snapshot.me;
    let pieces =
        snapshot.lines.iter().zip(&snapshot.things).filter(|(_, thing)| is_mine(thing)).map(|(line, thing)| Pieces {
            weight: line.line.value.gear.value.weight.as_ref(),
            count: thing.line.counts.carried,
        });
    Sheet {
        heavy_few: heavy_few(&mine, settings.heavy_four, settings.small_parts),
        class: class(totals.base, &settings.class_mg.map(Mass::from_mg)),
        role,
        owner,
        me: snapshot.me,
        settings,
        totals,
        trust: trust(pieces, &snapshot.makers),
        kits,
        ways,
        loaded: loaded_of(snapshot.me),
        trip,
        walkers,
        split,
        links,
        lines: snapshot.lines,
        things: snapshot.things,
        list,
    }
}

/// What stands beside a list.
fn beside(
    c: &mut MysqlConnection,
    caller: Caller,
    to: ToList,
    snapshot: &ListSnapshot,
) -> Result<Beside, ServiceError> {
    let owned = snapshot.at_home(c, caller)?;
    Ok(Beside { owned, wished: candidates::of_list(c, caller.access, to.list())? })
}
