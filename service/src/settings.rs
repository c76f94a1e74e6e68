//! What an account has settled once for all: as it is typed, and what is refused.

use super::fields::Patch;
use super::together::in_body_mg;
use super::write::Write;
use super::{InField, ServiceError};
use chrono::Utc;
use kevyt_core::limits;
use kevyt_core::quantity::{Mass, Money, Quantity};
use kevyt_store::account::{Preferences, Settings, YearBudget};
use kevyt_store::accounts;
use kevyt_store::event::Event;

/// Settings as they are typed.
#[derive(Debug, Clone, Default)]
pub struct TypedSettings {
    /// What the walker weighs.
    pub body: Patch<String>,
    /// The classes of base weight.
    pub classes: Option<[String; 3]>,
    /// The money for the year.
    pub year_budget: Patch<String>,
}

impl TypedSettings {
    pub(super) fn over(&self, mut settings: Settings, preferences: Preferences) -> Result<Settings, ServiceError> {
        let mass = |field: &str, typed: &str| Mass::parse(typed, preferences.mass.total_unit()).in_field(field);
        match &self.body {
            Patch::Keep => {}
            Patch::Clear => settings.body_mg = None,
            Patch::Set(typed) => settings.body_mg = Some(mass("body", typed)?.mg()),
        }
        for (at, typed) in self.classes.iter().flatten().enumerate() {
            settings.class_mg[at] = mass(&format!("classes[{at}]"), typed)?.mg();
        }
        match &self.year_budget {
            Patch::Keep => {}
            Patch::Clear => settings.year_budget = None,
            Patch::Set(typed) => {
                let minor = Money::parse(typed, preferences.currency).in_field("year_budget")?.minor();
                // Said otherwise it goes on; cleared and said anew it begins anew.
                let said_at = settings.year_budget.map_or_else(|| Utc::now().timestamp(), |budget| budget.said_at);
                settings.year_budget = Some(YearBudget { minor, said_at });
            }
        }
        Ok(settings)
    }
}

impl Write<'_> {
    /// Changes units and settings. Money is kept as it was typed, in minor units, so the new currency must have as many decimals.
    pub fn set_preferences(
        &mut self,
        version: i32,
        preferences: Preferences,
        settings: Option<Settings>,
        typed: &TypedSettings,
    ) -> Result<(), ServiceError> {
        let caller = self.caller;
        let (old, new) = (caller.preferences.currency, preferences.currency);
        if old.decimals() != new.decimals() {
            let detail = format!(
                "{} has {} decimals and {} has {}: prices kept so far would change their value. Choose a currency with {} decimals.",
                old.code(),
                old.decimals(),
                new.code(),
                new.decimals(),
                old.decimals()
            );
            return Err(ServiceError::invalid("currency", "other_decimals", detail));
        }
        let settings = typed.over(settings.unwrap_or(caller.settings), preferences)?;
        check_settings(&settings)?;
        self.touch([caller.access.account()])?;
        self.log(Event::SettingsChanged {});
        Ok(accounts::set_preferences(self.c, caller.access, version, preferences, settings)?)
    }
}

/// Refuses settings outside what people are.
pub(super) fn check_settings(settings: &Settings) -> Result<(), ServiceError> {
    let refuse = |field: &str, detail: &str| Err(ServiceError::invalid(field, "out_of_range", detail));
    if !(-150..=150).contains(&settings.sleeper_offset_tenth_c) {
        let (field, detail) =
            ("settings.sleeper_offset_tenth_c", "A sleeper is at most 15 °C colder or warmer than ratings say.");
        return Err(ServiceError::outside(field, Quantity::Warmth, (-150, 150), detail));
    }
    if let Some(body) = settings.body_mg {
        in_body_mg("settings.body_mg", Mass::from_mg(body))?;
    }
    if settings.body_percent.is_some_and(|percent| !(5..=60).contains(&percent)) {
        return refuse("settings.body_percent", "A load is told above a share of body weight from 5 to 60 %.");
    }
    let most = limits::MONEY_MINOR;
    if settings.year_budget.is_some_and(|budget| !(0..=most).contains(&budget.minor)) {
        return refuse("settings.year_budget", "A year's budget is an amount of money from 0 on.");
    }
    if settings.worth_falls_percent.iter().any(|(_, percent)| percent > 100) {
        return refuse("settings.worth_falls_percent", "A worth falls by 0 to 100 % of itself in a year.");
    }
    let [first, second, third] = settings.class_mg;
    if first <= 0 || second <= first || third <= second || third > limits::MASS_MG {
        return refuse("settings.class_mg", "The classes of base weight are three masses, each above the one before.");
    }
    Ok(())
}
