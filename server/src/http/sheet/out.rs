//! A list as people look at it, on the wire.

use super::trip::TripOut;
use crate::http::Caller;
use crate::http::lists::ListOut;
use crate::http::wire::{LoadedOut, WeightOut};
use chrono::{DateTime, Utc};
use kevyt_core::list::{Carrier, Counts, Thing, Totals, is_heavy};
use kevyt_core::quantity::Mass;
use kevyt_service::fields::JobAmounts;
use kevyt_service::sheet::{Sheet, SheetLine};
use kevyt_service::stored::{AccountId, GearId, LineId, Link, LinkId, Role, WalkerId};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A list as people look at it. Things are named by their position in `lines`, walkers by theirs in `walkers`.
#[derive(Serialize, ToSchema)]
#[schema(as = Sheet)]
pub struct SheetOut {
    list: ListOut,
    role: Role,
    /// Whose it is, by the name that others see; empty for a reader of a list with one walker.
    owner: String,
    lines: Vec<SheetLineOut>,
    /// The caller's place among the walkers.
    me: usize,
    /// What the caller carries and wears.
    totals: TotalsOut,
    /// How far the base may be off.
    doubt: DoubtOut,
    /// Kits that count in the totals as they were weighed.
    kits: Vec<KitInOut>,
    /// The same by every way of counting.
    ways: Vec<WayOut>,
    /// What the heavy few weigh.
    heavy_few_mg: i64,
    /// The class of the base weight: how many of the account's thresholds it is not under.
    class: usize,
    /// The caller's pack as it is loaded at the start.
    loaded: LoadedOut,
    /// Null until somebody says what the trip is.
    trip: Option<TripOut>,
    walkers: Vec<WalkerOut>,
    /// The most even split of what is shared; null with fewer than two walkers.
    split: Option<SplitOut>,
    /// Links that open it; the owner's to see.
    links: Vec<LinkOut>,
}

/// A line.
#[derive(Serialize, ToSchema)]
#[schema(as = SheetLine)]
pub struct SheetLineOut {
    id: LineId,
    version: i32,
    gear: GearId,
    name: String,
    /// The key of its system.
    system: String,
    /// What one piece weighs; null if unknown.
    weight: Option<WeightOut>,
    /// The lightest that a piece may be.
    low_mg: Option<i64>,
    /// The heaviest.
    high_mg: Option<i64>,
    /// Pieces owned.
    count: u32,
    carried: u32,
    worn: u32,
    used_up: u32,
    apart: u32,
    left: u32,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    tags: Vec<String>,
    provides: JobAmounts,
    /// Whether it is one of the heavy few.
    heavy: bool,
    /// Whether it is the caller's own gear.
    mine: bool,
    /// Whether it serves all walkers.
    shared: bool,
    /// The place among the walkers of who carries it.
    walker: usize,
    /// What one piece cost, in minor units, where that may be seen.
    #[serde(skip_serializing_if = "Option::is_none")]
    paid_minor: Option<i64>,
}

/// The sums of a list.
#[derive(Serialize, ToSchema)]
#[schema(as = Totals)]
pub struct TotalsOut {
    base_mg: i64,
    pack_mg: i64,
    everything_mg: i64,
    apart_mg: i64,
    /// Things with an unknown weight: while there are some, every sum is "at least".
    unknown: usize,
}

/// How far the base may lie below and above its figure.
#[derive(Serialize, ToSchema)]
#[schema(as = BaseDoubt)]
pub struct DoubtOut {
    likely_below_mg: i64,
    likely_above_mg: i64,
    worst_below_mg: i64,
    worst_above_mg: i64,
}

/// A kit that counts as it was weighed.
#[derive(Serialize, ToSchema)]
#[schema(as = KitInSums)]
pub struct KitInOut {
    name: String,
    weighed_mg: i64,
    correction_mg: i64,
}

/// The sums by one way of counting.
#[derive(Serialize, ToSchema)]
#[schema(as = CountedBy)]
pub struct WayOut {
    /// Its key: one built in, or the name of an own one.
    way: String,
    #[serde(flatten)]
    totals: TotalsOut,
}

/// A walker.
#[derive(Serialize, ToSchema)]
#[schema(as = Walker)]
pub struct WalkerOut {
    id: WalkerId,
    version: i32,
    name: String,
    body_mg: Option<i64>,
    /// Whether an account stands behind it.
    joined: bool,
    shows_prices: bool,
    /// What the walker carries and wears.
    #[serde(flatten)]
    totals: TotalsOut,
    /// Jobs that the walker would lack alone.
    lacks: Vec<String>,
    /// Their pack as it is loaded at the start.
    loaded: LoadedOut,
}

/// The most even split.
#[derive(Serialize, ToSchema)]
#[schema(as = Split)]
pub struct SplitOut {
    /// Line, and the place of the walker who would carry it.
    moves: Vec<MoveOut>,
    /// The load of the walker with the largest share.
    load_mg: i64,
    /// What that walker weighs; null where loads themselves are compared.
    body_mg: Option<i64>,
    /// Whether it is proved that none is more even.
    proved: bool,
}

/// Who would carry a line.
#[derive(Serialize, ToSchema)]
#[schema(as = SplitMove)]
pub struct MoveOut {
    line: usize,
    walker: usize,
}

/// A link.
#[derive(Serialize, Deserialize, ToSchema)]
#[schema(as = Link)]
pub struct LinkOut {
    pub(in crate::http) id: LinkId,
    /// The seat that it gives; null if it is to read only.
    walker: Option<WalkerId>,
    shows_prices: bool,
    /// Until when it opens (UTC); null until it is revoked.
    #[schema(value_type = Option<String>)]
    expires_at: Option<DateTime<Utc>>,
    #[schema(value_type = String)]
    made_at: DateTime<Utc>,
}

impl SheetOut {
    /// Of a sheet, for the caller; for nobody in particular where a link opened it.
    pub fn new(sheet: Sheet, caller: Option<Caller>) -> SheetOut {
        let list = match sheet.role {
            Role::Owner => ListOut::from(sheet.list),
            Role::Partner | Role::Reader => ListOut::joined(sheet.list),
        };
        let mine = caller.map(|caller| caller.access.account());
        let band = |band: kevyt_core::gear::Band| (-band.low.mg(), band.high.mg());
        let (likely, worst) = (band(sheet.trust.likely), band(sheet.trust.worst));
        let settings = sheet.settings;
        let line = |(line, thing): (SheetLine, &Thing)| SheetLineOut {
            heavy: is_heavy(thing, settings.heavy_four, settings.small_parts),
            ..line_out(line, thing, mine)
        };
        SheetOut {
            list,
            role: sheet.role,
            owner: sheet.owner,
            lines: sheet.lines.into_iter().zip(&sheet.things).map(line).collect(),
            me: sheet.me,
            totals: (&sheet.totals).into(),
            doubt: DoubtOut {
                likely_below_mg: likely.0,
                likely_above_mg: likely.1,
                worst_below_mg: worst.0,
                worst_above_mg: worst.1,
            },
            kits: sheet
                .kits
                .into_iter()
                .map(|(name, weighed, less)| KitInOut { name, weighed_mg: weighed.mg(), correction_mg: less.mg() })
                .collect(),
            ways: sheet.ways.iter().map(|(way, totals)| WayOut { way: way.clone(), totals: totals.into() }).collect(),
            heavy_few_mg: sheet.heavy_few.mg(),
            class: sheet.class,
            loaded: sheet.loaded.into(),
            trip: sheet.trip.map(TripOut::from),
            walkers: sheet
                .walkers
                .into_iter()
                .map(|walker| WalkerOut {
                    id: walker.walker.id,
                    version: walker.walker.version,
                    name: walker.walker.value.name,
                    body_mg: walker.walker.value.body.map(Mass::mg),
                    joined: walker.walker.value.account.is_some(),
                    shows_prices: walker.walker.value.shows_prices,
                    totals: (&walker.totals).into(),
                    loaded: walker.loaded.into(),
                    lacks: walker.lacks.iter().map(|job| job.as_str().to_owned()).collect(),
                })
                .collect(),
            split: sheet.split.map(|(shared, split)| SplitOut {
                moves: shared.into_iter().zip(split.carriers).map(|(line, walker)| MoveOut { line, walker }).collect(),
                load_mg: split.load,
                body_mg: split.by_body.then_some(split.body),
                proved: split.is_proved,
            }),
            links: sheet.links.into_iter().map(LinkOut::from).collect(),
        }
    }
}

fn line_out(line: SheetLine, thing: &Thing, mine: Option<AccountId>) -> SheetLineOut {
    let SheetLine { owner, line, shows_price } = line;
    let gear = line.value.gear.value;
    let Counts { carried, worn, used_up, apart, left } = line.value.counts;
    let known = thing.line.weight;
    SheetLineOut {
        id: line.id,
        version: line.version,
        gear: line.value.gear.id,
        name: gear.name.as_str().to_owned(),
        system: gear.system.key().to_owned(),
        weight: gear.weight.as_ref().map(WeightOut::from),
        low_mg: known.map(|known| known.low().mg()),
        high_mg: known.map(|known| known.high().mg()),
        count: gear.count,
        carried,
        worn,
        used_up,
        apart,
        left,
        tags: gear.tags.words().to_vec(),
        provides: JobAmounts::from(&gear.provides),
        heavy: false,
        mine: mine == Some(owner),
        shared: matches!(thing.carrier, Carrier::Shared(_)),
        walker: thing.carrier.walker(),
        paid_minor: gear.paid.filter(|_| shows_price).map(|paid| paid.expected().minor()),
    }
}

impl From<&Totals> for TotalsOut {
    fn from(totals: &Totals) -> TotalsOut {
        TotalsOut {
            base_mg: totals.base.mg(),
            pack_mg: totals.pack.mg(),
            everything_mg: totals.everything.mg(),
            apart_mg: totals.apart.mg(),
            unknown: totals.unknown,
        }
    }
}

impl From<(LinkId, Link)> for LinkOut {
    fn from((id, link): (LinkId, Link)) -> LinkOut {
        LinkOut {
            id,
            walker: link.walker,
            shows_prices: link.shows_prices,
            expires_at: link.expires_at.map(|at| at.and_utc()),
            made_at: link.made_at.and_utc(),
        }
    }
}
