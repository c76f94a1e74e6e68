//! How the plan of a list is asked for, as typed.

use super::fields::{Patch, amount, tenths};
use super::{InField, ServiceError};
use kevyt_core::gear::Counting;
use kevyt_core::limits;
use kevyt_core::plan::{Meet, Purse, TargetOf, Terms};
use kevyt_core::quantity::{Currency, Money};
use kevyt_core::swap::RankBy;
use kevyt_store::event::ListField;
use std::collections::BTreeSet;

/// A change of how a plan is asked for, as typed. What is left out of a part of it stays.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct TermsChange {
    /// Which figure of each weight the plan counts on.
    pub counting: Option<Counting>,
    /// Which saving ranks.
    pub rank_by: Option<RankBy>,
    /// What the target is of.
    pub target_of: Option<TargetOf>,
    /// Money as it comes in.
    pub purse: Patch<PurseChange>,
    /// What selling takes.
    pub selling: SellingChange,
    /// What the plan must leave nothing short of: `warmth`, `ground`, keys of jobs.
    pub meet: Option<Vec<String>>,
}

/// A change of the money that comes in.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct PurseChange {
    /// There already.
    pub now: Option<String>,
    /// More each month.
    pub month: Option<String>,
    /// After how many months a resale is paid.
    pub resale_after: Option<u32>,
}

/// A change of what selling takes.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct SellingChange {
    /// The fee in per cent.
    pub fee: Option<String>,
    /// Postage.
    pub postage: Option<String>,
}

impl TermsChange {
    /// What of it is changed.
    pub(super) fn fields(&self) -> [(ListField, bool); 6] {
        [
            (ListField::Counting, self.counting.is_some()),
            (ListField::RankBy, self.rank_by.is_some()),
            (ListField::TargetOf, self.target_of.is_some()),
            (ListField::Purse, self.purse != Patch::Keep),
            (ListField::Meet, self.meet.is_some()),
            (ListField::Selling, self.selling != SellingChange::default()),
        ]
    }

    /// Changes terms of a list for which so much has been spent.
    pub(super) fn apply(&self, terms: &mut Terms, currency: Currency, spent: Money) -> Result<(), ServiceError> {
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
        if let Some(typed) = &self.selling.fee {
            terms.selling.fee_tenths = fee_tenths(typed)?;
        }
        if let Some(typed) = &self.selling.postage {
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
        purse.resale_after = self.resale_after.unwrap_or(purse.resale_after);
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
