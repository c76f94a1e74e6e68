//! How the plan of a list is asked for, as typed.

use super::fields::{Patch, amount, tenths};
use super::list_change::{ListChange, PurseChange, SellingChange};
use super::{InField, ServiceError};
use kevyt_core::limits;
use kevyt_core::plan::{Meet, Purse, Terms};
use kevyt_core::quantity::{Currency, Money};
use kevyt_store::event::ListField;
use std::collections::BTreeSet;

impl ListChange {
    /// What is changed of how its plan is asked for.
    pub(super) fn terms_fields(&self) -> [(ListField, bool); 6] {
        [
            (ListField::Counting, self.counting.is_some()),
            (ListField::RankBy, self.rank_by.is_some()),
            (ListField::TargetOf, self.target_of.is_some()),
            (ListField::Purse, self.purse != Patch::Keep),
            (ListField::Meet, self.meet.is_some()),
            (ListField::Selling, self.selling.as_ref().is_some_and(|selling| *selling != SellingChange::default())),
        ]
    }

    /// Changes terms of a list for which so much has been spent.
    pub(super) fn apply_terms(&self, terms: &mut Terms, currency: Currency, spent: Money) -> Result<(), ServiceError> {
        terms.counting = self.counting.unwrap_or(terms.counting);
        terms.rank_by = self.rank_by.unwrap_or(terms.rank_by);
        terms.target_of = self.target_of.unwrap_or(terms.target_of);
        match &self.purse {
            Patch::Keep => {}
            Patch::Clear => terms.purse = None,
            Patch::Set(change) => terms.purse = Some(change.of(terms.purse, currency, spent)?),
        }
        if let Some(keys) = &self.meet {
            terms.meet = keys.iter().map(|key| meet(key)).collect::<Result<BTreeSet<_>, _>>()?.into_iter().collect();
            if terms.meet.len() > limits::JOBS {
                let detail =
                    format!("{} are too many to meet at once. Name at most {}.", terms.meet.len(), limits::JOBS);
                return Err(ServiceError::invalid("meet", "too_many", detail));
            }
        }
        let selling = self.selling.as_ref();
        if let Some(typed) = selling.and_then(|selling| selling.fee.as_ref()) {
            terms.selling.fee_tenths = fee_tenths(typed)?;
        }
        if let Some(typed) = selling.and_then(|selling| selling.postage.as_ref()) {
            terms.selling.postage = amount("selling.postage", typed, currency)?;
        }
        Ok(())
    }
}

fn meet(key: &str) -> Result<Meet, ServiceError> {
    Meet::new(key).ok_or_else(|| {
        let detail = format!("\"{key}\" can't be met. Name warmth, ground, or the key of a job.");
        ServiceError::invalid("meet", "unknown", detail)
    })
}

impl PurseChange {
    fn of(&self, purse: Option<Purse>, currency: Currency, spent: Money) -> Result<Purse, ServiceError> {
        let mut purse =
            purse.unwrap_or(Purse { now: Money::ZERO, month: Money::ZERO, resale_after: 0, spent_then: Some(spent) });
        if let Some(typed) = &self.now {
            purse.now = Money::parse(typed, currency).in_field("purse.now")?;
            purse.spent_then = Some(spent);
        }
        if let Some(typed) = &self.month {
            purse.month = Money::parse(typed, currency).in_field("purse.month")?;
        }
        purse.resale_after = self.resale_after_months.unwrap_or(purse.resale_after);
        if purse.resale_after > limits::MONTHS {
            let (typed, most) = (purse.resale_after, limits::MONTHS);
            let detail = format!("{typed} months can't be taken. Type a number from 0 to {most}.");
            return Err(ServiceError::invalid("purse.resale_after_months", "out_of_range", detail));
        }
        Ok(purse)
    }
}

/// A seller's fee in per cent, in tenths of one.
fn fee_tenths(typed: &str) -> Result<u32, ServiceError> {
    let bare = typed.trim().trim_end_matches('%').trim_end();
    let refuse = || {
        let detail = format!(
            "\"{typed}\" is not read as a fee. Type per cent with at most one decimal, such as 10 or 8.5 %, up to {}.",
            limits::FEE_TENTHS / 10
        );
        ServiceError::invalid("selling.fee", "not_a_number", detail)
    };
    if bare.is_empty() {
        return Ok(0);
    }
    tenths(bare).filter(|tenths| *tenths <= limits::FEE_TENTHS).ok_or_else(refuse)
}
