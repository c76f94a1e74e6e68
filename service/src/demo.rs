//! The demo: accounts with made-up data, restored from the files that the application itself writes.

use super::backup::{AccountFile, Import};
use super::write::Write;
use super::{Caller, ServiceError, Services};
use chrono::Utc;
use kevyt_core::quantity::Currency;
use kevyt_store::StoreError;
use kevyt_store::account::{MassSystem, Preferences, Settings, Token, YearBudget};
use kevyt_store::accounts::{self, Account};
use kevyt_store::id::SessionId;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A demo account.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Demo {
    /// A week along a fell range, in kilograms and euro.
    #[default]
    Fell,
    /// Hammock and tarp around a mesa, in pounds, ounces and dollars.
    Mesa,
}

impl Demo {
    const ALL: [Demo; 2] = [Demo::Fell, Demo::Mesa];

    /// The name of its account.
    pub fn account_name(self) -> &'static str {
        match self {
            Demo::Fell => "demo",
            Demo::Mesa => "demo-mesa",
        }
    }

    /// Whether an account of this name is one.
    pub fn is_account(name: &str) -> bool {
        Demo::ALL.iter().any(|demo| demo.account_name() == name)
    }

    fn data(self) -> &'static str {
        match self {
            Demo::Fell => include_str!("../../demo/fell-week.json"),
            Demo::Mesa => include_str!("../../demo/mesa-loop.json"),
        }
    }

    fn settings(self) -> Settings {
        let (minor, said_at) = (90_000, Utc::now().timestamp());
        let for_a_year = Settings { year_budget: Some(YearBudget { minor, said_at }), ..Settings::default() };
        match self {
            Demo::Fell => Settings { sleeper_offset_tenth_c: 50, body_mg: Some(68_000_000), ..for_a_year },
            Demo::Mesa => for_a_year,
        }
    }

    fn mass(self) -> MassSystem {
        match self {
            Demo::Fell => MassSystem::Metric,
            Demo::Mesa => MassSystem::PoundsAndOunces,
        }
    }
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
        let file: AccountFile = serde_json::from_str(demo.data()).map_err(|error| internal(&error))?;
        let currency = Currency::from_code(&file.currency).ok_or_else(|| internal(&file.currency))?;
        let preferences = Preferences { mass: demo.mass(), currency };
        // Nobody knows this password: the demo is entered with one click.
        let password = Token::new().map_err(|error| internal(&error))?;
        let (name, settings) = (demo.account_name().to_owned(), demo.settings());
        let account =
            Account { name, password_hash: self.hash(password.as_str())?, preferences, settings, is_disabled: false };
        self.transaction(|c| {
            let access = accounts::insert(c, &account)?;
            // What was there from the beginning is no change: none is written.
            let caller = Caller { access, session: SessionId::fresh(), preferences, settings, request: None };
            Import::default().run(&mut Write::new(c, caller), &file)?;
            Ok(())
        })
    }
}
