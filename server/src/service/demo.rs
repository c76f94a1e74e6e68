//! The demo: an account with made-up data, laid through the same doors that people use.

use super::gear::{GearChange, Patch};
use super::lists::ListChange;
use super::swaps::{AdditionDraft, SwapDraft};
use super::{Caller, ServiceError, Services};
use crate::account::{MassSystem, Preferences, Token};
use crate::store::accounts::{self, Account};
use crate::store::id::{AccountId, GearId, LineId, SwapId};
use crate::store::lists::Counts;
use crate::store::{StoreError, lists};
use kevyt_core::gear::{Jobs, System, WeightSource};
use kevyt_core::list::Place;
use kevyt_core::quantity::Currency;
use kevyt_core::swap::{SwapKind, SwapState};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use utoipa::ToSchema;

/// A demo account.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Demo {
    /// A week along a fell range, in kilograms and euro.
    #[default]
    Fell,
    /// Hammock and tarp along a rim, in pounds, ounces and dollars.
    Rim,
}

impl Demo {
    const ALL: [Demo; 2] = [Demo::Fell, Demo::Rim];

    /// The name of its account.
    pub fn account_name(self) -> &'static str {
        match self {
            Demo::Fell => "demo",
            Demo::Rim => "demo-rim",
        }
    }

    fn data(self) -> &'static str {
        match self {
            Demo::Fell => include_str!("../../../demo/fell-week.json"),
            Demo::Rim => include_str!("../../../demo/rim-trail.json"),
        }
    }
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoFile {
    account: DemoAccount,
    gear: Vec<DemoGear>,
    lists: Vec<DemoList>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoAccount {
    mass: MassSystem,
    currency: String,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoGear {
    key: String,
    name: String,
    system: System,
    count: u32,
    weight: Option<String>,
    source: Option<WeightSource>,
    paid: Option<String>,
    resale: Option<String>,
    #[serde(default)]
    provides: Jobs,
    #[serde(default)]
    needs: Jobs,
    on_list: Option<DemoCounts>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoCounts {
    #[serde(default)]
    carried: u32,
    #[serde(default)]
    worn: u32,
    #[serde(default)]
    used_up: u32,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoList {
    name: String,
    note: String,
    target: String,
    budget: String,
    requires: Jobs,
    swaps: Vec<DemoSwap>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoSwap {
    key: Option<String>,
    name: Option<String>,
    kind: SwapKind,
    #[serde(default)]
    state: SwapState,
    remove: Vec<DemoRemoval>,
    add: Vec<DemoAddition>,
    #[serde(default)]
    delivery: String,
    #[serde(default)]
    resale: String,
    #[serde(default)]
    hours: String,
    #[serde(default)]
    requires: Vec<String>,
    #[serde(default)]
    excludes: Vec<String>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoRemoval {
    gear: String,
    qty: u32,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoAddition {
    name: String,
    qty: u32,
    #[serde(default)]
    weight: String,
    source: Option<WeightSource>,
    price: String,
    #[serde(default)]
    provides: Jobs,
    #[serde(default)]
    needs: Jobs,
}

impl Services {
    /// Lays the demo accounts, those that are not there.
    pub fn seed_demo(&self) -> Result<(), ServiceError> {
        Demo::ALL.into_iter().try_for_each(|demo| self.seed_one(demo))
    }

    fn seed_one(&self, demo: Demo) -> Result<(), ServiceError> {
        match accounts::by_name(&mut *self.connection()?, demo.account_name()) {
            Ok(_) => return Ok(()),
            Err(StoreError::NotFound) => {}
            Err(error) => return Err(error.into()),
        }
        let internal = |error: &dyn std::fmt::Display| ServiceError::Internal(format!("demo data: {error}"));
        let file: DemoFile = serde_json::from_str(demo.data()).map_err(|error| internal(&error))?;
        let currency = Currency::from_code(&file.account.currency).ok_or_else(|| internal(&file.account.currency))?;
        let preferences = Preferences { mass: file.account.mass, currency };
        // Nobody knows this password: the demo is entered with one click.
        let password = Token::new().map_err(|error| internal(&error))?;
        let name = demo.account_name().to_owned();
        let account = Account { name, password_hash: self.hash(password.as_str())?, preferences };
        let id = AccountId::fresh();
        accounts::insert(&mut *self.connection()?, id, &account)?;
        self.lay(Caller { account: id, preferences }, &file.gear, &file.lists)
    }

    fn lay(&self, caller: Caller, gear: &[DemoGear], lists: &[DemoList]) -> Result<(), ServiceError> {
        let mut ids: HashMap<&str, GearId> = HashMap::new();
        let typed = |text: &Option<String>| text.clone().map_or(Patch::Keep, Patch::Set);
        for thing in gear {
            let change = GearChange {
                name: None,
                system: Some(thing.system),
                count: Some(thing.count),
                weight: typed(&thing.weight),
                source: thing.source,
                paid: typed(&thing.paid),
                resale: typed(&thing.resale),
                provides: Some(thing.provides.clone()),
                needs: Some(thing.needs.clone()),
            };
            ids.insert(&thing.key, self.add_gear(caller, &thing.name, &change)?.id);
        }
        for list in lists {
            let change = ListChange {
                note: Some(list.note.clone()),
                target: Patch::Set(list.target.clone()),
                budget: Patch::Set(list.budget.clone()),
                requires: Some(list.requires.clone()),
                ..ListChange::default()
            };
            let list_id = self.add_list(caller, &list.name, &change)?.id;
            for thing in gear {
                if let (Some(on), Some(&id)) = (&thing.on_list, ids.get(thing.key.as_str())) {
                    let counts = Counts { carried: on.carried, worn: on.worn, used_up: on.used_up };
                    self.put_line(caller, list_id, id, counts, None)?;
                }
            }
            let mut c = self.connection()?;
            let lines: HashMap<GearId, LineId> = lists::lines(&mut c, caller.account, list_id)?
                .iter()
                .map(|line| (line.value.gear.id, line.id))
                .collect();
            drop(c);
            let line_of = |key: &str| ids.get(key).and_then(|id| lines.get(id)).copied();
            let mut swap_ids: HashMap<&str, SwapId> = HashMap::new();
            for swap in &list.swaps {
                let draft = draft_of(swap, line_of, &swap_ids).ok_or_else(|| {
                    ServiceError::Internal(format!("demo data: a swap names what is not there: {:?}", swap.name))
                })?;
                let made = self.add_swap(caller, list_id, &draft)?;
                swap_ids.extend(swap.key.as_deref().map(|key| (key, made.swap.id)));
            }
        }
        Ok(())
    }
}

fn draft_of(
    swap: &DemoSwap,
    line_of: impl Fn(&str) -> Option<LineId>,
    swaps: &HashMap<&str, SwapId>,
) -> Option<SwapDraft> {
    let linked = |keys: &[String]| keys.iter().map(|key| swaps.get(key.as_str()).copied()).collect::<Option<Vec<_>>>();
    let remove = swap.remove.iter().map(|removal| Some((line_of(&removal.gear)?, removal.qty, Place::Carried)));
    let add = swap.add.iter().map(|addition| AdditionDraft {
        candidate: None,
        name: addition.name.clone(),
        weight: addition.weight.clone(),
        source: addition.source,
        price: addition.price.clone(),
        provides: addition.provides.clone(),
        needs: addition.needs.clone(),
        qty: addition.qty,
        place: Place::Carried,
    });
    Some(SwapDraft {
        name: swap.name.clone(),
        kind: swap.kind,
        state: swap.state,
        remove: remove.collect::<Option<_>>()?,
        add: add.collect(),
        delivery: swap.delivery.clone(),
        resale: swap.resale.clone(),
        hours: swap.hours.clone(),
        requires: linked(&swap.requires)?,
        excludes: linked(&swap.excludes)?,
    })
}
